// A page of one answer that needs no program: a slider, hovering, numbers.
import { clockControls, Clock, replayOf } from "./replay.js";
import { Camera, MapView } from "./map_view.js";
import { Scene, showCell } from "./scene.js";
import { drawFront } from "./plot.js";
import { fillLegend, fillRuns, racersOf, shownOf } from "./answers.js";

const data = JSON.parse(document.getElementById("data").textContent);
document.body.insertAdjacentHTML("beforeend", `
<main><div id="views"></div><div id="clock" class="row"></div></main>
<aside id="told"><h1 id="title"></h1><h2>Answer</h2><pre id="answer"></pre><table id="runs"></table>
<svg id="front"></svg><h2>Cell</h2><div id="cell"></div><h2>Legend</h2><div id="legend"></div></aside>`);

const byId = (id) => document.getElementById(id);
const scene = new Scene(data.scene);
const camera = new Camera();
const racers = racersOf(data, scene);
const panes = racers.length > 0 ? racers
                                : [{ name: "", replay: replayOf(data.replay, scene.count), paths: null }];
const clock = new Clock(() => {
  for (const view of views) {
    view.time = Math.min(clock.time, view.replay?.length ?? 0);
    view.draw();
  }
  showControls();
});
const showControls = clockControls(clock, byId("clock"));

const views = panes.map((pane) => {
  const figure = byId("views").appendChild(document.createElement("figure"));
  const canvas = figure.appendChild(document.createElement("canvas"));
  figure.append(Object.assign(document.createElement("figcaption"), { textContent: pane.name }));
  const view = new MapView(canvas, {
    hover: (cell, at) => showCell(byId("cell"), at, cell),
    moved: () => views.forEach((other) => other.draw()),
  }, camera);
  view.replay = pane.replay;
  view.shown = shownOf(data, scene);
  if (pane.paths) view.shown.paths = pane.paths;
  const path = pane.paths?.[0]?.cells ?? data.answer.path ?? [];
  view.shown.start = data.replay?.from?.[0] ?? path[0];
  view.shown.goal = data.replay?.to?.at(-1) ?? path.at(-1);
  view.show(scene);
  return view;
});
byId("title").textContent = data.scene.title;
document.title = data.scene.title || "Saunter";
byId("answer").textContent = data.answer.runs ? "" : data.text;
fillRuns(byId("runs"), data.answer.runs);
if (data.answer.front?.length) drawFront(byId("front"), data.answer.front, -1, () => {});
fillLegend(byId("legend"), views[0]);
clock.begin(Math.max(0, ...views.map((view) => view.replay?.length ?? 0)));
