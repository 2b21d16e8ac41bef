import { TempoMap } from "./tempo-map.js";
import { Voices } from "./voices.js";

/**
 * Turns plan and tempo map into what sounds when. It goes round loops by itself, for hours; it knows
 * no samples and no synthesizer. Ticks are done once and in order, whatever plans arrive meanwhile.
 *
 * @typedef {number[]} PlannedNote [id, place, length (-1: drone), pitch, velocity, after?]
 * @typedef {{id: string, start: number, length: number, phase: number, from: number,
 *   until?: number, notes: PlannedNote[]}} Span
 * @typedef {{part: number, sound: {drums: boolean, program: number}, spans: Span[]}} PartPlan
 * @typedef {import("./voices.js").Action} Action
 */

/** The part number under which the click sounds. */
export const CLICK = -1;

/** An entry that comes no later than this is made up for, in microseconds. */
const FORGIVEN_ENTRY = 30_000;

/** A missed note that has less left than this waits a pass, in ticks. */
const LEAST_REST = 240;

/** A pitch played by hand this long before an entry is not attacked again, in microseconds. */
const HAND_BEFORE_ENTRY = 80_000;

/** A gap in time longer than this is not caught up with, but entered anew, in microseconds. */
const LONGEST_GAP = 150_000;

const DRONE = -1;

const NONE = Object.freeze([]);

export class Player {
  constructor() {
    this.voices = new Voices();
    /** @type {Map<number, PartPlan>} */
    this.parts = new Map();
    /** @type {TempoMap | null} the map while the transport runs */
    this.map = null;
    this.firstTick = 0;
    this.click = {
      ticks: 960,
      barTicks: 3840,
      beatKey: 77,
      downbeatKey: 76,
      gain: 1,
      spans: [],
    };
    /** @type {number | null} the last tick that has been dealt with */
    this.done = null;
    /** @type {Action[]} what is to happen at once */
    this.pending = [];
    /** @type {{part: number, span: Span, reload: boolean}[]} spans to be entered where they stand */
    this.entering = [];
    /** whether the next sound after a stop is to wait for silence */
    this.stopped = false;
  }

  /**
   * Takes a plan. Voices whose note is gone end, those whose end has changed are re-timed, others are
   * not touched.
   *
   * @param {object} plan as `docs/protocol.md` has it; parts that are not in it stay as they are
   * @param {number} now microseconds of server time of the next block
   */
  setPlan(plan, now) {
    const wasRolling = this.map !== null;
    this.map = plan.rolling ? new TempoMap(plan.anchors) : null;
    this.firstTick = plan.firstTick;
    this.click = plan.click;
    for (const part of plan.parts) {
      const known = new Set((this.parts.get(part.part)?.spans ?? []).map((span) => span.id));
      this.parts.set(part.part, part);
      for (const span of part.spans) {
        if (!known.has(span.id) && this.done !== null && span.from <= this.done) {
          this.entering.push({ part: part.part, span, reload: false });
        }
      }
    }
    for (const id of this.parts.keys()) {
      if (!plan.order.includes(id)) {
        this.parts.delete(id);
      }
    }
    if (!this.map) {
      this.#stop(now, wasRolling);
    } else {
      this.#retime(now);
    }
  }

  /** A key of the performer goes down: it sounds at once. */
  handDown(part, pitch, velocity, now) {
    this.voices.handDown(this.pending, now, part, pitch, velocity);
  }

  handUp(part, pitch, now) {
    this.voices.handUp(this.pending, now, part, pitch);
  }

  /** Everything ends; what is due later sounds again. */
  panic(now) {
    this.voices.endAll(this.pending, now);
  }

  /**
   * What sounds in a stretch of time.
   *
   * @param {number} from microseconds of server time
   * @param {number} until microseconds of server time
   * @returns {Action[]} in order; what is late has the instant `from`
   */
  advance(from, until) {
    const out = this.pending;
    this.pending = [];
    if (this.map) {
      this.#rollTo(out, from, until);
    }
    for (const action of out) {
      action.micros = Math.max(from, action.micros);
    }
    return out;
  }

