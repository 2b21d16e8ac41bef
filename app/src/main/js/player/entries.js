import { DRONE, naturalEnd, occurrences, tied, underWay } from "./occurrences.js";

/**
 * Clips entering and leaving: which of their notes are attacked, taken up, sound on, or end.
 *
 * @typedef {import("./player.js").PartPlan} PartPlan
 * @typedef {import("./player.js").Span} Span
 */
export class Entries {
  /**
   * @param {import("./voices.js").Voices} voices
   * @param {import("./sounding-controllers.js").SoundingControllers} controllers
   */
  constructor(voices, controllers) {
    this.voices = voices;
    this.controllers = controllers;
    /** @type {import("./tempo-map.js").TempoMap | null} */
    this.map = null;
    /** @type {import("./player.js").Tolerances} */
    this.tolerances = {
      entryMicros: 0,
      leastRest: 0,
      handBeforeMicros: 0,
      strokeTicks: 0,
      sameGestureMicros: 0,
    };
  }

  /** From now on these hold. */
  follow(map, tolerances) {
    this.map = map;
    this.tolerances = tolerances;
  }

  /** A note of a loop is due; a drone that is held already goes on. */
  loopDown(out, micros, { part, sound }, span, note, tick, end = naturalEnd(note, tick)) {
    const [id, place, length, pitch, velocity, tied] = note;
    const hold = { span: span.id, note: id, place, tick, end };
    if (length === DRONE && this.voices.holdOf(part, pitch)?.note === id) {
      // a key that is held goes round: once it is up, its length counts from here
      this.voices.takeOver(part, pitch, hold);
      return;
    }
    const { sameGestureMicros } = this.tolerances;
    this.voices.loopDown(
      out,
      micros,
      part,
      pitch,
      velocity,
      hold,
      tied === 1,
      sound.drums,
      sameGestureMicros,
    );
  }

  /** Notes under way at the entry, counted round the circle, are attacked with the rest of their length. */
  onTime(out, plan, span) {
    this.#enterMoves(out, this.map.microsOf(span.from), plan, span, span.from);
    if (!span.underWay) {
      return;
    }
    for (const found of underWay(span, span.from)) {
      if (!this.#isOver(plan, span, found)) {
        this.#enter(out, this.map.microsOf(span.from), plan, span, found);
      }
    }
  }

  /** A stroke of a drum has no length: one that began some time before the entry is over. */
  #isOver({ sound }, span, { tick }) {
    return sound.drums && tick < span.from - this.tolerances.strokeTicks;
  }

  /** An entry whose tick is past by the time it can sound. */
  late(out, plan, span, at, reload) {
    const micros = this.map.microsOf(at);
    this.#enterMoves(out, micros, plan, span, at);
    for (const found of reload && plan.sound.drums ? [] : underWay(span, at)) {
      const { note, tick, end } = found;
      const due = reload || span.underWay || tick >= span.from;
      const begun = Math.max(tick, span.from);
      const rest = end - at;
      const soon = micros - this.map.microsOf(begun) <= this.tolerances.entryMicros;
      const worthIt = rest >= this.tolerances.leastRest && rest * 2 >= end - begun;
      const counts = plan.sound.drums ? soon && !this.#isOver(plan, span, found) : soon || worthIt;
      const byHand = !reload && this.#wasPlayedByHand(plan, note[3], begun);
      if (due && (reload || counts) && !byHand) {
        this.#enter(out, micros, plan, span, found);
      }
    }
    if (!reload) {
      this.#makeUpForShortNotes(out, plan, span, at, micros);
    }
  }

  /**
   * Where a clip leaves its notes end, but for what the clip that enters there goes on with: a note of its
   * own, as when its window was moved, or a pitch that is under way in it.
   */
  leave(out, micros, { part, spans }, span, tick) {
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
        const [note, place] = goesOn.note;
        voice.loop = { span: enters.id, note, place, tick: goesOn.tick, end: goesOn.end };
      } else if (!span.letRing || loop.end === Infinity) {
        this.voices.loopUp(out, micros, voice);
      }
    }
    if (span.moves) {
      this.controllers.release(out, micros, part, span);
    }
  }

  /** What is tied over the start of the clip that enters where one leaves sounds on as its note. */
  tie({ part, spans }, span, tick) {
    const enters = spans.find((next) => next.from === span.until && next !== span);
    for (const voice of enters ? this.voices.heldByLoops() : []) {
      const note =
        voice.part === part && voice.loop.span === span.id ? tied(enters, voice.pitch, tick) : undefined;
      if (note) {
        voice.loop = { span: enters.id, note: note[0], place: note[1], tick, end: naturalEnd(note, tick) };
      }
    }
  }

  /** What is under way is attacked with its rest; a pitch that sounds sounds on to the new end. */
  #enter(out, micros, plan, span, { note, tick, end }) {
    const { part } = plan;
    if (this.voices.isSounding(part, note[3])) {
      this.voices.takeOver(part, note[3], {
        span: span.id,
        note: note[0],
        place: note[1],
        tick,
        end,
      });
    } else {
      this.loopDown(out, micros, plan, span, note, tick, end);
    }
  }

  /** Notes that were due and are over by now, no more than the forgiven time ago, still sound. */
  #makeUpForShortNotes(out, plan, span, at, micros) {
    const earliest = Math.max(span.from, this.map.lastTickBefore(micros - this.tolerances.entryMicros) + 1);
    for (const note of span.notes) {
      for (const tick of occurrences(span, note, earliest - 1, at - 1)) {
        const over = note[2] !== DRONE && tick + note[2] <= at;
        if (over && !this.#wasPlayedByHand(plan, note[3], tick)) {
          this.loopDown(out, micros, plan, span, note, at, at + note[2]);
        }
      }
    }
  }

  /** Whether the performer's own stroke stands for a note that was due. */
  #wasPlayedByHand({ part }, pitch, due) {
    const since = this.map.microsOf(due) - this.tolerances.handBeforeMicros;
    return this.voices.attackedByHandSince(since, part, pitch);
  }

  #enterMoves(out, micros, { part }, span, at) {
    if (span.moves) {
      const offset = (at - span.phase) % span.length;
      const place = span.start + (offset < 0 ? offset + span.length : offset);
      this.controllers.settle(out, micros, part, span, place);
    }
  }
}
