// The controls beside the map.
import { download } from "./ask.js";
import { makeMap } from "./making.js";
import { Scene } from "./scene.js";

export const part = (id) => document.getElementById(id);
export const made = (tag, properties) => Object.assign(document.createElement(tag), properties);

// What is selected, with its numbers to change.
export function showSelected(page) {
  const { selected } = page;
  const into = part("selected");
  into.hidden = !selected;
  into.replaceChildren();
  if (!selected) return;
  into.append(made("h2", { textContent: `Selected: ${selected.name}` }));
  const change = (edit) => page.edit([{ name: selected.name, ...edit }], `change ${selected.name}`);
  const number = (id, text, value, most, act) => {
    const label = into.appendChild(made("label", {}));
    const input = made("input", { id, type: "number", min: 0, max: most, value: value ?? "" });
    input.onchange = () => input.value !== "" && act(Number(input.value));
    label.append(made("span", { textContent: text }), input);
  };
  const row = made("div", { className: "row" });
  if (selected.cells) {
    row.append(made("button", { type: "button", id: "turn-unit", textContent: "Turn", onclick: () => page.turn(1) }));
  } else {
    number("facing", "faces, degrees", selected.facing, 359, (facing) => change({ do: "threat", facing }));
    number("arc", "arc, degrees", selected.arc, 360, (arc) => change({ do: "threat", arc }));
    number("range", "range, steps", selected.range / 100, 65535, (range) => change({ do: "threat", range: Math.round(range * 100) }));
    row.append(made("button", { type: "button", textContent: "Look all round", onclick: () => change({ do: "threat", facing: null }) }));
  }
  row.append(made("button", { type: "button", id: "remove", textContent: "Remove", onclick: () => change({ do: "remove" }) }));
  into.append(row);
}

export function showTools(page) {
  const { tool, shape, radius, terrain } = page.tools;
  const mark = (id, chosen) => [...part(id).children].forEach((button) => {
    button.setAttribute("aria-checked", String(button.dataset.name === chosen));
  });
  mark("tool", tool);
  mark("shape-row", shape);
  mark("terrains", terrain);
  const paints = tool === "paint" || tool === "height";
  part("shape-row").hidden = !paints;
  part("radius-row").hidden = !paints || shape !== "disk";
  part("radius").value = radius;
  part("height-row").hidden = tool !== "height";
  part("sides-row").hidden = tool !== "barrier";
  part("terrains").hidden = tool !== "paint";
}

// What of the controls depends on the map.
export function fillMap(page) {
  const { told } = page;
  part("title").textContent = told.title;
  showTools(page);
  page.showUndo();
  // What has the focus is kept while nothing of it changes.
  const names = JSON.stringify([told.movers, told.mover, told.kinds]);
  if (names === page.controlsAreFor) return;
  page.controlsAreFor = names;
  const mover = part("mover");
  mover.replaceChildren(...told.movers.map((name) => new Option(name, name, false, name === told.mover)));
  const kinds = told.kinds.map((kind, number) => {
    const button = made("button", { type: "button", title: `terrain ${number + 1}`, onclick: () => page.chooseTerrain(number) });
    button.dataset.name = kind.name;
    button.setAttribute("role", "radio");
    const swatch = made("span", { className: "swatch" });
    swatch.style.background = kind.color;
    button.append(swatch, kind.name);
    return button;
  });
  part("terrains").replaceChildren(...kinds);
  page.tools.terrain ??= told.kinds[0].name;
  showTools(page);
}

function radios(into, names, choose) {
  for (const name of names) {
    const button = into.appendChild(made("button", { type: "button", textContent: name, onclick: () => choose(name) }));
    button.dataset.name = name;
    button.setAttribute("role", "radio");
  }
}

// What every control does.
export function fillControls(page, { commands, maps }) {
  const choose = part("maps");
  choose.append(new Option("this map", ""), ...maps.map(({ name, title }) => new Option(title, name)));
  choose.onchange = () => choose.value && page.openDemo(choose.value).catch((error) => page.say(error.message, true));
  part("mover").onchange = () => page.refresh();
  part("undo").onclick = () => page.undo();
  part("redo").onclick = () => page.redo();
  part("open").onclick = () => part("file").click();
  part("file").onchange = async () => {
    const [file] = part("file").files;
    if (file) await page.setMap(await file.text(), file.name);
    part("file").value = "";
  };
  part("save").onclick = () => download(page.name.endsWith(".toml") ? page.name : "map.toml", page.text, "application/toml");
  radios(part("tool"), ["look", "paint", "height", "barrier"], (name) => page.chooseTool(name));
  radios(part("shape-row"), ["line", "block", "disk", "flood"], (name) => {
    page.tools.shape = name;
    showTools(page);
  });
  for (const id of ["radius", "height"]) part(id).onchange = () => (page.tools[id] = Number(part(id).value) || 0);
  part("sides").onchange = () => (page.tools.sides = part("sides").value);
  part("new-threat").onclick = () => {
    const names = new Set(page.told.threats.map(({ name }) => name));
    let number = 1;
    while (names.has(`threat ${number}`)) ++number;
    page.edit([{ do: "new-threat", name: `threat ${number}`, at: page.cursor }], ++page.tools.strokes);
  };
  const askable = commands.map(({ name }) => name).filter((name) => name !== "generate");
  part("command").append(...askable.map((name) => new Option(name, name)));
  part("command").onchange = () => page.chooseCommand(part("command").value);
  const searches = commands.find(({ name }) => name === "route").options.find(({ name }) => name === "--by").choices;
  radios(part("algorithms"), searches.filter((name) => name !== "prepared"), (name) => {
    page.forms.set("route", "--by", name === "automatic" ? "" : name);
    page.chooseCommand("route");
  });
  part("command").value = page.command;
  page.forms.show("route", part("form"));
  page.showAlgorithm();
  page.forms.show("generate", part("make-form"));
  part("make").onclick = () => makeMap(page);
  part("wary").oninput = () => page.setWary(Number(part("wary").value) / 100);
  part("tick").onchange = () => page.refresh();
  part("copy").onclick = () => page.copyCommand();
  part("png").onclick = () => page.keepPicture("png");
  part("svg").onclick = () => page.keepPicture("svg");
  part("whole").onclick = () => page.wholeMap();
  part("nearer").onclick = () => page.view.zoom(1.25);
  part("farther").onclick = () => page.view.zoom(0.8);
  for (const look of ["regions", "danger", "heights"]) part(`show-${look}`).onchange = () => page.showAnswer();
  part("show-diamond").onchange = () => {
    page.scene = new Scene(page.told, part("show-diamond").checked);
    page.wholeMap();
    page.showAnswer();
  };
}
