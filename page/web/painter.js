// What everything drawn on the map shares: colours, and where cells are on the screen.

export const rgb = (hex) => [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16));
export const packed = ([red, green, blue]) => (255 << 24) | (blue << 16) | (green << 8) | red;
export const css = (color) => `rgb(${color & 255},${(color >> 8) & 255},${(color >> 16) & 255})`;
export const bright = (color) => 0.299 * (color & 255) + 0.587 * ((color >> 8) & 255) + 0.114 * ((color >> 16) & 255);

export function mixed(under, [red, green, blue], share) {
  const part = (a, b) => Math.round(a + (b - a) * share);
  return packed([part(under & 255, red), part((under >> 8) & 255, green), part((under >> 16) & 255, blue)]);
}
// The colour at a share of a ramp of evenly spaced stops.
export function onRamp(stops, share) {
  const place = Math.max(0, Math.min(1, share)) * (stops.length - 1);
  const below = Math.min(Math.floor(place), stops.length - 2);
  const [a, b] = [rgb(stops[below]), rgb(stops[below + 1])];
  return a.map((value, i) => Math.round(value + (b[i] - value) * (place - below)));
}

// A ramp at 65 even shares, for looking up.
export const rampTable = (stops) => Array.from({ length: 65 }, (_, i) => onRamp(stops, i / 64));

// One drawing of a view: what it shows, at the moment it is drawn.
export class Painter {
  constructor(view, pen, range) {
    const { scene, camera, shown, replay, time } = view;
    Object.assign(this, { view, pen, range, scene, camera, shown, replay, time });
  }
  toScreen(place) {
    return this.view.toScreen(place);
  }
  forVisible(draw) {
    const { range, scene } = this;
    for (let row = range.top; row < range.bottom; ++row) {
      for (let col = range.left; col < range.right; ++col) draw([col, row], row * scene.layout.cols + col);
    }
  }
  // Adds the shape of a cell to what is being drawn.
  outline(cell, grown = 1) {
    const { pen, scene, camera } = this;
    const [x, y] = this.toScreen(scene.layout.centre(cell));
    scene.layout.outline(cell).forEach(([dx, dy], i) => {
      const place = [x + dx * camera.scale * grown, y + dy * camera.scale * grown];
      if (i === 0) pen.moveTo(...place);
      else pen.lineTo(...place);
    });
    pen.closePath();
  }
  trace(cell, grown = 1) {
    this.pen.beginPath();
    this.outline(cell, grown);
  }
}
