/**
 * One voice for each part and pitch, held by the loop, by the hand, or by both. An attack by either
 * attacks it anew, off before on; it ends when neither holds it. The sustain pedal is a voice too, with the
 * greater of loop and foot: what is down is not pressed again.
 *
 * @typedef {{span: string, note: number, place: number, tick: number, end: number}} LoopHold
 *   the note that holds the voice, where it lay when it was attacked, the tick of its attack and the tick of its end (Infinity: drone)
 * @typedef {{part: number, pitch: number, loop: LoopHold | null, hand: boolean}} Voice
 * @typedef {{micros: number, kind: "on" | "off" | "control" | "bend" | "pressure", part: number,
 *   pitch: number, velocity: number}} Action
 *   of a control change `pitch` is its number; of all that is no note `velocity` is the value
 */

/** What the sustain pedal has in place of a pitch. */
export const PEDAL = 128;

const SUSTAIN = 64;
const KEYS = 129;

export class Voices {
  constructor() {
    /** @type {Map<number, Voice>} */
    this.sounding = new Map();
    /** @type {Map<number, number>} instant of the last hand attack of each part and pitch */
    this.handAttacks = new Map();
  }

  /**
   * @param {Action[]} out
   * @param {number} micros
   * @param {number} part
   * @param {number} pitch
   * @param {number} velocity 1 to 127
   */
  handDown(out, micros, part, pitch, velocity) {
    const voice = this.#voice(part, pitch);
    const attacked = this.#attack(out, micros, voice, velocity, part, pitch);
    attacked.hand = true;
    this.handAttacks.set(keyOf(part, pitch), micros);
  }

  /**
   * @param {Action[]} out
   * @param {number} micros
   * @param {number} part
   * @param {number} pitch
   */
  handUp(out, micros, part, pitch) {
    const voice = this.#voice(part, pitch);
    if (voice?.hand) {
      voice.hand = false;
      this.#endIfFree(out, micros, voice);
    }
  }

  /**
   * @param {Action[]} out
   * @param {number} micros
   * @param {number} part
   * @param {number} pitch
   * @param {number} velocity 1 to 127
   * @param {LoopHold} hold
   * @param {boolean} tied whether it sounds on where it sounds already
   * @param {boolean} struck whether the sound dies by itself, as a drum's: then a hand's stroke just
   *   before is the same gesture even though the key is up again
   * @param {number} sameGestureMicros this soon after a hand attack it takes hold without attacking
   */
  loopDown(out, micros, part, pitch, velocity, hold, tied, struck, sameGestureMicros) {
    const voice = this.#voice(part, pitch);
    const byHand = micros - (this.handAttacks.get(keyOf(part, pitch)) ?? -Infinity) <= sameGestureMicros;
    if (voice && (byHand || tied || pitch === PEDAL)) {
      voice.loop = hold;
      return;
    }
    if (byHand && struck) {
      return;
    }
    this.#attack(out, micros, voice, velocity, part, pitch).loop = hold;
  }

  /**
   * Lets the loop go of a voice.
   *
   * @param {Action[]} out
   * @param {number} micros
   * @param {Voice} voice
   */
  loopUp(out, micros, voice) {
    voice.loop = null;
    this.#endIfFree(out, micros, voice);
  }

  /** @returns {Voice[]} voices that a loop holds, the one that ends first at the front */
  heldByLoops() {
    return [...this.sounding.values()].filter((v) => v.loop).sort((a, b) => a.loop.end - b.loop.end);
  }

  /** @returns {Voice | null} of those that a loop holds, and that end by a tick, the first to end */
  nextToEnd(tick) {
    let first = null;
    for (const voice of this.sounding.values()) {
      if (voice.loop && voice.loop.end <= tick && (!first || voice.loop.end < first.loop.end)) {
        first = voice;
      }
    }
    return first;
  }

  /** @returns {boolean} whether a pitch was attacked by hand at an instant or later */
  attackedByHandSince(micros, part, pitch) {
    return (this.handAttacks.get(keyOf(part, pitch)) ?? -Infinity) >= micros;
  }

  /** @returns {LoopHold | null | undefined} the loop's hold on a pitch */
  holdOf(part, pitch) {
    return this.#voice(part, pitch)?.loop;
  }

  /** A loop takes hold of a voice that sounds. */
  takeOver(part, pitch, hold) {
    this.#voice(part, pitch).loop = hold;
  }

  isSounding(part, pitch) {
    return this.sounding.has(keyOf(part, pitch));
  }

  /**
   * Ends every voice.
   *
   * @param {Action[]} out
   * @param {number} micros
   */
  endAll(out, micros) {
    for (const voice of this.sounding.values()) {
      out.push(off(micros, voice));
    }
    this.sounding.clear();
  }

  #voice(part, pitch) {
    return this.sounding.get(keyOf(part, pitch));
  }

  #attack(out, micros, voice, velocity, part, pitch) {
    if (voice && pitch === PEDAL) {
      return voice;
    }
    if (voice) {
      out.push(off(micros, voice));
    }
    const attacked = voice ?? { part, pitch, loop: null, hand: false };
    this.sounding.set(keyOf(part, pitch), attacked);
    out.push(action("on", micros, part, pitch, velocity));
    return attacked;
  }

  #endIfFree(out, micros, voice) {
    if (!voice.hand && !voice.loop) {
      out.push(off(micros, voice));
      this.sounding.delete(keyOf(voice.part, voice.pitch));
    }
  }
}

function keyOf(part, pitch) {
  return part * KEYS + pitch;
}

function action(kind, micros, part, pitch, velocity) {
  return pitch === PEDAL
    ? { micros, kind: "control", part, pitch: SUSTAIN, velocity }
    : { micros, kind, part, pitch, velocity };
}

function off(micros, voice) {
  return action("off", micros, voice.part, voice.pitch, 0);
}
