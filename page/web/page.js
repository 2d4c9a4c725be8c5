// The page: one map, one question, every answer at once. The map is a text that this tab holds; each edit and question
// takes it along, so that tabs can't mix.
import { ask, commandLine, download } from "./ask.js";
import { fillLegend, fillRuns, racersOf, shownOf } from "./answers.js";
import { fillControls, fillMap, made, part, showSelected, showTools } from "./controls.js";
import { Tools } from "./edits.js";
import { Forms } from "./forms.js";
import { sameCell } from "./layout.js";
import { followKeys, keyTable, listKeys } from "./keys.js";
import { Camera, MapView } from "./map_view.js";
import { drawFront } from "./plot.js";
import { Clock, clockControls, replayOf } from "./replay.js";
import { Scene, showCell, tellCell } from "./scene.js";

const mostUndo = 200;
const frontUpTo = 20_000;  // cells of a map whose whole front is found at each edit

class Page {
  constructor() {
    Object.assign(this, { text: "", name: "map.toml", past: [], future: [], scene: null, start: null, goal: null, selected: null });
    Object.assign(this, { command: "route", said: "", answer: null, front: null, chosen: -1, carried: null, picked: null });
    this.waiting = [];  // edits not yet sent, with their strokes and who waits for them
    this.busy = false;
    this.cursor = [0, 0];
    const camera = new Camera();
    const handlers = {
      hover: (cell, view) => this.hover(cell, view),
      press: (cell, _, place) => this.press(cell, place),
      moved: () => this.views.forEach((view) => view.draw()),
    };
    this.view = new MapView(part("map"), handlers, camera);
    this.second = new MapView(part("map2"), { ...handlers, press: null }, camera);
    this.views = [this.view, this.second];
    this.tools = new Tools(this);
    this.clock = new Clock(() => this.showTime());
    this.showControls = clockControls(this.clock, part("clock"));
  }

  async begin() {
    const told = await ask("start", {});
    this.forms = new Forms(told.commands, () => this.refresh());
    this.keys = keyTable(this);
    listKeys(this.keys, part("keys"));
    followKeys(this.keys);
    fillControls(this, told);
    if (told.scenario) this.setMap(told.scenario, told.name.split("/").at(-1));
    else await this.openDemo(told.maps[0].name);
  }

  // Maps.
  async openDemo(name) {
    const { scenario } = await ask("open", { name });
    await this.setMap(scenario, name);
  }
  async setMap(text, name) {
    const { text: old, name: oldName, start, goal, selected } = this;
    Object.assign(this, { text, name, start: null, goal: null, selected: null });
    [this.tools.terrain, this.controlsAreFor] = [null, ""];
    if (await this.refresh()) {
      if (old) this.remember(old);
      this.wholeMap();
      return true;
    }
    Object.assign(this, { text: old, name: oldName, start, goal, selected });
    return false;
  }
  remember(text) {
    this.past.push(text);
    if (this.past.length > mostUndo) this.past.shift();
    this.future = [];
    this.showUndo();
  }
  undo() {
    this.travel(this.past, this.future);
  }
  redo() {
    this.travel(this.future, this.past);
  }
  travel(from, to) {
    return this.edit([], 0, () => {
      if (from.length === 0) return;
      to.push(this.text);
      this.text = from.pop();
    });
  }
  // A stroke that turned out to be the first finger of two.
  takeBack(stroke) {
    return this.edit([], 0, () => {
      if (this.lastStroke !== stroke || this.past.length === 0) return;
      [this.text, this.lastStroke] = [this.past.pop(), null];
    });
  }
  showUndo() {
    part("undo").disabled = this.past.length === 0;
    part("redo").disabled = this.future.length === 0;
  }

