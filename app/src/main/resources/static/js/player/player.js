import { SoundingControllers } from "./sounding-controllers.js";
import { RepeatedKeys, soonTicks } from "./repeated-keys.js";
import { TempoMap } from "./tempo-map.js";
import { PEDAL, Voices } from "./voices.js";

/**
 * Turns plan and tempo map into what sounds when. It goes round loops by itself, for hours; it knows
 * no samples and no synthesizer. Ticks are done once and in order, whatever plans arrive meanwhile.
 *
 * @typedef {(number | null)[]} PlannedNote [id, place, length (-1: drone), pitch, velocity,
 *   1 if tied, silent from?, silent through?]
 * @typedef {{id: string, start: number, length: number, phase: number, from: number, until?: number,
 *   underWay?: boolean, letRing?: boolean, notes: PlannedNote[],
 *   moves?: import("./sounding-controllers.js").Move[]}} Span
 * @typedef {{part: number, sound: {drums: boolean, program: number}, spans: Span[]}} PartPlan
 * @typedef {{entryMicros: number, leastRest: number, handBeforeMicros: number, sameGestureMicros: number}} Tolerances
 *   what is forgiven: microseconds, and ticks of rest; the numbers are the core's, which come with each plan
 * @typedef {import("./voices.js").Action} Action
 */

/** The part number under which the click sounds. */
export const CLICK = -1;

/** A gap in time longer than this is not caught up with, but entered anew, in microseconds. */
const LONGEST_GAP = 150_000;

const DRONE = -1;

const NONE = Object.freeze([]);

export class Player {
  constructor() {
    this.voices = new Voices();
    this.controllers = new SoundingControllers();
    this.repeated = new RepeatedKeys();
    /** @type {import("./repeated-keys.js").Repeat | null} how held keys are repeated */
    this.repeat = null;
    /** @type {Map<number, PartPlan>} */
    this.parts = new Map();
    /** @type {TempoMap | null} the map while the transport runs */
    this.map = null;
    /** @type {Tolerances} */
    this.tolerances = { entryMicros: 0, leastRest: 0, handBeforeMicros: 0, sameGestureMicros: 0 };
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
    /** @type {Set<string>} spans that have left */
    this.left = new Set();
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
    this.tolerances = plan.tolerances;
    this.click = plan.click;
    this.#setRepeat(plan.repeat ?? null, now);
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

  #setRepeat(repeat, now) {
    const same = JSON.stringify(repeat) === JSON.stringify(this.repeat);
    this.repeat = repeat;
    if (!same && this.map) {
      this.repeated.follow(repeat, Math.ceil(this.map.tickAt(now)));
    }
  }

  /**
   * A key of the performer goes down: it sounds at once, or on the lines of the grid on which keys repeat.
   *
   * @param {number} pressed the instant at which it went down: what is repeated is judged there
   */
  handDown(part, pitch, velocity, now, pressed = now) {
    if (this.repeat && this.map && pitch !== PEDAL) {
      const tick = this.map.tickAt(pressed);
      const soon = soonTicks(this.map, Math.floor(tick + 0.5));
      this.repeated.down(part, pitch, velocity, this.repeat, tick, soon);
    } else {
      this.voices.handDown(this.pending, now, part, pitch, velocity);
    }
  }

  /** A key that is repeated is pressed more or less. */
  handPresses(part, pitch, velocity) {
    this.repeated.pressure(part, pitch, velocity);
  }

  /** The performer moves a controller. */
  handMoves(part, kind, number, value, now) {
    this.controllers.move(this.pending, now, part, kind, number, value);
  }

  handUp(part, pitch, now) {
    this.repeated.up(part, pitch);
    this.voices.handUp(this.pending, now, part, pitch);
  }

  /**
   * What the page tells of hands: a key down, up, or pressed more or less, or a controller moved.
   *
   * @param {{part: number, down?: number, velocity?: number, press?: number, move?: number[], up?: number}} message
   * @param {number} pressed the instant at which a key went down
   * @returns {boolean} whether it was of hands
   */
  takeHands({ part, down, velocity, press, move, up }, now, pressed) {
    if (down !== undefined) {
      this.handDown(part, down, velocity, now, pressed);
    } else if (press !== undefined) {
      this.handPresses(part, press, velocity);
    } else if (move) {
      this.handMoves(part, ...move, now);
    } else if (up !== undefined) {
      this.handUp(part, up, now);
    } else {
      return false;
    }
    return true;
  }

