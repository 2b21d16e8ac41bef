import { clicks } from "./clicks.js";
import { Entries } from "./entries.js";
import { comingRound, naturalEnd } from "./occurrences.js";
import { RepeatedKeys, soonTicks } from "./repeated-keys.js";
import { SoundingControllers } from "./sounding-controllers.js";
import { TempoMap } from "./tempo-map.js";
import { PEDAL, Voices } from "./voices.js";

/**
 * Turns plan and tempo map into what sounds when. It goes round loops by itself, for hours; it knows
 * no samples and no synthesizer. Ticks are done once and in order, whatever plans arrive meanwhile.
 *
 * @typedef {{part?: number, down?: number, velocity?: number, press?: number, move?: number[], up?: number}} OfHands
 *   what the page tells of hands on a part
 * @typedef {(number | null)[]} PlannedNote [id, place, length (-1: drone), pitch, velocity,
 *   1 if tied, silent from?, silent through?]
 * @typedef {{id: string, start: number, length: number, phase: number, from: number, until?: number,
 *   underWay?: boolean, letRing?: boolean, notes: PlannedNote[],
 *   moves?: import("./sounding-controllers.js").Move[]}} Span
 * @typedef {{part: number, sound: {drums: boolean, program: number}, spans: Span[]}} PartPlan
 * @typedef {{entryMicros: number, leastRest: number, handBeforeMicros: number, strokeTicks: number, sameGestureMicros: number}} Tolerances
 *   what is forgiven: microseconds, and ticks of rest; the numbers are the core's, which come with each plan
 * @typedef {import("./voices.js").Action} Action
 */

/** The part number under which the click sounds. */
export const CLICK = -1;

/** The rank of what is tied over a line: it is so before anything ends there. */
const TIES = -1;

/** Most blocks: nothing is made on the heap for it, as what clears the heap stops the music. @type {never[]} */
const NOTHING = [];

/** A gap in time longer than this is not caught up with, but entered anew, in microseconds. */
const LONGEST_GAP = 150_000;

export class Player {
  constructor() {
    this.voices = new Voices();
    this.controllers = new SoundingControllers();
    this.entries = new Entries(this.voices, this.controllers);
    this.repeated = new RepeatedKeys();
    /** @type {import("./repeated-keys.js").Repeat | null} how held keys are repeated */
    this.repeat = null;
    /** @type {Map<number, PartPlan>} */
    this.parts = new Map();
    /** @type {TempoMap | null} the map while the transport runs */
    this.map = null;
    /** @type {Tolerances | null} */
    this.tolerances = null;
    this.firstTick = 0;
    this.click = {
      ticks: 960,
      perBeat: 1,
      barTicks: 3840,
      beatKey: 77,
      downbeatKey: 76,
      velocities: [0, 0, 0],
      gain: 1,
      spans: [],
    };
    /** @type {number | null} the last tick that has been dealt with */
    this.done = null;
    /** @type {Action[]} what is to happen at once */
    this.pending = [];
    /** @type {{tick: number, rank: number, happen: (out: Action[], micros: number) => unknown}[]} what a block has */
    this.events = [];
    /** takes a note that comes round */
    this.takeNote = (note, tick, span, plan) => {
      this.events.push({
        tick,
        rank: 4,
        happen: (out, micros) => this.entries.loopDown(out, micros, plan, span, note, tick),
      });
    };
    /** @type {{plan: PartPlan, span: Span, reload: boolean}[]} spans to be entered where they stand */
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
   * @param {Record<string, any>} plan as `docs/protocol.md` has it; parts that are not in it stay as they are
   * @param {number} now microseconds of server time of the next block
   */
  setPlan(plan, now) {
    const wasRolling = this.map !== null;
    const before = this.map;
    this.map = plan.rolling ? new TempoMap(plan.anchors) : null;
    this.firstTick = plan.firstTick;
    this.tolerances = plan.tolerances;
    this.entries.follow(this.map, this.tolerances);
    this.click = plan.click;
    this.#setRepeat(plan.repeat ?? null, now);
    for (const part of plan.parts) {
      const known = new Set((this.parts.get(part.part)?.spans ?? []).map((span) => span.id));
      this.parts.set(part.part, part);
      for (const span of part.spans) {
        if (!known.has(span.id) && this.done !== null && span.from <= this.done) {
          this.entering.push({ plan: part, span, reload: false });
        }
      }
    }
    for (const id of this.parts.keys()) {
      if (!plan.order.includes(id)) {
        this.parts.delete(id);
      }
    }
    // stopped and started within one command: ticks are counted anew
    const anew = this.map && before && this.map.isAnewAfter(before);
    if (!this.map || anew) {
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
   * @param {OfHands} message
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
    if (this.map) {
      try {
        this.#rollTo(out, from, until);
      } catch (fault) {
        // what was half done is done again, and is not to sound twice
        this.pending = [];
        throw fault;
      }
    }
    if (out.length === 0) {
      return NOTHING;
    }
    this.pending = [];
    for (const action of out) {
      action.micros = Math.max(from, action.micros);
    }
    return out;
  }

  #rollTo(out, from, until) {
    const last = this.map.lastTickBefore(until);
    if (this.done === null || this.map.isBefore(this.done, from - LONGEST_GAP)) {
      this.#enterAll(out, from);
    }
    this.#leaveLate(out);
    if (this.entering.length) {
      for (const { plan, span, reload } of this.entering.splice(0)) {
        this.entries.late(out, plan, span, this.done + 1, reload);
      }
    }
    if (last <= this.done) {
      return;
    }
    const { events } = this;
    // a block that had a fault leaves some
    events.length = 0;
    this.#find(events, this.done, last);
    if (events.length) {
      events.sort((a, b) => a.tick - b.tick || a.rank - b.rank);
      for (const event of events) {
        this.#endUpTo(out, event.rank === TIES ? event.tick - 1 : event.tick);
        event.happen(out, this.map.microsOf(event.tick));
      }
      events.length = 0;
    }
    this.#endUpTo(out, last);
    this.done = last;
  }

  /** What has left by now, as was heard of only later. */
  #leaveLate(out) {
    for (const plan of this.parts.values()) {
      for (const span of plan.spans) {
        if (span.until <= this.done && !this.left.has(span.id)) {
          this.entries.tie(plan, span, this.done + 1);
          this.#leave(out, this.map.microsOf(this.done + 1), plan, span, this.done + 1);
        }
      }
    }
  }

