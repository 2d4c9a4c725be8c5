// Forms of the commands, made from the program's own table of options.

// What a question begins with. Words `start` and `goal` stand for the cells marked on the map.
const firstValues = {
  route: { "--from": "start", "--to": "goal" },
  compare: { "--from": "start", "--to": "goal", "--by": "astar,dijkstra", "--repeat": "1" },
  reach: { "--from": "start", "--budget": "8" },
  field: { "--to": "goal" },
  regions: { "--join": true, "--chokes": true },
  sight: { "--from": "start", "--range": "12" },
  threat: { "--at": "start" },
  fit: { "--size": "1", "--all": true },
  walk: { "--walker": "turn-to-goal", "--from": "start", "--to": "goal" },
  gather: { "--from": "start", "--to": "goal" },
  scatter: { "--footprint": "x", "--count": "12" },
  generate: { KIND: "rooms", "--size": "48x32", "--seed": "1" },
};

const ofTheMap = new Set(["--mover"]);  // chosen for the whole page

export class Forms {
  constructor(commands, changed) {
    this.commands = new Map(commands.map((command) => [command.name, command]));
    this.changed = changed;
    this.values = new Map(commands.map(({ name }) => [name, { ...firstValues[name] }]));
  }

  value(command, option) {
    return this.values.get(command)[option];
  }
  set(command, option, value) {
    const values = this.values.get(command);
    if (value === "" || value === false || value === undefined) delete values[option];
    else values[option] = value;
  }

  // The words of a question. @param ends  {start, goal} as cells
  words(command, ends, mover) {
    const place = (word) => (ends[word] ? ends[word].join(",") : word);
    const words = [command];
    for (const option of this.commands.get(command).options) {
      const value = this.value(command, option.name);
      if (option.name === "--mover" && mover) words.push("--mover", mover);
      if (ofTheMap.has(option.name) || value === undefined) continue;
      const dashed = option.name.startsWith("-");
      if (value === true) words.push(option.name);
      else for (const each of option.several ? value.trim().split(/\s+/) : [value.trim()]) {
        words.push(...(dashed ? [option.name] : []), option.takes === "c,r" ? place(each) : each);
      }
    }
    return words;
  }

  // Fills an element with a form, options by their headings; the first group is open.
  show(command, into) {
    into.replaceChildren();
    const groups = new Map();
    for (const option of this.commands.get(command).options) {
      if (ofTheMap.has(option.name)) continue;
      if (!groups.has(option.heading)) groups.set(option.heading, []);
      groups.get(option.heading).push(option);
    }
    let first = true;
    for (const [heading, options] of groups) {
      const group = into.appendChild(document.createElement("details"));
      group.open = first || options.some(({ name }) => this.value(command, name) !== undefined);
      first = false;
      group.append(Object.assign(document.createElement("summary"), { textContent: heading === "Options" ? "What" : heading }));
      for (const option of options) group.append(this.field(command, option));
    }
  }

  field(command, option) {
    const label = document.createElement("label");
    label.title = option.help;
    const name = Object.assign(document.createElement("span"), { textContent: option.name.replace(/^--?/, "") });
    const input = this.input(command, option);
    input.dataset.option = option.name;
    input.setAttribute("aria-description", option.help);
    input.addEventListener("change", () => {
      this.set(command, option.name, input.type === "checkbox" ? input.checked : input.value);
      this.changed();
    });
    label.append(name, input);
    return label;
  }
  input(command, option) {
    const value = this.value(command, option.name);
    if (option.takes === "") {
      return Object.assign(document.createElement("input"), { type: "checkbox", checked: value === true });
    }
    if (option.choices.length > 0) {
      const select = document.createElement("select");
      if (!option.required) select.append(new Option("", ""));
      for (const choice of option.choices) select.append(new Option(choice, choice));
      select.value = value ?? "";
      return select;
    }
    const placeholder = option.takes === "c,r" ? "start, goal or 12,3" : option.takes.toLowerCase();
    return Object.assign(document.createElement("input"), {
      type: "text", value: value ?? "", placeholder, autocomplete: "off", spellcheck: false,
    });
  }
}