  // Edits wait while one is under way, and then go together. @return whether they were made
  // @param before  changes the text when its turn comes
  edit(edits, stroke, before = null) {
    return new Promise((done) => {
      this.waiting.push({ edits, stroke, before, done });
      this.pump();
    });
  }
  refresh() {
    return this.edit([], 0);
  }
  async idle() {
    while (this.busy || this.waiting.length > 0) await new Promise((done) => setTimeout(done, 5));
  }
  async pump() {
    if (this.busy || this.waiting.length === 0) return;
    this.busy = true;
    // A unit that does not fit is refused with all that goes with it: it goes alone, and so does another text.
    const alone = this.waiting.findIndex((one) => one.before || one.edits.some((edit) => edit.do === "unit"));
    const batch = this.waiting.splice(0, alone < 0 ? this.waiting.length : Math.max(1, alone));
    batch[0].before?.();
    this.showUndo();
    const edits = batch.flatMap((one) => one.edits);
    const began = performance.now();
    let well = true;
    try {
      const reply = await ask("show", { ...this.question(), ...(edits.length > 0 ? { edits } : {}) });
      if (reply.scenario !== undefined && reply.scenario !== this.text) {
        const { stroke } = batch.findLast((one) => one.edits.length > 0);
        if (stroke !== this.lastStroke) this.remember(this.text);
        this.lastStroke = stroke;
        this.text = reply.scenario;
      }
      this.take(reply);
      this.view.paint();
      part("timing").textContent = `answered in ${Math.max(1, Math.round(performance.now() - began))} ms`;
    } catch (error) {
      well = false;
      this.say(error.message, true);
    }
    this.busy = false;
    batch.forEach((one) => one.done(well));
    this.pump();
  }
  question() {
    const asked = [this.words()];
    this.asksFront = this.command === "route" && this.start && this.hasThreats() && !this.words().includes("--tick") &&
                     this.scene && this.scene.count <= frontUpTo;
    if (this.asksFront) {
      asked.push(["route", "--from", this.start.join(","), "--to", this.goal.join(","), "--front",
                  "--limit", "20000", ...(part("mover").value ? ["--mover", part("mover").value] : [])]);
    }
    return { scenario: this.text, mover: part("mover").value, tick: Number(part("tick").value) || 0, ask: this.start ? asked : [] };
  }
  words() {
    return this.forms.words(this.command, this, part("mover").value);
  }
  hasThreats() {
    return (this.scene?.told.threats.length ?? 0) > 0;
  }

  // What the program answered.
  take(reply) {
    const fresh = this.scene === null || !sameCell(reply.scene.size, this.scene.told.size) || this.start === null;
    this.told = reply.scene;
    this.scene = new Scene(reply.scene, part("show-diamond").checked);
    this.selected = this.selected && [...reply.scene.units, ...reply.scene.threats].find(({ name }) => name === this.selected.name);
    if (fresh) this.placeEnds();
    fillMap(this);
    [this.answer, this.front] = [reply.answers[0] ?? null, this.asksFront ? reply.answers[1]?.json?.front : null];
    this.picked = null;
    this.showAnswer();
    showSelected(this);
    if (fresh) this.refresh();
  }
  // A start and a goal to begin with: the first and the last cell of the largest region.
  placeEnds() {
    const sizes = new Map();
    this.scene.regions.forEach((region) => region > 0 && sizes.set(region, (sizes.get(region) ?? 0) + 1));
    const [largest] = [...sizes].sort((a, b) => b[1] - a[1])[0] ?? [0];
    const { layout } = this.scene;
    this.start = layout.cell(Math.max(0, this.scene.regions.indexOf(largest)));
    this.goal = layout.cell(Math.max(0, this.scene.regions.lastIndexOf(largest)));
    this.cursor = this.start;
  }
  setEnd(which, cell) {
    if (sameCell(this[which], cell)) return;
    this[which] = cell;
    this.refresh();
  }

