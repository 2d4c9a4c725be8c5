// Everything by keyboard: one table that the page lists and follows.

export function keyTable(page) {
  const cursor = (right, down) => () => page.moveCursor(right, down);
  const tool = (name) => () => page.chooseTool(name);
  return [
    { keys: ["ArrowLeft"], shown: "arrows", says: "move the cursor", act: cursor(-1, 0) },
    { keys: ["ArrowRight"], act: cursor(1, 0) },
    { keys: ["ArrowUp"], act: cursor(0, -1) },
    { keys: ["ArrowDown"], act: cursor(0, 1) },
    { keys: ["Enter", " "], shown: "Enter", says: "use the tool at the cursor; put down what is carried", act: () => page.useTool() },
    { keys: ["Escape"], shown: "Esc", says: "carried things go back home", act: () => page.dropCarried() },
    { keys: ["s"], says: "start here", act: () => page.setEnd("start", page.cursor) },
    { keys: ["g"], says: "goal here", act: () => page.setEnd("goal", page.cursor) },
    { keys: ["m"], says: "carry the unit or threat at the cursor", act: () => page.carry() },
    { keys: ["q"], says: "turn it to the left", act: () => page.turn(-1) },
    { keys: ["e"], says: "turn it to the right", act: () => page.turn(1) },
    { keys: ["l"], says: "tool: look and drag", act: tool("look") },
    { keys: ["p"], says: "tool: paint terrain", act: tool("paint") },
    { keys: ["h"], says: "tool: heights", act: tool("height") },
    { keys: ["b"], says: "tool: barriers", act: tool("barrier") },
    { keys: ["x"], says: "next shape of the brush", act: () => page.nextShape() },
    { keys: ["[", "]"], says: "smaller, larger brush", act: (key) => page.changeRadius(key === "[" ? -1 : 1) },
    { keys: ["1", "2", "3", "4", "5", "6", "7", "8", "9"], shown: "1 to 9", says: "terrain",
      act: (key) => page.chooseTerrain(Number(key) - 1) },
    { keys: ["z"], shown: "z, Ctrl+z", says: "undo", act: () => page.undo() },
    { keys: ["y"], shown: "y, Ctrl+y", says: "redo", act: () => page.redo() },
    { keys: ["k"], says: "play or pause", act: () => page.clock.toggle() },
    { keys: [","], says: "one step back", act: () => page.clock.step(-1) },
    { keys: ["."], says: "one step on", act: () => page.clock.step(1) },
    { keys: ["+", "="], shown: "+", says: "nearer", act: () => page.view.zoom(1.25) },
    { keys: ["-"], says: "farther", act: () => page.view.zoom(0.8) },
    { keys: ["0"], says: "the whole map", act: () => page.wholeMap() },
    { keys: ["c"], says: "copy the command line", act: () => page.copyCommand() },
    { keys: ["?"], says: "these keys", act: () => page.toggleKeys() },
  ];
}

// Keys work wherever nothing is being typed; Enter and space elsewhere press what has the focus.
export function followKeys(table) {
  const acts = new Map(table.flatMap((entry) => entry.keys.map((key) => [key, entry])));
  document.addEventListener("keydown", (event) => {
    const at = event.target;
    const typing = at.matches?.("input:not([type=checkbox]):not([type=range]), textarea, select");
    const entry = acts.get(event.key.length === 1 ? event.key.toLowerCase() : event.key);
    if (!entry || typing || event.altKey || event.metaKey) return;
    if (event.ctrlKey && event.key !== "z" && event.key !== "y") return;
    if (event.key.startsWith("Arrow") && at.matches?.("input, [role=radio]")) return;
    if (["Enter", " "].includes(event.key) && !at.matches?.("body, canvas")) return;
    event.preventDefault();
    entry.act(event.key);
  });
}

export function listKeys(table, into) {
  into.replaceChildren();
  for (const { keys, shown, says } of table) {
    if (!says) continue;
    const row = into.appendChild(document.createElement("div"));
    row.append(Object.assign(document.createElement("kbd"), { textContent: shown ?? keys.join(" ") }),
               Object.assign(document.createElement("span"), { textContent: says }));
  }
}