  #rollTo(out, from, until) {
    const last = this.map.lastTickBefore(until);
    if (this.done === null || from - this.map.microsOf(this.done) > LONGEST_GAP) {
      this.#enterAll(out, from);
    }
    for (const { part, span, reload } of this.entering.splice(0)) {
      this.#enterLate(out, part, span, reload);
    }
    if (last <= this.done) {
      return;
    }
    for (const event of this.#events(this.done, last)) {
      this.#endUpTo(out, event.tick);
      event.happen(out, this.map.microsOf(event.tick));
    }
    this.#endUpTo(out, last);
    this.done = last;
  }

  /** Begins to sound in the middle, as after a reload: what is under way is taken up. */
  #enterAll(out, from) {
    for (const voice of this.voices.heldByLoops()) {
      this.voices.loopUp(out, from, voice);
    }
    const before = this.map.lastTickBefore(from);
    const onTime = this.done === null && before < this.firstTick;
    this.done = Math.max(this.firstTick - 1, before);
    this.entering = [];
    if (!onTime) {
      for (const [part, { spans }] of this.parts) {
        for (const span of spans) {
          if (span.from <= this.done) {
            this.entering.push({
              part,
              span,
              reload: this.done - span.from > LEAST_REST,
            });
          }
        }
      }
    }
  }

  /** Attacks, entries, leavings and clicks in (after, last], by rising tick. */
  #events(after, last) {
    const events = [];
    for (const [part, { spans }] of this.parts) {
      for (const span of spans) {
        if (span.from > after && span.from <= last) {
          events.push({
            tick: span.from,
            rank: 1,
            happen: (out) => this.#enterOnTime(out, part, span),
          });
        }
        if (span.until !== undefined && span.until > after && span.until <= last) {
          events.push({
            tick: span.until,
            rank: 0,
            happen: (out, micros) => this.#leave(out, micros, span),
          });
        }
        for (const note of span.notes) {
          for (const tick of occurrences(span, note, after, last)) {
            events.push({
              tick,
              rank: 2,
              happen: (out, micros) => this.#loopDown(out, micros, part, span, note, tick),
            });
          }
        }
      }
    }
    this.#addClicks(events, after, last);
    return events.sort((a, b) => a.tick - b.tick || a.rank - b.rank);
  }

  #addClicks(events, after, last) {
    const { ticks, barTicks, beatKey, downbeatKey, spans } = this.click;
    const first = Math.ceil((after + 1) / ticks) * ticks;
    const start = Math.floor(first / barTicks) * barTicks;
    for (let bar = start; bar <= last; bar += barTicks) {
      for (let tick = bar; tick < bar + barTicks && tick <= last; tick += ticks) {
        if (tick > after && spans.some(([from, until]) => tick >= from && (until === null || tick < until))) {
          const pitch = tick === bar ? downbeatKey : beatKey;
          const velocity = tick === bar ? 120 : 92;
          events.push({
            tick,
            rank: 3,
            happen: (out, micros) => out.push({ micros, kind: "on", part: CLICK, pitch, velocity }),
          });
        }
      }
    }
  }

  #loopDown(out, micros, part, span, note, tick, end) {
    const [id, , length, pitch, velocity] = note;
    const drone = length === DRONE;
    if (drone && this.voices.isSounding(part, pitch)) {
      const held = this.voices.heldByLoops().some((v) => v.part === part && v.loop.note === id);
      if (held) {
        return;
      }
    }
    const hold = {
      span: span.id,
      note: id,
      tick,
      end: end ?? (drone ? Infinity : tick + length),
    };
    const struck = this.parts.get(part).sound.drums;
    this.voices.loopDown(out, micros, part, pitch, velocity, hold, struck);
  }

  /** Notes under way at the entry, counted round the circle, are attacked with the rest of their length. */
  #enterOnTime(out, part, span) {
    for (const { note, tick, end } of underWay(span, span.from)) {
      if (!this.voices.isSounding(part, note[3])) {
        this.#loopDown(out, this.map.microsOf(span.from), part, span, note, tick, end);
      }
    }
  }

  /** An entry whose tick is past by the time it can sound. */
  #enterLate(out, part, span, reload) {
    const at = this.done + 1;
    const micros = this.map.microsOf(at);
    const handSince = this.map.microsOf(span.from) - HAND_BEFORE_ENTRY;
    for (const { note, tick, end } of underWay(span, at)) {
      const begun = Math.max(tick, span.from);
      const rest = end - at;
      const soon = micros - this.map.microsOf(begun) <= FORGIVEN_ENTRY;
      const worthIt = rest >= LEAST_REST && rest * 2 >= end - begun;
      const byHand = !reload && this.voices.attackedByHandSince(handSince, part, note[3]);
      if ((reload || soon || worthIt) && !byHand) {
        this.#loopDown(out, micros, part, span, note, tick, end);
      }
    }
    if (!reload) {
      this.#makeUpForShortNotes(out, part, span, at, micros, handSince);
    }
  }

  /** Notes that were due and are over by now, no more than the forgiven time ago, still sound. */
  #makeUpForShortNotes(out, part, span, at, micros, handSince) {
    const earliest = Math.max(span.from, this.map.lastTickBefore(micros - FORGIVEN_ENTRY) + 1);
    for (const note of span.notes) {
      for (const tick of occurrences(span, note, earliest - 1, at - 1)) {
        const over = note[2] !== DRONE && tick + note[2] <= at;
        if (over && !this.voices.attackedByHandSince(handSince, part, note[3])) {
          this.#loopDown(out, micros, part, span, note, at, at + note[2]);
        }
      }
    }
  }

  #leave(out, micros, span) {
    for (const voice of this.voices.heldByLoops()) {
      if (voice.loop.span === span.id) {
        this.voices.loopUp(out, micros, voice);
      }
    }
  }

  #endUpTo(out, tick) {
    for (const voice of this.voices.heldByLoops()) {
      if (voice.loop.end > tick) {
        return;
      }
      this.voices.loopUp(out, this.map.microsOf(voice.loop.end), voice);
    }
  }

  #retime(now) {
    const spans = new Map();
    for (const { spans: list } of this.parts.values()) {
      list.forEach((span) => spans.set(span.id, new Map(span.notes.map((note) => [note[0], note]))));
    }
    for (const voice of this.voices.heldByLoops()) {
      const note = spans.get(voice.loop.span)?.get(voice.loop.note);
      if (!note || note[3] !== voice.pitch) {
        this.voices.loopUp(this.pending, now, voice);
      } else {
        voice.loop.end = note[2] === DRONE ? Infinity : voice.loop.tick + note[2];
      }
    }
  }

  #stop(now, wasRolling) {
    this.done = null;
    this.entering = [];
    for (const voice of this.voices.heldByLoops()) {
      this.voices.loopUp(this.pending, now, voice);
    }
    this.stopped ||= wasRolling;
  }
}

/** The ticks in (after, last] at which a span sounds a note: mostly none, so that is found first. */
function occurrences(span, note, after, last) {
  const base = span.phase + note[1] - span.start;
  const end = Math.min(last, (span.until ?? Infinity) - 1);
  let tick = base + Math.ceil((after + 1 - base) / span.length) * span.length;
  if (tick > end) {
    return NONE;
  }
  const ticks = [];
  for (; tick <= end; tick += span.length) {
    if (tick >= span.from && !(tick <= note[5])) {
      ticks.push(tick);
    }
  }
  return ticks;
}

/** Notes that have begun before a tick, counted round the circle, and have not ended by then. */
function underWay(span, at) {
  const found = [];
  for (const note of span.notes) {
    const [, place, length, , , heard] = note;
    const base = span.phase + place - span.start;
    const tick = base + Math.floor((at - 1 - base) / span.length) * span.length;
    const end = length === DRONE ? Infinity : tick + length;
    if (end > at && (heard === undefined || tick > heard)) {
      found.push({ note, tick, end });
    }
  }
  return found;
}
