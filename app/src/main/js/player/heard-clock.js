/**
 * The audio thread's idea of server time: which instant is heard with the frame that is rendered
 * next. It runs on without a jump; where the two clocks drift apart it is slewed, never stepped,
 * except before the first sound and after a stall.
 */

/** Measurements jitter; less than this is left alone, in microseconds. */
const LEFT_ALONE = 2_000;

/** Once a correction has begun, it goes on until the error is less than this, in microseconds. */
const CORRECTED = 200;

/** A correction takes about this long, in microseconds… */
const CORRECTED_OVER = 4_000_000;

/** …but time is stretched by at least this, and at most that: too little for an ear to notice. */
const LEAST_STRETCH = 0.0002;
const MOST_STRETCH = 0.01;

/** Beyond this a correction is a step: the machine has stalled or slept, and sound was broken. Microseconds. */
const STEP = 50_000;

export class HeardClock {
  /** @param {number} sampleRate frames a second */
  constructor(sampleRate) {
    this.perFrame = 1e6 / sampleRate;
    /** @type {number | null} microseconds of server time of the next frame, less the epoch */
    this.micros = null;
    /** instants are counted from here, so that they keep their fractions */
    this.epoch = 0;
    this.stretch = 0;
    this.base = 0;
    this.frames = 0;
  }

  /**
   * A measurement.
   *
   * @param {number} frame a frame
   * @param {number} micros the instant at which it is heard, in microseconds of server time
   * @param {number} nextFrame the frame that is rendered next
   */
  measure(frame, micros, nextFrame) {
    if (this.micros === null) {
      this.epoch = Math.round(micros);
    }
    const measured = micros - this.epoch + (nextFrame - frame) * this.perFrame;
    const error = this.micros === null ? Infinity : measured - this.micros;
    if (Math.abs(error) > STEP) {
      this.#goOn(measured, 0);
    } else if (Math.abs(error) > LEFT_ALONE || (this.stretch && Math.abs(error) > CORRECTED)) {
      const stretch = Math.min(MOST_STRETCH, Math.max(LEAST_STRETCH, Math.abs(error) / CORRECTED_OVER));
      this.#goOn(this.micros, Math.sign(error) * stretch);
    } else if (this.stretch) {
      this.#goOn(this.micros, 0);
    }
  }

  /**
   * Moves on by some frames.
   *
   * @param {number} frames
   * @returns {[number, number]} the instants at which they begin and end, less the epoch
   */
  advance(frames) {
    const from = this.micros;
    this.frames += frames;
    this.micros = this.base + this.frames * this.perFrame * (1 + this.stretch);
    return [from, this.micros];
  }

  #goOn(micros, stretch) {
    this.micros = micros;
    this.base = micros;
    this.frames = 0;
    this.stretch = stretch;
  }
}