  #leave(out, micros, plan, span, tick) {
    this.left.add(span.id);
    this.entries.leave(out, micros, plan, span, tick);
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
      for (const plan of this.parts.values()) {
        for (const span of plan.spans) {
          if (span.from <= this.done) {
            this.entering.push({
              plan,
              span,
              reload: this.done - span.from > this.tolerances.leastRest,
            });
          }
        }
      }
    }
  }

  /** Attacks, entries, leavings and clicks in (after, last]. */
  #find(events, after, last) {
    for (const plan of this.parts.values()) {
      for (const span of plan.spans) {
        if (span.from > after && span.from <= last) {
          this.#findEntry(events, plan, span);
        }
        if (span.until !== undefined && span.until > after && span.until <= last) {
          this.#findLeaving(events, plan, span);
        }
        this.controllers.find(events, plan.part, span, after, last);
        comingRound(span, after, last, this.takeNote, plan);
      }
    }
    const strokes = this.repeated.upTo(last, after + 1, this.repeat);
    const clicked = clicks(this.click, after, last);
    if (strokes.length || clicked.length) {
      this.#findStrokes(events, strokes, clicked);
    }
  }

  #findStrokes(events, strokes, clicked) {
    for (const stroke of strokes) {
      events.push({
        tick: stroke.tick,
        rank: stroke.velocity ? 3 : 0,
        happen: (out, micros) => this.#strike(out, micros, stroke),
      });
    }
    for (const { tick, pitch, velocity } of clicked) {
      events.push({
        tick,
        rank: 5,
        happen: (out, micros) => out.push({ micros, kind: "on", part: CLICK, pitch, velocity }),
      });
    }
  }

  #findEntry(events, plan, span) {
    events.push({
      tick: span.from,
      rank: 1,
      happen: (out) => this.entries.onTime(out, plan, span),
    });
  }

  #findLeaving(events, plan, span) {
    events.push({
      tick: span.until,
      rank: TIES,
      happen: () => this.entries.tie(plan, span, span.until),
    });
    events.push({
      tick: span.until,
      rank: 0,
      happen: (out, micros) => this.#leave(out, micros, plan, span, span.until),
    });
  }

  #strike(out, micros, { part, pitch, velocity }) {
    if (velocity) {
      this.voices.handDown(out, micros, part, pitch, velocity);
    } else {
      this.voices.handUp(out, micros, part, pitch);
    }
  }

  #endUpTo(out, tick) {
    for (let voice = this.voices.nextToEnd(tick); voice; voice = this.voices.nextToEnd(tick)) {
      this.voices.loopUp(out, this.map.microsOf(voice.loop.end), voice);
    }
  }

  #retime(now) {
    const spans = new Map();
    for (const { spans: list } of this.parts.values()) {
      for (const span of list) {
        spans.set(span.id, span);
        if (!(span.until <= this.done)) {
          this.left.delete(span.id);
        }
      }
    }
    for (const voice of this.voices.heldByLoops()) {
      const note = spans.get(voice.loop.span)?.notes.find(([id]) => id === voice.loop.note);
      const end = note && naturalEnd(note, voice.loop.tick);
      const same = note && note[3] === voice.pitch && note[1] === voice.loop.place;
      if (!same || (this.done !== null && end <= this.done)) {
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
