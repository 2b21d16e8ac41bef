import { ticksOf } from "./occurrences.js";
/**
 * Where the controllers of each part stand, and what loops do to them.
 *
 * @typedef {number[]} Move [kind, number, place, value]
 */

/** @type {("control" | "bend" | "pressure")[]} by the number that moves have */
const KINDS = ["control", "bend", "pressure"];

/** Where what springs back comes to rest, by kind; a control change stays where it is. */
const REST = [null, 8192, 0];

export class SoundingControllers {
  constructor() {
    /** @type {Map<number, Map<number, number>>} for each part the value of each controller */
    this.values = new Map();
  }

  /**
   * A hand moves a controller.
   *
   * @param {import("./voices.js").Action[]} out
   */
  move(out, micros, part, kind, number, value) {
    if (!this.values.has(part)) {
      this.values.set(part, new Map());
    }
    this.values.get(part).set(keyOf(kind, number), value);
    out.push({ micros, kind: KINDS[kind], part, pitch: number, velocity: value });
  }

  /** A loop moves a controller: nothing is sent where it is already. */
  loopMoves(out, micros, part, kind, number, value) {
    if (this.values.get(part)?.get(keyOf(kind, number)) !== value) {
      this.move(out, micros, part, kind, number, value);
    }
  }

  /** At an entry, and at the line: what is in force at a place is sent where it is otherwise. */
  settle(out, micros, part, span, place) {
    for (const [kind, number] of controllers(span)) {
      this.loopMoves(out, micros, part, kind, number, inForce(span, kind, number, place));
    }
  }

  /** Where a clip leaves, what springs back does so. */
  release(out, micros, part, span) {
    controllers(span).forEach(([kind, number]) => this.#springBack(out, micros, part, kind, number));
  }

  /** All that springs back does so, everywhere. */
  releaseAll(out, micros) {
    for (const [part, values] of this.values) {
      for (const key of [...values.keys()]) {
        this.#springBack(out, micros, part, Math.floor(key / 128), key % 128);
      }
    }
  }

  #springBack(out, micros, part, kind, number) {
    const now = this.values.get(part)?.get(keyOf(kind, number));
    if (REST[kind] !== null && now !== undefined && now !== REST[kind]) {
      this.move(out, micros, part, kind, number, REST[kind]);
    }
  }

  /** Controllers move where their place comes round; at the line they are where they should be. */
  find(events, part, span, after, last) {
    // what closes over its arguments makes a place for them as it is called
    if (span.moves?.length) {
      this.#findMoves(events, part, span, after, last);
    }
  }

  #findMoves(events, part, span, after, last) {
    for (const tick of ticksOf(span, span.start, after, last)) {
      if (tick > span.from) {
        events.push({
          tick,
          rank: 2,
          happen: (out, micros) => this.settle(out, micros, part, span, span.start),
        });
      }
    }
    for (const [kind, number, place, value] of span.moves) {
      for (const tick of ticksOf(span, place, after, last)) {
        if (tick > span.from) {
          events.push({
            tick,
            rank: 3,
            happen: (out, micros) => this.loopMoves(out, micros, part, kind, number, value),
          });
        }
      }
    }
  }
}

function keyOf(kind, number) {
  return kind * 128 + number;
}

function controllers(span) {
  const found = new Map();
  for (const [kind, number] of span.moves) {
    found.set(keyOf(kind, number), [kind, number]);
  }
  return [...found.values()];
}

/** The value in force at a place, counted round the circle. */
function inForce(span, kind, number, place) {
  const moves = span.moves.filter((move) => move[0] === kind && move[1] === number);
  const before = moves.filter((move) => move[2] <= place);
  return (before.length ? before : moves).at(-1)[3];
}
