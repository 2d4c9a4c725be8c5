// The ground: a colour for each cell, with what an answer lays over it, as shapes or as one picture of small squares.
import { bright, css, mixed, onRamp, packed, Painter, rampTable, rgb } from "./painter.js";
import { SearchReplay, WalkReplay } from "./replay.js";

const margin = 160;  // pixels about the screen

export class Ground extends Painter {
  draw(small) {
    const { view, scene, shown, replay, time } = this;
    const known = view.painted;  // moving about changes no colour
    if (!known || known.scene !== scene || known.shown !== shown || known.replay !== replay || known.time !== time) {
      view.painted = { scene, shown, replay, time, colors: this.paintCells(), sheet: null };
    }
    this.colors = view.painted.colors;
    if (small) this.drawSmall();
    else this.drawShapes();
    return this.colors;
  }

  // The colour of each cell: the ground, and what an answer lays over it.
  paintCells() {
    const { scene, shown, time } = this;
    const palette = scene.told.colors;
    const kinds = scene.kinds.map((kind) => packed(rgb(kind.color)));
    const colors = new Int32Array(scene.count);
    for (let i = 0; i < scene.count; ++i) colors[i] = kinds[scene.terrain[i]];
    if (shown.heights && scene.heights) this.tintHeights(colors, palette.heights);
    if (shown.regions) {
      const regions = palette.regions.map(rgb);
      scene.regions.forEach((region, i) => {
        if (region > 0) colors[i] = mixed(colors[i], regions[region % regions.length], palette.regionOpacity);
      });
    }
    if (shown.danger && scene.levels && scene.told.highest > 0) {
      const ramp = palette.danger.map(rgb);
      scene.levels.forEach((level, i) => {
        if (level > 0) colors[i] = mixed(colors[i], ramp[Math.min(level, ramp.length) - 1], 0.6);
      });
    }
    if (shown.values) this.tintValues(colors, palette);
    if (this.replay instanceof SearchReplay) this.tintSearch(colors, palette, time);
    if (this.replay instanceof WalkReplay) this.tintWalk(colors, palette, time);
    for (const { cells, color, share } of shown.tints ?? []) {
      for (const cell of cells) colors[cell] = mixed(colors[cell], rgb(color), share);
    }
    return colors;
  }
  tintHeights(colors, ramp) {
    const { heights } = this.scene;
    let [least, most] = [Infinity, -Infinity];
    for (const height of heights) [least, most] = [Math.min(least, height), Math.max(most, height)];
    heights.forEach((height, i) => {
      colors[i] = mixed(colors[i], onRamp(ramp, most > least ? (height - least) / (most - least) : 0), 0.75);
    });
  }
  // A number for each cell, -1 for none: costs of a field or a reach.
  tintValues(colors, palette) {
    const { values } = this.shown;
    let most = 0;
    for (const value of values) most = Math.max(most, value);
    const ramp = rampTable(palette.reach);
    values.forEach((value, i) => {
      if (value >= 0) colors[i] = mixed(colors[i], ramp[most > 0 ? Math.round((64 * value) / most) : 0], palette.visitOpacity);
    });
  }
  tintSearch(colors, palette, time) {
    const { replay } = this;
    const ramp = rampTable(palette.visits);
    for (let i = 0; i < Math.min(time, replay.length); ++i) {
      const cell = replay.visits.cells[i];
      if (replay.firstClosed[cell] !== i) continue;
      const share = replay.length > 1 ? i / (replay.length - 1) : 0;
      colors[cell] = mixed(colors[cell], ramp[Math.round(64 * share)], palette.visitOpacity);
    }
  }
  tintWalk(colors, palette, time) {
    const counts = this.replay.counts(time);
    let most = 1;
    for (const count of counts) most = Math.max(most, count);
    counts.forEach((count, i) => {
      if (count > 0) colors[i] = mixed(colors[i], onRamp(palette.trail, most > 1 ? (count - 1) / (most - 1) : 0), 0.75);
    });
  }

  // Small cells: one picture with two by two small squares for each.
  drawSmall() {
    const { pen } = this;
    const { layout } = this.scene;
    const shifts = layout.small;
    const plain = shifts.every(([x, y]) => x === 0 && y === 0);
    const side = plain ? 1 : 2;
    this.view.painted.sheet ??= this.sheet(side);
    const { columns, rows } = layout.told;
    const [ax, ay, bx, by] = [...columns, ...rows].map((value) => value / 2);  // of one column, of one row
    const [left, top] = layout.smallMiddle;
    const [x, y] = this.toScreen([left - (ax + bx) / 2, top - (ay + by) / 2]);
    const by2 = this.camera.scale / side;
    pen.save();
    pen.transform(ax * by2, ay * by2, bx * by2, by * by2, x, y);
    pen.imageSmoothingEnabled = by2 < 1;
    pen.drawImage(this.view.painted.sheet, 0, 0);
    pen.restore();
  }

