// The map on a canvas: ground, what an answer says about its cells, and marks; panned and zoomed; sharp on any screen.
import { Ground } from "./ground.js";
import { Marks } from "./marks.js";

const shapesFrom = 7;  // pixels for a cell; smaller ones are small squares of one picture

// Where a view looks: shared by views side by side.
export class Camera {
  scale = 0;  // pixels for an edge step; 0: all of the map
  x = 0;
  y = 0;
  fitted = "";  // for which size of the canvas all of the map was fitted; "": one has moved since
}

export class MapView {
  // @param handlers  hover(cell), press(cell, event, place) -> a drag {move(cell), end(cell), cancel()} or nothing
  constructor(canvas, handlers, camera = new Camera()) {
    Object.assign(this, { canvas, handlers, camera, scene: null, time: 0, replay: null });
    this.shown = {};  // what is laid over the ground, see Ground and Marks
    this.cursor = null;
    this.asked = false;
    this.dragging = null;
    this.fingers = new Map();
    new ResizeObserver(() => this.draw()).observe(canvas);
    canvas.addEventListener("wheel", (event) => this.wheel(event), { passive: false });
    canvas.addEventListener("pointerdown", (event) => this.down(event));
    canvas.addEventListener("pointermove", (event) => this.move(event));
    canvas.addEventListener("pointerup", (event) => this.up(event));
    canvas.addEventListener("pointercancel", (event) => this.up(event, true));
    canvas.addEventListener("pointerleave", () => this.handlers.hover?.(null, this));
    canvas.addEventListener("contextmenu", (event) => event.preventDefault());
  }

  show(scene) {
    const same = this.scene && String(this.scene.told.size) === String(scene.told.size) &&
                 this.scene.told.tiling === scene.told.tiling && this.scene.layout.told.rows[1] === scene.layout.told.rows[1];
    this.scene = scene;
    if (!same) this.camera.scale = 0;
    this.draw();
  }

  // Places.
  fit() {
    const [left, top, right, bottom] = this.scene.layout.bounds();
    const { clientWidth: width, clientHeight: height } = this.canvas;
    this.camera.scale = Math.max(0.05, Math.min(96, Math.min(width / (right - left), height / (bottom - top)) * 0.98));
    this.camera.x = (left + right) / 2;
    this.camera.y = (top + bottom) / 2;
    this.camera.fitted = `${width} x ${height}`;
  }
  toScreen([x, y]) {
    const { scale } = this.camera;
    return [(x - this.camera.x) * scale + this.canvas.clientWidth / 2, (y - this.camera.y) * scale + this.canvas.clientHeight / 2];
  }
  toMap(event) {
    const box = this.canvas.getBoundingClientRect();
    const { scale } = this.camera;
    return [(event.clientX - box.left - box.width / 2) / scale + this.camera.x,
            (event.clientY - box.top - box.height / 2) / scale + this.camera.y];
  }
  cellAt(event) {
    return this.scene ? this.scene.layout.cellAt(...this.toMap(event)) : null;
  }
  zoom(factor, at = null) {
    const [x, y] = at ?? [this.camera.x, this.camera.y];
    const scale = Math.max(0.05, Math.min(160, this.camera.scale * factor));
    const share = this.camera.scale / scale;
    this.camera.x = x + (this.camera.x - x) * share;
    this.camera.y = y + (this.camera.y - y) * share;
    this.camera.scale = scale;
    this.camera.fitted = "";
    this.changed();
  }
  pan(right, down) {
    this.camera.x -= right / this.camera.scale;
    this.camera.y -= down / this.camera.scale;
    this.camera.fitted = "";
    this.changed();
  }
  // Moves the view so that a cell is on the screen.
  reveal(cell) {
    const [x, y] = this.toScreen(this.scene.layout.centre(cell));
    const off = (value, most) => (value < 30 ? value - 30 : value > most - 30 ? value - most + 30 : 0);
    const [right, down] = [off(x, this.canvas.clientWidth), off(y, this.canvas.clientHeight)];
    if (right || down) this.pan(-right, -down);
  }
  changed() {
    this.draw();
    this.handlers.moved?.(this);
  }

  // Pointers: one presses or drags, two pan and zoom.
  wheel(event) {
    event.preventDefault();
    if (this.scene) this.zoom(Math.exp(-event.deltaY * 0.0015), this.toMap(event));
  }
  down(event) {
    if (!this.scene) return;
    this.canvas.setPointerCapture(event.pointerId);
    this.fingers.set(event.pointerId, event);
    if (this.fingers.size === 2) {
      this.dragging?.cancel?.();
      this.dragging = { pans: true };
      return;
    }
    const cell = this.cellAt(event);
    const pans = event.button !== 0 || event.shiftKey;
    const drag = pans ? null : this.handlers.press?.(cell, event, this.toMap(event));
    this.dragging = drag ?? { pans: true };
  }
  move(event) {
    const before = this.fingers.get(event.pointerId);
    if (this.scene) this.handlers.hover?.(this.cellAt(event), this);
    if (!before || !this.dragging) return;
    this.fingers.set(event.pointerId, event);
    if (this.fingers.size === 2) return this.pinch(before, event);
    if (this.dragging.pans) return this.pan(event.clientX - before.clientX, event.clientY - before.clientY);
    this.dragging.move?.(this.cellAt(event));
  }
  pinch(before, event) {
    const [other] = [...this.fingers.values()].filter((finger) => finger.pointerId !== event.pointerId);
    const apart = (finger) => Math.hypot(finger.clientX - other.clientX, finger.clientY - other.clientY);
    this.pan((event.clientX - before.clientX) / 2, (event.clientY - before.clientY) / 2);
    this.zoom(apart(event) / Math.max(1, apart(before)), this.toMap(other));
  }
  up(event, cancelled = false) {
    this.fingers.delete(event.pointerId);
    if (this.fingers.size > 0) return;
    const drag = this.dragging;
    this.dragging = null;
    if (cancelled) drag?.cancel?.();
    else drag?.end?.(this.cellAt(event));
  }

  // Drawing: soon, once.
  draw() {
    if (this.asked || !this.scene) return;
    this.asked = true;
    requestAnimationFrame(() => {
      this.asked = false;
      this.paint();
    });
  }
  paint() {
    const { canvas, camera } = this;
    const dense = window.devicePixelRatio || 1;
    const [width, height] = [Math.round(canvas.clientWidth * dense), Math.round(canvas.clientHeight * dense)];
    if (width === 0 || height === 0) return;
    if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
    const size = `${canvas.clientWidth} x ${canvas.clientHeight}`;
    if (camera.scale === 0 || (camera.fitted !== "" && camera.fitted !== size)) this.fit();
    const pen = canvas.getContext("2d");
    pen.setTransform(dense, 0, 0, dense, 0, 0);
    pen.clearRect(0, 0, canvas.clientWidth, canvas.clientHeight);
    const [left, top] = [camera.x - canvas.clientWidth / 2 / camera.scale, camera.y - canvas.clientHeight / 2 / camera.scale];
    const range = this.scene.layout.visible(left, top, 2 * camera.x - left, 2 * camera.y - top);
    const small = camera.scale < shapesFrom;
    const colors = new Ground(this, pen, range).draw(small);
    new Marks(this, pen, range).draw(colors, small);
  }
}