  showAnswer() {
    const { answer } = this;
    const [first, ...rest] = (answer?.error ?? answer?.text ?? "").trim().split("\n");
    this.say(first, answer?.error !== undefined);
    part("answer").textContent = answer?.json?.runs ? "" : rest.join("\n");  // a table tells those
    fillRuns(part("runs"), answer?.json?.runs);
    const racers = answer && !answer.error ? racersOf(answer, this.scene) : [];
    this.second.canvas.parentElement.hidden = racers.length < 2;
    this.showIn(this.view, racers[0]);
    if (racers.length > 1) this.showIn(this.second, racers[1]);
    part("caption").textContent = racers[0]?.name ?? "";
    part("caption2").textContent = racers[1]?.name ?? "";
    this.showFront();
    part("command-line").textContent = commandLine(this.words(), this.name);
    if (racers.length < 2) this.second.replay = null;
    this.clock.begin(Math.max(0, ...this.views.map((view) => view.replay?.length ?? 0)));
  }
  showIn(view, racer) {
    const { answer } = this;
    view.replay = racer ? racer.replay : replayOf(answer?.replay, this.scene.count);
    view.shown = answer && !answer.error ? shownOf(answer, this.scene) : {};
    if (racer) view.shown.paths = racer.paths;
    for (const look of ["regions", "danger", "heights"]) view.shown[look] ||= part(`show-${look}`).checked;
    view.shown.danger ||= this.command === "route" && this.forms.value("route", "--wary") !== undefined;
    Object.assign(view.shown, { start: this.start, goal: this.goal });
    if (this.picked) view.shown.paths = [{ cells: this.picked.path, dashed: true }, ...(view.shown.paths ?? [])];
    view.cursor = view === this.view ? this.cursor : null;
    view.show(this.scene);
    if (view === this.view) fillLegend(part("legend"), view);
  }
  showTime() {
    for (const view of this.views) {
      view.time = Math.min(this.clock.time, view.replay?.length ?? 0);
      view.draw();
    }
    this.showControls();
    this.tell(this.cursor, this.view);
  }
  showFront() {
    part("danger-part").hidden = !this.hasThreats();
    if (!this.front?.length) return part("front").replaceChildren();
    const cost = this.answer?.json?.cost;
    const chosen = this.picked ? this.front.indexOf(this.picked) : this.front.findIndex((route) => route.cost === cost);
    return drawFront(part("front"), this.front, chosen, (number) => {
      this.picked = this.front[number];
      this.say(`picked: cost ${this.picked.cost}, exposure ${this.picked.exposure}, ${this.picked.path.length - 1} steps`);
      this.showIn(this.view);
      this.showFront();
    });
  }

  // Words.
  say(text, alarm = false) {
    this.said = text.trim();
    part("status").textContent = this.said;
    part("status").classList.toggle("alarm", alarm);
  }
  hover(cell, view) {
    this.tell(cell ?? this.cursor, view);
  }
  tell(cell, view) {
    if (!this.scene) return;
    showCell(part("cell"), view, cell);
    clearTimeout(this.sidesAsked);
    if (!this.hasThreats() || !cell || this.clock.playing) return;
    this.sidesAsked = setTimeout(() => this.tellSides(cell), 150);
  }
  async tellSides(cell) {
    const words = ["threat", "--at", cell.join(","), "--tick", String(Number(part("tick").value) || 0)];
    const { answers } = await ask("show", { scenario: this.text, scene: false, ask: [words] }).catch(() => ({ answers: [] }));
    const text = answers[0]?.text?.split("\n").slice(1).join("\n").trim();
    if (text) part("cell").append(made("pre", { id: "sides-told", textContent: text }));
  }

