// What a search or a walker did, on a clock.

export const unseen = "unseen";
export const open = "open";
export const closed = "closed";

// A search: the order in which it checked cells, and when each came into its sight.
export class SearchReplay {
  constructor(told, cellCount) {
    this.visits = told.visits;
    this.opened = told.opened;
    this.length = this.visits.cells.length;
    this.count = told.count;
    this.firstClosed = new Int32Array(cellCount).fill(-1);
    this.firstOpened = new Int32Array(cellCount).fill(-1);
    this.visits.cells.forEach((cell, i) => {
      if (this.firstClosed[cell] < 0) this.firstClosed[cell] = i;
    });
    this.opened.cells.forEach((cell, i) => {
      if (this.firstOpened[cell] < 0) this.firstOpened[cell] = this.opened.at[i];
    });
  }
  // After so many checks.
  state(cell, time) {
    const checked = this.firstClosed[cell];
    if (checked >= 0 && checked < time) return closed;
    const seen = this.firstOpened[cell];
    return seen >= 0 && seen < Math.max(time, 1) ? open : unseen;
  }
  // The cost so far, the estimate of what remains, and the number of the check, as known then.
  numbers(cell, time) {
    const { cells, costs, estimates, parents } = this.visits;
    for (let i = Math.min(time, this.length) - 1; i >= 0 && this.firstClosed[cell] >= 0; --i) {
      if (cells[i] === cell) return { cost: costs[i], estimate: estimates[i], number: i + 1, parent: parents[i] };
      if (i < this.firstClosed[cell]) break;
    }
    let found = null;
    for (let i = 0; i < this.opened.cells.length && this.opened.at[i] < Math.max(time, 1); ++i) {
      if (this.opened.cells[i] === cell) found = { cost: this.opened.costs[i] };
    }
    return found;
  }
  current(time) {
    return time > 0 && time <= this.length ? this.visits.cells[time - 1] : -1;
  }
}

// A walker: the cells it was on.
export class WalkReplay {
  constructor(told, cellCount) {
    this.trail = told.trail;
    this.length = Math.max(0, told.trail.length - 1);  // steps
    this.count = Math.max(0, told.count - 1);
    this.cellCount = cellCount;
  }
  current(time) {
    return this.trail[Math.min(time, this.trail.length - 1)] ?? -1;
  }
  // How often it was on each cell by then.
  counts(time) {
    const counts = new Int32Array(this.cellCount);
    for (let i = 0; i <= time && i < this.trail.length; ++i) ++counts[this.trail[i]];
    return counts;
  }
}

// Any replay that an answer brings, or null.
export function replayOf(told, cellCount) {
  if (told?.visits) return new SearchReplay(told, cellCount);
  if (told?.trail) return new WalkReplay(told, cellCount);
  return null;
}

// Goes from 0 to `length` steps, at a speed, or by hand.
export class Clock {
  constructor(changed) {
    this.changed = changed;
    this.length = 0;
    this.time = 0;
    this.speed = 60;
    this.playing = false;
  }
  begin(length, time = length) {
    this.stop();
    this.length = length;
    this.set(time);
  }
  set(time) {
    this.time = Math.max(0, Math.min(this.length, Math.round(time)));
    this.changed();
  }
  step(by) {
    this.stop();
    this.set(this.time + by);
  }
  play() {
    if (this.length === 0) return;
    if (this.time >= this.length) this.time = 0;
    this.playing = true;
    let began = performance.now();
    let from = this.time;
    let speed = this.speed;
    const tick = (now) => {
      if (!this.playing) return;
      if (speed !== this.speed) [began, from, speed] = [now, this.time, this.speed];
      this.set(from + ((now - began) / 1000) * speed);
      if (this.time >= this.length) return this.stop();
      requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
    this.changed();
  }
  stop() {
    if (!this.playing) return;
    this.playing = false;
    this.changed();
  }
  toggle() {
    if (this.playing) this.stop();
    else this.play();
  }
}

// The clock's controls: a slider, step, play, speed.
export function clockControls(clock, into) {
  const made = (tag, properties) => into.appendChild(Object.assign(document.createElement(tag), properties));
  const button = (id, text, title, act) => made("button", { id, type: "button", textContent: text, title, onclick: act });
  button("time-first", "|<", "to the beginning", () => clock.step(-clock.length));
  button("time-back", "<", "one step back (comma)", () => clock.step(-1));
  const play = button("time-play", "Play", "play or pause (k)", () => clock.toggle());
  button("time-next", ">", "one step on (full stop)", () => clock.step(1));
  button("time-last", ">|", "to the end", () => clock.step(clock.length));
  const slider = made("input", { id: "time", type: "range", min: 0, step: 1, title: "step" });
  slider.setAttribute("aria-label", "step of the search or walk");
  slider.oninput = () => {
    clock.stop();
    clock.set(Number(slider.value));
  };
  const where = made("output", { id: "time-where" });
  const label = made("label", { textContent: "speed " });
  const speed = label.appendChild(Object.assign(document.createElement("select"), { id: "time-speed" }));
  for (const each of [5, 20, 60, 300, 2000, 20000]) {
    speed.append(new Option(`${each} a second`, each, each === clock.speed, each === clock.speed));
  }
  speed.onchange = () => {
    clock.speed = Number(speed.value);
  };
  return () => {
    slider.max = clock.length;
    slider.value = clock.time;
    where.textContent = `step ${clock.time} of ${clock.length}`;
    play.textContent = clock.playing ? "Pause" : "Play";
    into.hidden = clock.length === 0;
  };
}