  sheet(side) {
    const { layout } = this.scene;
    const { colors } = this;
    const shifts = layout.small;
    const spare = side - 1;
    const [width, height] = [layout.cols * side + spare, layout.rows * side + spare];
    const sheet = Object.assign(document.createElement("canvas"), { width, height });
    const image = new ImageData(width, height);
    const pixels = new Int32Array(image.data.buffer);
    for (let row = 0, i = 0; row < layout.rows; ++row) {
      for (let col = 0; col < layout.cols; ++col, ++i) {
        const [x, y] = shifts[(row & 1) * 2 + (col & 1)];
        for (let k = 0; k < side * side; ++k) {
          pixels[(row * side + y + (k >> 1)) * width + col * side + x + (k & 1)] = colors[i];
        }
      }
    }
    sheet.getContext("2d").putImageData(image, 0, 0);
    return sheet;
  }

  // Cells in their shapes. Upright squares are what the picture of small squares is already; others are drawn once with
  // a margin, and moved while one pans.
  drawShapes() {
    const { columns, rows } = this.scene.layout.told;
    if (this.scene.told.tiling === "square" && columns[1] === 0 && rows[0] === 0) {
      this.drawSmall();
      this.drawLines();
      return;
    }
    const { view, camera } = this;
    const { clientWidth: width, clientHeight: height } = view.canvas;
    const kept = view.kept;
    const fits = kept && kept.of === view.painted && kept.scale === camera.scale && kept.width === width &&
                 kept.height === height && Math.abs(kept.x - camera.x) * camera.scale < margin &&
                 Math.abs(kept.y - camera.y) * camera.scale < margin;
    if (!fits) view.kept = { ...this.keepShapes(width, height), of: view.painted, ...camera, width, height };
    const { canvas, x, y } = view.kept;
    this.pen.drawImage(canvas, Math.round((x - camera.x) * camera.scale) - margin, Math.round((y - camera.y) * camera.scale) - margin,
                       width + 2 * margin, height + 2 * margin);
  }
  keepShapes(width, height) {
    const dense = window.devicePixelRatio || 1;
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [(width + 2 * margin) * dense, (height + 2 * margin) * dense];
    const pen = canvas.getContext("2d");
    pen.setTransform(dense, 0, 0, dense, margin * dense, margin * dense);
    const { view, camera, colors } = this;
    const [across, down] = [(width / 2 + margin) / camera.scale, (height / 2 + margin) / camera.scale];
    const range = this.scene.layout.visible(camera.x - across, camera.y - down, camera.x + across, camera.y + down);
    Object.assign(new Ground(view, pen, range), { colors }).fillShapes();
    return { canvas };
  }
  fillShapes() {
    const { pen, colors } = this;
    const alike = new Map();  // colours are changed seldom
    this.forVisible((cell, i) => {
      if (!alike.has(colors[i])) alike.set(colors[i], []);
      alike.get(colors[i]).push(cell);
    });
    for (const [color, cells] of alike) {
      pen.fillStyle = css(color);
      for (const cell of cells) {  // one by one: browsers are slow with paths of many parts
        this.trace(cell, 1 + 0.6 / this.camera.scale);
        pen.fill();
      }
    }
    this.drawLines();
  }
  drawLines() {
    if (this.camera.scale >= 14) this.drawGrid();
    if (this.camera.scale >= 10) this.drawHatch();
  }
  drawGrid() {
    const { pen } = this;
    pen.beginPath();
    this.forVisible((cell) => this.outline(cell));
    pen.lineWidth = 1;
    pen.strokeStyle = "rgba(16,32,43,0.1)";
    pen.stroke();
  }
  // What cannot be entered, for eyes that see no colours too: light strokes on dark ground, dark ones on light.
  drawHatch() {
    const { pen, scene, camera, colors } = this;
    const arm = camera.scale * 0.17;
    pen.lineWidth = 1;
    for (const light of [true, false]) {
      pen.beginPath();
      this.forVisible((cell, i) => {
        const hatched = scene.costs[i] === 0 && !scene.kinds[scene.terrain[i]].void;
        if (!hatched || bright(colors[i]) > 120 === light) return;
        const [x, y] = this.toScreen(scene.layout.centre(cell));
        pen.moveTo(x - arm, y + arm);
        pen.lineTo(x + arm, y - arm);
      });
      pen.strokeStyle = light ? "rgba(255,255,255,0.45)" : "rgba(16,32,43,0.45)";
      pen.stroke();
    }
  }
}