  // Pointers and carried things.
  press(cell, place) {
    if (cell) this.cursor = cell;
    this.view.cursor = this.cursor;
    this.view.draw();
    part("map").focus({ preventScroll: true });
    return this.tools.press(cell, place);
  }
  ghost(cells, fits = true) {
    this.view.shown.ghost = cells ? { cells, fits } : null;
    this.view.draw();
  }
  async probe(unit, at, turn) {
    const number = (this.probes = (this.probes ?? 0) + 1);
    const words = ["fit", "--unit", unit.name, "--at", at.join(","), "--turn", String(turn)];
    const { answers: [answer] } = await ask("show", { scenario: this.text, scene: false, ask: [words] })
        .catch((error) => ({ answers: [{ exit: 2, error: error.message }] }));
    if (number !== this.probes) return;
    this.say(`${unit.name}: ${answer.error ?? answer.text}`, answer.exit !== 0);
    this.ghost(answer.replay?.ghost ?? [], answer.exit === 0);
  }
  moveCursor(right, down) {
    part("map").focus({ preventScroll: true });
    const { layout } = this.scene;
    const [col, row] = this.cursor;
    this.cursor = [Math.max(0, Math.min(layout.cols - 1, col + right)), Math.max(0, Math.min(layout.rows - 1, row + down))];
    this.view.cursor = this.cursor;
    this.view.reveal(this.cursor);
    this.view.draw();
    this.carried?.move?.(this.cursor);
    this.tell(this.cursor, this.view);
    if (!this.carried) this.say(tellCell(this.view, this.cursor).slice(0, 2).join("; "));
  }
  carry() {
    const drag = this.tools.pick(this.cursor, this.scene.layout.centre(this.cursor));
    if (!drag) return this.say("nothing here can be carried", true);
    this.carried = drag;
    return this.say("carried: arrows move it, Enter puts it down, Esc sends it home");
  }
  useTool() {
    if (this.carried) {
      const carried = this.carried;
      this.carried = null;
      return carried.end?.(this.cursor);
    }
    const drag = this.tools.press(this.cursor, this.scene.layout.centre(this.cursor));
    return this.tools.tool === "look" ? undefined : drag?.end?.(this.cursor);
  }
  dropCarried() {
    this.probes = (this.probes ?? 0) + 1;
    this.carried?.cancel?.();
    if (this.carried) this.say("back home");
    this.carried = null;
  }
  turn(by) {
    const { selected } = this;
    if (selected?.cells) {
      const turn = (selected.turn + by + this.scene.told.turns) % this.scene.told.turns;
      this.tools.put(selected, selected.at, turn);
    } else if (selected) {
      const facing = ((selected.facing ?? 0) + by * 15 + 360) % 360;
      const arc = selected.facing === null ? { arc: 90 } : {};
      this.edit([{ do: "threat", name: selected.name, facing, ...arc }], `turn ${selected.name}`);
    } else {
      this.say("nothing is selected", true);
    }
  }
  select(thing) {
    this.selected = thing;
    showSelected(this);
  }
  // Tools.
  chooseTool(name) {
    this.tools.tool = name;
    showTools(this);
  }
  chooseTerrain(number) {
    const kind = this.scene.kinds[number];
    if (!kind) return;
    this.tools.terrain = kind.name;
    this.chooseTool("paint");
  }
  nextShape() {
    const shapes = ["line", "block", "disk", "flood"];
    this.tools.shape = shapes[(shapes.indexOf(this.tools.shape) + 1) % shapes.length];
    showTools(this);
  }
  changeRadius(by) {
    this.tools.radius = Math.max(0, Math.min(40, this.tools.radius + by));
    showTools(this);
  }
  wholeMap() {
    this.view.camera.scale = 0;
    this.views.forEach((view) => view.draw());
  }
  toggleKeys() {
    part("keys-part").open = !part("keys-part").open;
    part("keys-part").scrollIntoView();
  }
  async copyCommand() {
    const line = commandLine(this.words(), this.name);
    try {
      await navigator.clipboard.writeText(line);
      this.say("copied: " + line);
    } catch {
      this.say(line);  // the browser does not let us; there it is to be copied by hand
    }
  }
  async keepPicture(form) {
    try {
      download(`answer.${form}`, await ask("picture", { scenario: this.text, ask: this.words(), form }));
    } catch (error) {
      this.say(error.message, true);
    }
  }

  chooseCommand(name) {
    this.command = name;
    part("command").value = name;
    this.forms.show(name, part("form"));
    part("algorithms").hidden = name !== "route";
    this.showAlgorithm();
    return this.refresh();
  }
  showAlgorithm() {
    const by = this.forms.value("route", "--by") ?? "automatic";
    [...part("algorithms").children].forEach((button) => button.setAttribute("aria-checked", String(button.dataset.name === by)));
  }
  setWary(value) {
    part("wary-value").textContent = value === 0 ? "the cheapest way" : `a level of danger weighs ${value} steps`;
    this.forms.set("route", "--wary", value === 0 ? "" : String(value));
    this.chooseCommand("route");
  }
}

const page = new Page();
page.begin().catch((error) => page.say(error.message, true));
window.page = page;  // for those who look in with the browser's own tools