  /** Everything ends; what is due later sounds again. */
  panic(now) {
    this.voices.endAll(this.pending, now);
    this.controllers.releaseAll(this.pending, now);
    this.repeated.clear();
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
    this.#leaveLate(out);
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

  /** What has left by now, as was heard of only later. */
  #leaveLate(out) {
    for (const [part, { spans }] of this.parts) {
      for (const span of spans) {
        if (span.until <= this.done && !this.left.has(span.id)) {
          this.#leave(out, this.map.microsOf(this.done + 1), part, span, spans, this.done + 1);
        }
      }
    }
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
              reload: this.done - span.from > this.tolerances.leastRest,
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
            happen: (out, micros) => this.#leave(out, micros, part, span, spans, span.until),
          });
        }
        this.#addMoves(events, part, span, after, last);
        for (const note of span.notes) {
          for (const tick of occurrences(span, note, after, last)) {
            events.push({
              tick,
              rank: 4,
              happen: (out, micros) => this.#loopDown(out, micros, part, span, note, tick),
            });
          }
        }
      }
    }
    for (const stroke of this.repeated.upTo(last, after + 1, this.repeat)) {
      events.push({
        tick: stroke.tick,
        rank: stroke.velocity ? 3 : 0,
        happen: (out, micros) => this.#strike(out, micros, stroke),
      });
    }
    this.#addClicks(events, after, last);
    return events.sort((a, b) => a.tick - b.tick || a.rank - b.rank);
  }

  #strike(out, micros, { part, pitch, velocity }) {
    if (velocity) {
      this.voices.handDown(out, micros, part, pitch, velocity);
    } else {
      this.voices.handUp(out, micros, part, pitch);
    }
  }

  /** Controllers move where their place comes round; at the line they are where they should be. */
  #addMoves(events, part, span, after, last) {
    if (!span.moves) {
      return;
    }
    for (const tick of ticksOf(span, span.start, after, last)) {
      if (tick > span.from) {
        events.push({
          tick,
          rank: 2,
          happen: (out, micros) => this.controllers.settle(out, micros, part, span, span.start),
        });
      }
    }
    for (const [kind, number, place, value] of span.moves) {
      for (const tick of ticksOf(span, place, after, last)) {
        if (tick > span.from) {
          events.push({
            tick,
            rank: 3,
            happen: (out, micros) => this.controllers.loopMoves(out, micros, part, kind, number, value),
          });
        }
      }
    }
  }

  #enterMoves(out, micros, part, span, at) {
    if (span.moves) {
      const offset = (at - span.phase) % span.length;
      const place = span.start + (offset < 0 ? offset + span.length : offset);
      this.controllers.settle(out, micros, part, span, place);
    }
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
            rank: 5,
            happen: (out, micros) => out.push({ micros, kind: "on", part: CLICK, pitch, velocity }),
          });
        }
      }
    }
  }

  #loopDown(out, micros, part, span, note, tick, end) {
    const [id, , length, pitch, velocity, tied] = note;
    const drone = length === DRONE;
    const hold = {
      span: span.id,
      note: id,
      tick,
      end: end ?? (drone ? Infinity : tick + length),
    };
    if (drone && this.voices.holdOf(part, pitch)?.note === id) {
      // a key that is held goes round: once it is up, its length counts from here
      this.voices.takeOver(part, pitch, hold);
      return;
    }
    const struck = this.parts.get(part).sound.drums;
    const { sameGestureMicros } = this.tolerances;
    this.voices.loopDown(out, micros, part, pitch, velocity, hold, tied === 1, struck, sameGestureMicros);
  }

  /** Notes under way at the entry, counted round the circle, are attacked with the rest of their length. */
  #enterOnTime(out, part, span) {
    this.#enterMoves(out, this.map.microsOf(span.from), part, span, span.from);
    if (!span.underWay) {
      return;
    }
    for (const found of underWay(span, span.from)) {
      this.#enter(out, this.map.microsOf(span.from), part, span, found);
    }
  }

  /** What is under way is attacked with its rest; a pitch that sounds sounds on to the new end. */
  #enter(out, micros, part, span, { note, tick, end }) {
    if (this.voices.isSounding(part, note[3])) {
      this.voices.takeOver(part, note[3], { span: span.id, note: note[0], tick, end });
    } else {
      this.#loopDown(out, micros, part, span, note, tick, end);
    }
  }

  /** An entry whose tick is past by the time it can sound. */
  #enterLate(out, part, span, reload) {
    const at = this.done + 1;
    const micros = this.map.microsOf(at);
    this.#enterMoves(out, micros, part, span, at);
    for (const found of underWay(span, at)) {
      const { note, tick, end } = found;
      const due = reload || span.underWay || tick >= span.from;
      const begun = Math.max(tick, span.from);
      const rest = end - at;
      const soon = micros - this.map.microsOf(begun) <= this.tolerances.entryMicros;
      const worthIt = rest >= this.tolerances.leastRest && rest * 2 >= end - begun;
      const byHand = !reload && this.#wasPlayedByHand(part, note[3], begun);
      if (due && (reload || soon || worthIt) && !byHand) {
        this.#enter(out, micros, part, span, found);
      }
    }
    if (!reload) {
      this.#makeUpForShortNotes(out, part, span, at, micros);
    }
  }

  /** Notes that were due and are over by now, no more than the forgiven time ago, still sound. */
  #makeUpForShortNotes(out, part, span, at, micros) {
    const earliest = Math.max(span.from, this.map.lastTickBefore(micros - this.tolerances.entryMicros) + 1);
    for (const note of span.notes) {
      for (const tick of occurrences(span, note, earliest - 1, at - 1)) {
        const over = note[2] !== DRONE && tick + note[2] <= at;
        if (over && !this.#wasPlayedByHand(part, note[3], tick)) {
          this.#loopDown(out, micros, part, span, note, at, at + note[2]);
        }
      }
    }
  }

  /** Whether the performer's own stroke stands for a note that was due. */
  #wasPlayedByHand(part, pitch, due) {
    const since = this.map.microsOf(due) - this.tolerances.handBeforeMicros;
    return this.voices.attackedByHandSince(since, part, pitch);
  }

  /**
   * Where a clip leaves its notes end, but for what the clip that enters there goes on with: a note of its
   * own, as when its window was moved, or a pitch that is under way in it.
   */
  #leave(out, micros, part, span, spans, tick) {
    this.left.add(span.id);
    const enters = spans.find((next) => next.from === span.until && next !== span);
    const under = enters?.underWay ? underWay(enters, tick) : [];
    for (const voice of this.voices.heldByLoops()) {
      const { loop } = voice;
      if (voice.part !== part || loop.span !== span.id) {
        continue;
      }
      const goesOn = under.find(({ note }) => note[3] === voice.pitch);
      if (span.letRing && enters?.notes.some(([id]) => id === loop.note)) {
        voice.loop = { ...loop, span: enters.id };
      } else if (goesOn) {
        voice.loop = { span: enters.id, note: goesOn.note[0], tick: goesOn.tick, end: goesOn.end };
      } else if (!span.letRing || loop.end === Infinity) {
        this.voices.loopUp(out, micros, voice);
      }
    }
    if (span.moves) {
      this.controllers.release(out, micros, part, span);
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
      for (const span of list) {
        spans.set(span.id, new Map(span.notes.map((note) => [note[0], note])));
        if (!(span.until <= this.done)) {
          this.left.delete(span.id);
        }
      }
    }
    for (const voice of this.voices.heldByLoops()) {
      const note = spans.get(voice.loop.span)?.get(voice.loop.note);
      const end = note && (note[2] === DRONE ? Infinity : voice.loop.tick + note[2]);
      if (!note || note[3] !== voice.pitch || (this.done !== null && end <= this.done)) {
        this.voices.loopUp(this.pending, now, voice);
      } else {
        voice.loop.end = end;
      }
    }
  }

  #stop(now, wasRolling) {
    this.done = null;
    this.entering = [];
    this.left.clear();
    this.repeated.clear();
    if (wasRolling) {
      this.controllers.releaseAll(this.pending, now);
    }
    for (const voice of this.voices.heldByLoops()) {
      this.voices.loopUp(this.pending, now, voice);
    }
    this.stopped ||= wasRolling;
  }
}

