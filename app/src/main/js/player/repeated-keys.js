/**
 * Held keys that sound again on every line of a grid. The grid is the core's; from its own key states the
 * player sounds them, so that nothing depends on delivery.
 *
 * @typedef {{step: number, swing: number, barTicks: number}} Repeat
 * @typedef {{tick: number, part: number, pitch: number, velocity: number}} Stroke velocity 0 for an end
 */

/** @type {never[]} */
const NONE = [];

/** A press this soon after a line counts for it, in microseconds. */
const SOON = 60_000;

export class RepeatedKeys {
  constructor() {
    /** @type {{part: number, pitch: number, velocity: number, line: number}[]} */
    this.keys = [];
    /** @type {Stroke[]} */
    this.ends = [];
  }

  /**
   * A key goes down.
   *
   * @param {number} pressed the place at which it was pressed, with its fraction
   * @param {number} soon ticks after a line in which a press counts for it
   */
  down(part, pitch, velocity, repeat, pressed, soon) {
    this.up(part, pitch);
    const back = Math.min(Math.floor(repeat.step / 2), soon);
    this.keys.push({ part, pitch, velocity, line: lineFrom(repeat, Math.floor(pressed + 0.5) - back) });
  }

  up(part, pitch) {
    const other = (key) => key.part !== part || key.pitch !== pitch;
    this.ends = this.ends.filter(other);
    this.keys = this.keys.filter(other);
  }

  pressure(part, pitch, velocity) {
    for (const key of this.keys) {
      if (key.part === part && key.pitch === pitch) {
        key.velocity = velocity;
      }
    }
  }

  /** A new grid counts from its own next line; without one the keys are silent. */
  follow(repeat, from) {
    for (const key of this.keys) {
      key.line = repeat ? lineFrom(repeat, from) : Infinity;
    }
  }

  clear() {
    this.keys = [];
    this.ends = [];
  }

  /**
   * The strokes, and their ends, up to a tick; what is overdue is due at once.
   *
   * @returns {Stroke[]}
   */
  upTo(last, now, repeat) {
    if (!this.keys.length && !this.ends.length) {
      return NONE;
    }
    const strokes = [];
    for (const key of this.keys) {
      while (repeat && key.line <= last) {
        const { part, pitch, velocity, line } = key;
        strokes.push({ tick: Math.max(now, line), part, pitch, velocity });
        this.ends.push({ tick: line + Math.floor(repeat.step / 2), part, pitch, velocity: 0 });
        key.line = lineFrom(repeat, line + 1);
      }
    }
    const due = this.ends.filter((end) => end.tick <= last);
    this.ends = this.ends.filter((end) => end.tick > last);
    return [...strokes, ...due.map((end) => ({ ...end, tick: Math.max(now, end.tick) }))];
  }
}

/** Ticks in {@link SOON} before a place. */
export function soonTicks(map, tick) {
  return tick - Math.floor(map.tickAt(map.microsOf(tick) - SOON) + 0.5);
}

/** The first line at a tick or after it; bar lines are lines. */
export function lineFrom({ step, swing, barTicks }, tick) {
  const bar = Math.floor(tick / barTicks) * barTicks;
  for (let index = Math.max(0, Math.floor((tick - bar) / step) - 1); ; index++) {
    const pair = Math.floor(index / 2) * 2 * step;
    const place = index % 2 ? pair + Math.floor((2 * step * swing) / 100 + 0.5) : pair;
    const line = Math.min(bar + place, bar + barTicks);
    if (line >= tick) {
      return line;
    }
  }
}
