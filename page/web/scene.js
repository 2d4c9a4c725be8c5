// A map as the program told it, unpacked once into arrays.
import { Layout, unrolled, decimal } from "./layout.js";
import { open, closed, SearchReplay, WalkReplay } from "./replay.js";

export class Scene {
  constructor(told, diamond = false) {
    this.told = told;
    this.layout = new Layout(diamond ? told.diamond : told.layout, told.size);
    this.count = told.size[0] * told.size[1];
    this.setGround(told, told.kinds);
    this.costs = unrolled(told.costs, this.count);
    this.regions = unrolled(told.regions, this.count);
    this.levels = told.levels ? unrolled(told.levels, this.count) : null;
    this.units = new Map();
    told.units.forEach((unit) => unit.cells.forEach((cell) => this.units.set(cell, unit)));
  }
  setGround(ground, kinds) {
    this.kinds = kinds;
    this.terrain = unrolled(ground.terrain, this.count, Uint8Array);
    this.heights = ground.heights ? unrolled(ground.heights, this.count, Int16Array) : null;
    this.closed = new Map();
    for (let i = 0; i < ground.closed.length; i += 2) this.closed.set(ground.closed[i], ground.closed[i + 1]);
  }
  unitAt(cell) {
    return this.units.get(this.layout.index(cell));
  }
  threatAt([col, row]) {
    return this.told.threats.find(({ at }) => at[0] === col && at[1] === row);
  }
}

// What is known about a cell, as lines of text.
export function tellCell(view, cell) {
  const { scene, replay, time, shown } = view;
  if (!cell) return [];
  const i = scene.layout.index(cell);
  const kind = scene.kinds[scene.terrain[i]];
  const lines = [`cell ${cell[0]},${cell[1]}: ${kind.name}`];
  const cost = scene.costs[i];
  lines.push(cost === 0 ? `${scene.told.mover} cannot enter it` : `costs ${scene.told.mover} ${decimal(cost)}`);
  if (scene.heights) lines.push(`height ${scene.heights[i]}`);
  lines.push(scene.regions[i] === 0 ? "no region" : `region ${scene.regions[i]}`);
  if (scene.levels) lines.push(`danger ${scene.levels[i]}`);
  const unit = scene.unitAt(cell);
  if (unit) lines.push(`unit ${unit.name}`);
  const threat = scene.threatAt(cell);
  if (threat) lines.push(`threat ${threat.name}`);
  if (shown.values && shown.values[i] >= 0) lines.push(`${shown.valuesAre} ${decimal(shown.values[i])}`);
  if (replay instanceof SearchReplay) {
    const state = replay.state(i, time);
    lines.push(state === closed ? "checked" : state === open ? "seen, not yet checked" : "not seen yet");
    const known = replay.numbers(i, time);
    if (known?.number) {
      lines.push(`cost so far ${decimal(known.cost)} + estimate ${decimal(known.estimate)} = ${decimal(known.cost + known.estimate)}`);
      lines.push(`check number ${known.number}`);
    } else if (known) {
      lines.push(`cost so far ${decimal(known.cost)}`);
    }
  }
  if (replay instanceof WalkReplay) lines.push(`walked on ${replay.counts(time)[i]} times`);
  return lines;
}

export function showCell(element, view, cell) {
  element.replaceChildren(...tellCell(view, cell).map(
      (text) => Object.assign(document.createElement("div"), { textContent: text })));
}
