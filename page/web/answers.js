// What an answer of a command lays over the map.
import { unrolled, decimal } from "./layout.js";
import { replayOf, SearchReplay, WalkReplay } from "./replay.js";

// @param answer  {json, replay}  @return for a MapView: paths, rings, tints, values, next; see there
export function shownOf(answer, scene) {
  const { json, replay } = answer;
  const { layout } = scene;
  const { colors } = scene.told;
  const shown = { paths: [], rings: [], tints: [] };
  if (!json) return shown;
  const tint = (cells, color, share = 0.6) => shown.tints.push({ cells: cells.map((cell) => layout.index(cell)), color, share });
  if (json.path && json.command !== "walk") shown.paths.push({ cells: json.path });
  if (json.reason && json.at) shown.rings.push({ cell: json.at, text: json.reason });
  for (const cell of json.waypoints ?? []) shown.rings.push({ cell, text: "", kind: "soft" });
  if (json.command === "reach") {
    shown.values = new Int32Array(scene.count).fill(-1);
    shown.valuesAre = "cost to here";
    for (const [col, row, cost] of json.cells ?? []) shown.values[layout.index([col, row])] = Math.round(cost * 100);
    tint((json.in_range ?? []).filter((cell) => shown.values[layout.index(cell)] < 0), colors.goal, 0.45);
  }
  if (replay?.field) {
    shown.values = unrolled(replay.field.costs, scene.count);
    shown.next = unrolled(replay.field.next, scene.count);
    shown.valuesAre = "cost to the goal";
  }
  if (json.command === "regions") {
    shown.regions = true;
    for (const join of json.joins ?? []) {
      tint(join.opens ?? [], colors.waypoint, 0.9);
      (join.opens ?? []).slice(0, 1).forEach((cell) => shown.rings.push({ cell, text: `opens for ${join.cost}`, kind: "soft" }));
    }
    for (const cell of json.chokes ?? []) shown.rings.push({ cell, text: "", kind: "soft" });
  }
  if (json.command === "sight") tint(json.visible ?? [], "#ffe9a3", 0.62);
  if (json.command === "threat") shown.danger = true;
  if (json.command === "fit") {
    tint(json.spots ?? [], colors.start, 0.5);
    if (json.nearest) shown.rings.push({ cell: json.nearest, text: "nearest", kind: "soft" });
    for (const { at, why } of json.reasons ?? []) shown.rings.push({ cell: at, text: why });
    if (replay?.ghost) shown.ghost = { cells: replay.ghost, fits: json.fits ?? true };
  }
  for (const problem of json.problems ?? []) shown.rings.push({ cell: problem.at, text: problem.why });
  for (const unit of json.units ?? []) if (unit.path) shown.paths.push({ cells: unit.path });
  for (const placed of json.placed instanceof Array ? json.placed : []) tint(placed.cells, colors.unit, 0.9);
  if (json.turns_end) json.turns_end.forEach((at, n) => {
    const cell = at instanceof Array ? at : json.path?.[at];
    if (cell) shown.rings.push({ cell, text: `turn ${n + 1}`, kind: "soft" });
  });
  return shown;
}

// The searches and walkers of a comparison, each with its replay and its path.
export function racersOf(answer, scene) {
  return (answer.replay?.race ?? []).map((told) => ({
    name: told.name,
    replay: replayOf(told, scene.count),
    paths: told.path ? [{ cells: told.path }] : [],
  }));
}

export function fillRuns(table, runs) {
  table.replaceChildren();
  if (!runs?.length) return;
  const line = (into, tag, values) => {
    const row = into.appendChild(document.createElement("tr"));
    for (const value of values) row.append(Object.assign(document.createElement(tag), { textContent: value }));
  };
  line(table.createTHead(), "th", ["by", "cost", "steps", "checked", "\u00b5s"]);
  const body = table.createTBody();
  for (const run of runs) {
    line(body, "td", [run.algorithm, run.found ? run.cost : "no way", run.steps ?? "", run.expanded, run.micros]);
  }
}

// The legend of what is shown now.
export function fillLegend(into, view) {
  into.replaceChildren();
  const { scene, shown, replay } = view;
  const { colors } = scene.told;
  const line = (sample, text) => {
    const row = into.appendChild(document.createElement("div"));
    row.append(sample, Object.assign(document.createElement("span"), { textContent: text }));
  };
  const box = (color) => {
    const swatch = Object.assign(document.createElement("span"), { className: "swatch" });
    swatch.style.background = color;
    return swatch;
  };
  const ramp = (stops, text) => {
    const bar = Object.assign(document.createElement("span"), { className: "ramp" });
    bar.style.background = `linear-gradient(90deg, ${stops.join(",")})`;
    line(bar, text);
  };
  const drawn = (path, text) => {
    const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
    svg.setAttribute("viewBox", "0 0 18 18");
    const shape = svg.appendChild(document.createElementNS("http://www.w3.org/2000/svg", "path"));
    shape.setAttribute("d", path);
    shape.setAttribute("fill", "none");
    shape.setAttribute("stroke", "currentColor");
    shape.setAttribute("stroke-width", "2");
    line(svg, text);
  };
  const there = new Set(scene.terrain);
  scene.kinds.forEach((kind, id) => {
    if (there.has(id) && !kind.void) line(box(kind.color), kind.name + (kind.cost === null ? ", blocked" : `, ${decimal(kind.cost)}`));
  });
  drawn("M5 13L13 5", `${scene.told.mover} cannot enter it`);
  if (replay instanceof SearchReplay) {
    ramp(colors.visits, "checked: first to last");
    drawn("M9 5a4 4 0 1 0 .1 0", "seen, not yet checked");
  }
  if (replay instanceof WalkReplay) ramp(colors.trail, "walked on: once to most");
  if (shown.values) ramp(colors.reach, "cost: least to most");
  if (shown.danger && colors.danger.length > 0) ramp([colors.danger[0], colors.danger.at(-1)], "danger: least to most");
  if (shown.heights && scene.heights) ramp(colors.heights, "height: low to high");
  if (shown.regions) line(box(colors.regions[1]), "each region its colour");
  if (scene.closed.size > 0) drawn("M2 9H16", "barrier; with ticks: a ledge");
  if (scene.told.threats.length > 0) drawn("M9 2L16 9L9 16L2 9Z", "threat, and the rim of its arc");
}
