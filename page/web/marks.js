// Marks over the ground: numbers, arrows, barriers, units, threats, ways, ends, the cursor.
import { decimal, sameCell } from "./layout.js";
import { bright, css, Painter } from "./painter.js";
import { open, SearchReplay } from "./replay.js";

const numbersFrom = 34;  // pixels for a cell
const threeFrom = 50;

export class Marks extends Painter {
  draw(colors, small) {
    this.colors = colors;
    const { shown } = this;
    if (!small) {
      this.drawOpen();
      this.drawNumbers();
      this.drawArrows();
    }
    this.drawBarriers();
    this.drawUnits();
    this.drawThreats();
    for (const path of this.paths()) this.drawPath(path);
    for (const { cell, text, kind } of shown.rings ?? []) this.drawRing(cell, text, kind);
    if (shown.ghost) this.drawGhost(shown.ghost);
    if (shown.start) this.drawEnd(shown.start, "S", this.scene.told.colors.start);
    if (shown.goal) this.drawEnd(shown.goal, "G", this.scene.told.colors.goal);
    if (this.view.cursor) this.drawCursor(this.view.cursor);
  }

  // A cell seen but not yet checked has a ring; the one being checked a bold one.
  drawOpen() {
    const { replay, time, pen, camera, scene } = this;
    if (!(replay instanceof SearchReplay)) {
      if (replay) this.drawWalker(replay.current(time));
      return;
    }
    pen.strokeStyle = "rgba(16,32,43,0.75)";
    pen.lineWidth = 1.2;
    const radius = Math.max(2, camera.scale * 0.16);
    pen.beginPath();
    this.forVisible((cell, i) => {
      if (replay.state(i, time) !== open) return;
      const [x, y] = this.toScreen(scene.layout.centre(cell));
      pen.moveTo(x + radius, y);
      pen.arc(x, y, radius, 0, 2 * Math.PI);
    });
    pen.stroke();
    const now = replay.current(time);
    if (now < 0 || time >= replay.length) return;
    this.trace(scene.layout.cell(now), 0.9);
    pen.lineWidth = 3;
    pen.strokeStyle = scene.told.colors.ink;
    pen.stroke();
  }
  drawWalker(index) {
    if (index < 0) return;
    const { pen, scene, camera } = this;
    const [x, y] = this.toScreen(scene.layout.centre(scene.layout.cell(index)));
    pen.beginPath();
    pen.arc(x, y, Math.max(3, camera.scale * 0.28), 0, 7);
    pen.fillStyle = "#fafaff";
    pen.fill();
    pen.lineWidth = 2;
    pen.strokeStyle = scene.told.colors.ink;
    pen.stroke();
  }
  drawNumbers() {
    const { replay, time, shown, pen, camera, scene, colors } = this;
    const small = scene.told.tiling === "triangle" ? 0.75 : 1;
    if (camera.scale * small < numbersFrom) return;
    pen.textAlign = "center";
    pen.textBaseline = "middle";
    const write = (cell, i, text, dx, dy, size) => {
      const [x, y] = this.toScreen(scene.layout.centre(cell));
      pen.fillStyle = bright(colors[i]) > 130 ? scene.told.colors.ink : "#fff";
      pen.font = `${size}px system-ui, sans-serif`;
      pen.fillText(text, x + dx * camera.scale, y + dy * camera.scale);
    };
    const size = Math.min(14, camera.scale * 0.26);
    const latest = replay instanceof SearchReplay ? this.latestVisits() : null;
    this.forVisible((cell, i) => {
      if (shown.values && shown.values[i] >= 0) return write(cell, i, decimal(shown.values[i]), 0, 0.32, size);
      if (shown.danger && scene.levels?.[i] > 0 && !latest) return write(cell, i, String(scene.levels[i]), 0, 0, size);
      if (!latest) return undefined;
      const visit = latest.get(i);
      if (visit === undefined) return undefined;
      const { costs, estimates } = replay.visits;
      if (camera.scale * small < threeFrom) return write(cell, i, decimal(costs[visit]), 0, 0, size);
      write(cell, i, decimal(costs[visit]), -0.22, -0.26, size * 0.85);
      write(cell, i, decimal(estimates[visit]), 0.24, -0.26, size * 0.85);
      return write(cell, i, decimal(costs[visit] + estimates[visit]), 0, 0.26, size);
    });
  }
  latestVisits() {
    const latest = new Map();
    for (let i = 0; i < Math.min(this.time, this.replay.length); ++i) latest.set(this.replay.visits.cells[i], i);
    return latest;
  }
  // The next step of a field, from every cell.
  drawArrows() {
    const { shown, pen, scene, camera } = this;
    if (!shown.next || camera.scale < 12) return;
    pen.strokeStyle = "rgba(16,32,43,0.8)";
    pen.lineWidth = Math.max(1, camera.scale / 22);
    pen.beginPath();
    this.forVisible((cell, i) => {
      if (shown.next[i] === 0) return;
      const [x, y] = this.toScreen(scene.layout.centre(cell));
      const [tx, ty] = this.toScreen(scene.layout.centre(scene.layout.cell(i + shown.next[i])));
      const far = Math.hypot(tx - x, ty - y);
      const [dx, dy] = [((tx - x) / far) * camera.scale * 0.3, ((ty - y) / far) * camera.scale * 0.3];
      pen.moveTo(x - dx, y - dy);
      pen.lineTo(x + dx, y + dy);
      pen.lineTo(x + dx * 0.3 - dy * 0.5, y + dy * 0.3 + dx * 0.5);
      pen.moveTo(x + dx, y + dy);
      pen.lineTo(x + dx * 0.3 + dy * 0.5, y + dy * 0.3 - dx * 0.5);
    });
    pen.stroke();
  }
  // Closed both ways: a bold line. One way only: the line, and ticks on the side one cannot leave by.
  drawBarriers() {
    const { pen, scene, camera } = this;
    if (camera.scale < 3) return;
    pen.strokeStyle = scene.told.colors.ink;
    pen.lineCap = "round";
    for (const [index, sides] of scene.closed) {
      const cell = scene.layout.cell(index);
      const [x, y] = this.toScreen(scene.layout.centre(cell));
      scene.layout.sides(cell).forEach(([ax, ay, bx, by], direction) => {
        if (!(sides & (1 << direction))) return;
        const other = scene.layout.neighbour(cell, direction);
        const back = scene.layout.sides(other).findIndex(
            (_, d) => sameCell(scene.layout.neighbour(other, d), cell));
        const both = ((scene.closed.get(scene.layout.index(other)) ?? 0) >> back) & 1;
        const s = camera.scale;
        pen.lineWidth = both ? Math.max(2, s / 9) : Math.max(1, s / 18);
        pen.beginPath();
        pen.moveTo(x + ax * s, y + ay * s);
        pen.lineTo(x + bx * s, y + by * s);
        for (const at of both ? [] : [0.25, 0.5, 0.75]) {
          const [px, py] = [ax + (bx - ax) * at, ay + (by - ay) * at];
          pen.moveTo(x + px * s, y + py * s);
          pen.lineTo(x + px * 0.72 * s, y + py * 0.72 * s);
        }
        pen.stroke();
      });
    }
  }
  drawUnits() {
    const { pen, scene, camera } = this;
    for (const unit of scene.told.units) {
      pen.fillStyle = scene.told.colors.unit;
      pen.globalAlpha = unit.blocks ? 0.9 : 0.45;
      for (const index of unit.cells) {
        this.trace(scene.layout.cell(index), 0.88);
        pen.fill();
      }
      pen.globalAlpha = 1;
      if (camera.scale < 10 || unit.cells.length === 0) continue;
      this.drawName(scene.layout.cell(unit.cells[0]), unit.name);
    }
  }
  drawName(cell, text, below = 0) {
    const { pen, scene, camera } = this;
    const [x, y] = this.toScreen(scene.layout.centre(cell));
    pen.font = "bold 11px system-ui, sans-serif";
    pen.textAlign = "center";
    pen.textBaseline = "middle";
    const half = pen.measureText(text).width / 2 + 4;
    pen.fillStyle = "rgba(16,32,43,0.82)";
    pen.fillRect(x - half, y + below * camera.scale - 8, 2 * half, 16);
    pen.fillStyle = "#fff";
    pen.fillText(text, x, y + below * camera.scale + 0.5);
  }
  // A diamond for what watches; the rim of its arc where it does not look all round.
  drawThreats() {
    const { pen, scene, camera } = this;
    for (const threat of scene.told.threats) {
      const [x, y] = this.toScreen(scene.layout.centre(threat.at));
      const arm = Math.max(5, camera.scale * 0.38);
      pen.beginPath();
      for (const [dx, dy] of [[0, -1], [1, 0], [0, 1], [-1, 0]]) pen.lineTo(x + dx * arm, y + dy * arm);
      pen.closePath();
      pen.fillStyle = scene.told.colors.threat;
      pen.fill();
      pen.lineWidth = 1.5;
      pen.strokeStyle = "#fff";
      pen.stroke();
      if (threat.facing !== null) this.drawArc(x, y, threat);
      if (camera.scale >= 14) this.drawName(threat.at, threat.name, 0.75);
    }
  }
  drawArc(x, y, threat) {
    const { pen, scene, camera } = this;
    const far = Math.max(14, (threat.range / 100) * camera.scale);
    const [from, to] = [threat.facing - threat.arc / 2, threat.facing + threat.arc / 2].map((d) => ((d - 90) * Math.PI) / 180);
    pen.beginPath();
    pen.moveTo(x, y);
    pen.arc(x, y, far, from, to);
    pen.closePath();
    pen.lineWidth = 1.5;
    pen.setLineDash([5, 4]);
    pen.strokeStyle = scene.told.colors.threat;
    pen.stroke();
    pen.setLineDash([]);
  }
  // The way of an answer: shown when its search is over, so that the clock does not tell it beforehand.
  paths() {
    const { shown, replay, time } = this;
    if (replay instanceof SearchReplay && time < replay.length) return [];
    return shown.paths ?? [];
  }
  drawPath({ cells, color, dashed }) {
    if (!cells || cells.length < 2) return;
    const { pen, scene, camera } = this;
    const line = (width, style) => {
      pen.beginPath();
      for (const cell of cells) pen.lineTo(...this.toScreen(scene.layout.centre(cell)));
      pen.lineWidth = width;
      pen.lineJoin = "round";
      pen.lineCap = "round";
      pen.strokeStyle = style;
      pen.setLineDash(dashed ? [8, 7] : []);
      pen.stroke();
      pen.setLineDash([]);
    };
    const width = Math.max(2, Math.min(6, camera.scale * 0.2));
    line(width + 3, "rgba(255,255,255,0.9)");
    line(width, color ?? scene.told.colors.ink);
  }
  drawRing(cell, text, kind) {
    if (!this.scene.layout.contains(...cell)) return;
    const { pen, scene, camera } = this;
    const [x, y] = this.toScreen(scene.layout.centre(cell));
    pen.beginPath();
    pen.arc(x, y, Math.max(6, camera.scale * 0.55), 0, 7);
    pen.lineWidth = 3;
    pen.setLineDash(kind === "soft" ? [4, 4] : []);
    pen.strokeStyle = kind === "soft" ? scene.told.colors.waypoint : scene.told.colors.goal;
    pen.stroke();
    pen.setLineDash([]);
    if (text && camera.scale >= 10) this.drawName(cell, text, 0.85);
  }
  drawGhost({ cells, fits }) {
    const { pen, scene } = this;
    for (const cell of cells) {
      if (!scene.layout.contains(...cell)) continue;
      this.trace(cell, 0.88);
      pen.lineWidth = 3;
      pen.setLineDash(fits ? [] : [5, 4]);
      pen.strokeStyle = fits ? scene.told.colors.start : scene.told.colors.goal;
      pen.stroke();
      pen.setLineDash([]);
    }
  }
  // The start is round, the goal square.
  drawEnd(cell, letter, color) {
    if (!this.scene.layout.contains(...cell)) return;
    const { pen, scene, camera } = this;
    const [x, y] = this.toScreen(scene.layout.centre(cell));
    const half = Math.max(7, Math.min(16, camera.scale * 0.36));
    pen.beginPath();
    if (letter === "S") pen.arc(x, y, half, 0, 7);
    else pen.rect(x - half, y - half, 2 * half, 2 * half);
    pen.fillStyle = color;
    pen.fill();
    pen.lineWidth = 2;
    pen.strokeStyle = "#fff";
    pen.stroke();
    pen.fillStyle = "#fff";
    pen.font = `bold ${Math.round(half * 1.2)}px system-ui, sans-serif`;
    pen.textAlign = "center";
    pen.textBaseline = "middle";
    pen.fillText(letter, x, y + 1);
  }
  drawCursor(cell) {
    const { pen } = this;
    this.trace(cell, 1.02);
    pen.lineWidth = 4;
    pen.strokeStyle = "#fff";
    pen.stroke();
    pen.lineWidth = 2;
    pen.strokeStyle = this.scene.told.colors.ink;
    pen.stroke();
  }
}
