// Where cells lie: centres and outlines as the library told them, for any tiling. A board repeats after two columns and
// two rows, so four cells tell it all.

const kindOf = (col, row) => (row & 1) * 2 + (col & 1);

export class Layout {
  constructor(told, size) {
    this.told = told;
    [this.cols, this.rows] = size;
    const [ax, ay] = told.columns;
    const [bx, by] = told.rows;
    const area = ax * by - ay * bx;
    this.toBlocks = [by / area, -bx / area, -ay / area, ax / area];
    this.reach = Math.max(...told.corners.flat().map(([x, y]) => Math.hypot(x, y)));
  }

  contains(col, row) {
    return col >= 0 && row >= 0 && col < this.cols && row < this.rows;
  }
  index([col, row]) {
    return row * this.cols + col;
  }
  cell(index) {
    return [index % this.cols, Math.floor(index / this.cols)];
  }

  centre([col, row]) {
    const [x, y] = this.told.centres[kindOf(col, row)];
    const across = col >> 1;
    const down = row >> 1;
    return [x + across * this.told.columns[0] + down * this.told.rows[0],
            y + across * this.told.columns[1] + down * this.told.rows[1]];
  }
  // Corners about the centre.
  outline([col, row]) {
    return this.told.corners[kindOf(col, row)];
  }
  // The sides across which edge neighbours lie, each as two points about the centre.
  sides([col, row]) {
    return this.told.sides[kindOf(col, row)];
  }
  // The neighbours in the library's order of directions, those across an edge first.
  neighbour([col, row], direction) {
    const [right, down] = this.told.beside[kindOf(col, row)][direction];
    return [col + right, row + down];
  }
  directions([col, row]) {
    return this.told.beside[kindOf(col, row)].length;
  }

  // The block of two by two cells that a place is in, in fractions.
  blockAt(x, y) {
    const [first] = this.told.centres;
    const [a, b, c, d] = this.toBlocks;
    return [a * (x - first[0]) + b * (y - first[1]), c * (x - first[0]) + d * (y - first[1])];
  }
  // The cell at a place, or null off the map: a look at the few cells about it.
  cellAt(x, y) {
    const [across, down] = this.blockAt(x, y);
    for (let row = 2 * Math.floor(down) - 2; row <= 2 * Math.floor(down) + 4; ++row) {
      for (let col = 2 * Math.floor(across) - 2; col <= 2 * Math.floor(across) + 4; ++col) {
        if (this.contains(col, row) && this.holds([col, row], x, y)) return [col, row];
      }
    }
    return null;
  }
  holds(cell, x, y) {
    const [cx, cy] = this.centre(cell);
    if (Math.abs(x - cx) > this.reach || Math.abs(y - cy) > this.reach) return false;
    const corners = this.outline(cell);
    let left = 0;
    let right = 0;
    for (let i = 0; i < corners.length; ++i) {
      const [ax, ay] = corners[i];
      const [bx, by] = corners[(i + 1) % corners.length];
      const turn = (bx - ax) * (y - cy - ay) - (by - ay) * (x - cx - ax);
      if (turn < -1e-9) ++left;
      if (turn > 1e-9) ++right;
    }
    return left === 0 || right === 0;
  }
  // The direction of the edge that a place within a cell is nearest to.
  sideAt(cell, x, y) {
    const [cx, cy] = this.centre(cell);
    let best = 0;
    let least = Infinity;
    this.sides(cell).forEach(([ax, ay, bx, by], direction) => {
      const far = Math.hypot((ax + bx) / 2 - (x - cx), (ay + by) / 2 - (y - cy));
      if (far < least) [best, least] = [direction, far];
    });
    return best;
  }

  // What holds every cell: left, top, right, bottom.
  bounds() {
    const box = [Infinity, Infinity, -Infinity, -Infinity];
    const ends = (count) => [0, 1, count - 2, count - 1].filter((n) => n >= 0);
    for (const row of ends(this.rows)) {
      for (const col of ends(this.cols)) {
        const [x, y] = this.centre([col, row]);
        for (const [dx, dy] of this.outline([col, row])) {
          box[0] = Math.min(box[0], x + dx);
          box[1] = Math.min(box[1], y + dy);
          box[2] = Math.max(box[2], x + dx);
          box[3] = Math.max(box[3], y + dy);
        }
      }
    }
    return box;
  }

  // Columns and rows that a part of the plane can show.
  visible(left, top, right, bottom) {
    const corners = [[left, top], [right, top], [left, bottom], [right, bottom]].map(([x, y]) => this.blockAt(x, y));
    const across = corners.map(([a]) => 2 * a);
    const down = corners.map(([, d]) => 2 * d);
    const within = (value, most) => Math.max(0, Math.min(most, value));
    return {
      left: within(Math.floor(Math.min(...across)) - 2, this.cols),
      right: within(Math.ceil(Math.max(...across)) + 3, this.cols),
      top: within(Math.floor(Math.min(...down)) - 2, this.rows),
      bottom: within(Math.ceil(Math.max(...down)) + 3, this.rows),
    };
  }

  // Each cell as a box of two by two small squares, shifted by one where the tiling shifts by half a cell: how a board
  // is shown when its cells are too small for their shapes.
  get small() {
    if (this.smallShifts === undefined) {
      const [a, b, c, d] = this.toBlocks;
      const half = (shift) => Math.trunc(2.02 * shift);  // a triangle's third of a row is none
      this.smallShifts = this.told.centres.map(([x, y], kind) => [
        half(2 * (a * x + b * y) - (kind & 1)), half(2 * (c * x + d * y) - (kind >> 1))]);
    }
    return this.smallShifts;
  }
  // Where the first of those boxes has its middle: on triangles, in the middle of the band of ups and downs.
  get smallMiddle() {
    const { centres, columns, rows } = this.told;
    const off = (axis) => centres.map((centre, kind) => {
      const [x, y] = this.small[kind];
      return centre[axis] - (columns[axis] * ((kind & 1) + x / 2) + rows[axis] * ((kind >> 1) + y / 2)) / 2;
    }).reduce((sum, value) => sum + value / 4, 0);
    return [off(0), off(1)];
  }
}

// Lists told as [value, count, value, count, ...].
export function unrolled(runs, count, Type = Int32Array) {
  const values = new Type(count);
  let at = 0;
  for (let i = 0; i + 1 < runs.length; i += 2) {
    values.fill(runs[i], at, at + runs[i + 1]);
    at += runs[i + 1];
  }
  return values;
}

export const sameCell = (a, b) => String(a) === String(b);
export const decimal = (hundredths) => String(Math.round(hundredths) / 100);