/** The ticks in (after, last] at which a span sounds a note: mostly none, so that is found first. */
function occurrences(span, note, after, last) {
  const ticks = ticksOf(span, note[1], after, last);
  return note.length > 6 ? ticks.filter((tick) => !isSilent(note, tick)) : ticks;
}

/**
 * Whether a note is not attacked at a tick though its place comes round. Where it is silent from a tick that
 * comes after the one through which it is, it sounds between the two.
 */
function isSilent([, , , , , , from, through], tick) {
  if (typeof from === "number" && typeof through === "number" && from > through) {
    return tick >= from || tick <= through;
  }
  return from !== undefined && (from === null || tick >= from) && (through === null || tick <= through);
}

/** The ticks in (after, last] at which a place of a span comes round. */
function ticksOf(span, place, after, last) {
  const base = span.phase + place - span.start;
  const end = Math.min(last, (span.until ?? Infinity) - 1);
  let tick = base + Math.ceil((after + 1 - base) / span.length) * span.length;
  if (tick > end) {
    return NONE;
  }
  const ticks = [];
  for (; tick <= end; tick += span.length) {
    if (tick >= span.from) {
      ticks.push(tick);
    }
  }
  return ticks;
}

/** Notes that have begun before a tick, counted round the circle, and have not ended by then. */
function underWay(span, at) {
  const found = [];
  for (const note of span.notes) {
    const [, place, length] = note;
    const base = span.phase + place - span.start;
    const tick = base + Math.floor((at - 1 - base) / span.length) * span.length;
    const end = length === DRONE ? Infinity : tick + length;
    if (end > at && !isSilent(note, tick)) {
      found.push({ note, tick, end });
    }
  }
  return found.sort((a, b) => a.tick - b.tick);
}
