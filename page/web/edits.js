// Tools: what a press on the map does.
import { sameCell } from "./layout.js";

export class Tools {
  // @param page  scene, view, edit(edits, stroke), setEnd(which, cell), probe(unit, at, turn), say(text), select(thing)
  constructor(page) {
    this.page = page;
    this.tool = "look";
    this.shape = "line";
    this.radius = 1;
    this.terrain = null;
    this.height = 0;
    this.sides = "closed";
    this.strokes = 0;
  }

  // The beginning of a drag, or nothing: then the map is panned.
  press(cell, place) {
    if (!cell) return null;
    if (this.tool === "look") return this.pick(cell, place);
    if (this.tool === "barrier") return this.barrier(cell, this.page.scene.layout.sideAt(cell, ...place));
    return this.stroke(cell);
  }

  what() {
    return this.tool === "height" ? { height: this.height } : { terrain: this.terrain };
  }
  stroke(first) {
    const stroke = ++this.strokes;
    const paint = (cells) => this.page.edit([{ do: "paint", with: this.shape, radius: this.radius, cells, ...this.what() }], stroke);
    if (this.shape === "flood") {
      paint([first]);
      return {};
    }
    if (this.shape === "block") {
      let last = first;
      return {
        move: (cell) => {
          last = cell ?? last;
          this.page.ghost(this.block(first, last), true);
        },
        end: () => {
          this.page.ghost(null);
          paint([first, last]);
        },
        cancel: () => this.page.ghost(null),
      };
    }
    let last = first;
    paint([first]);
    return {
      move: (cell) => {
        if (!cell || sameCell(cell, last)) return;
        paint([last, cell]);
        last = cell;
      },
      cancel: () => this.page.takeBack(stroke),
    };
  }
  block([col, row], [toCol, toRow]) {
    const cells = [];
    for (let r = Math.min(row, toRow); r <= Math.max(row, toRow); ++r) {
      for (let c = Math.min(col, toCol); c <= Math.max(col, toCol); ++c) cells.push([c, r]);
    }
    return cells.length <= 4000 ? cells : [[col, row], [toCol, toRow]];
  }
  barrier(from, direction) {
    const to = this.page.scene.layout.neighbour(from, direction);
    if (!this.page.scene.layout.contains(...to)) this.page.say("the rim of the map needs no barrier");
    else this.page.edit([{ do: "barrier", from, to, sides: this.sides }], ++this.strokes);
    return {};
  }

  // What lies on a cell is taken up: an end, a unit, a threat; the handle of a selected threat turns it.
  pick(cell, place) {
    const { page } = this;
    const selected = page.selected;
    if (selected?.facing !== undefined && selected.facing !== null && this.nearHandle(selected, place)) return this.turning(selected);
    for (const which of ["start", "goal"]) {
      if (sameCell(page[which], cell)) return this.carryEnd(which);
    }
    const unit = page.scene.unitAt(cell);
    if (unit) return this.carryUnit(unit, cell);
    const threat = page.scene.threatAt(cell);
    if (threat) return this.carryThreat(threat);
    page.select(null);
    return null;
  }
  carryEnd(which) {
    const home = this.page[which];
    const move = (cell) => cell && this.page.setEnd(which, cell);
    return { move, end: move, cancel: () => move(home) };
  }
  // Where the anchor comes to lie when a grabbed cell does; triangles keep the way they point.
  anchor(unit, grabbed, cell) {
    const { layout, told } = this.page.scene;
    const [home, from, to] = [unit.at, grabbed, cell].map((each) => layout.centre(each));
    const place = [home[0] + to[0] - from[0], home[1] + to[1] - from[1]];
    let at = layout.cellAt(...place) ?? cell;
    if (told.tiling === "triangle" && (at[0] + at[1] - unit.at[0] - unit.at[1]) % 2 !== 0) {
      const far = (other) => Math.hypot(...layout.centre(other).map((value, i) => value - place[i]));
      at = [0, 1, 2].map((d) => layout.neighbour(at, d)).sort((a, b) => far(a) - far(b))[0];
    }
    return at;
  }
  carryUnit(unit, grabbed) {
    const { page } = this;
    page.select(unit);
    let at = unit.at;
    return {
      move: (cell) => {
        if (!cell) return;
        const next = this.anchor(unit, grabbed, cell);
        if (sameCell(next, at)) return;
        at = next;
        page.probe(unit, at, unit.turn);
      },
      end: () => this.put(unit, at, unit.turn),
      cancel: () => page.ghost(null),
    };
  }
  async put(unit, at, turn) {
    this.page.ghost(null);
    if (sameCell(at, unit.at) && turn === unit.turn) return;
    if (!(await this.page.edit([{ do: "unit", name: unit.name, at, turn }], ++this.strokes))) {
      this.page.say(`${unit.name} is back home. ${this.page.said}`, true);
    }
  }
  carryThreat(threat) {
    const { page } = this;
    page.select(threat);
    let at = threat.at;
    return {
      move: (cell) => {
        if (!cell) return;
        at = cell;
        page.ghost([cell], true);
      },
      end: () => {
        page.ghost(null);
        if (!sameCell(at, threat.at)) page.edit([{ do: "threat", name: threat.name, at }], ++this.strokes);
      },
      cancel: () => page.ghost(null),
    };
  }

  // The handle lies ahead of a threat, two cells off at most.
  handle(threat) {
    const [x, y] = this.page.scene.layout.centre(threat.at);
    const turned = ((threat.facing - 90) * Math.PI) / 180;
    const far = Math.max(1.2, Math.min(2.2, threat.range / 100));
    return [x + far * Math.cos(turned), y + far * Math.sin(turned)];
  }
  nearHandle(threat, [x, y]) {
    const [hx, hy] = this.handle(threat);
    return Math.hypot(x - hx, y - hy) < 0.6;
  }
  turning(threat) {
    const stroke = ++this.strokes;
    const { layout } = this.page.scene;
    const towards = (cell) => {
      if (!cell || sameCell(cell, threat.at)) return;
      const [x, y] = layout.centre(cell).map((value, i) => value - layout.centre(threat.at)[i]);
      const degrees = Math.round((Math.atan2(y, x) * 180) / Math.PI + 450) % 360;
      this.page.edit([{ do: "threat", name: threat.name, facing: degrees }], stroke);
    };
    return { move: towards };
  }
}
