import { PEAK_BEHIND, TruePeak } from "./true-peak.js";

/** It sees what comes so much earlier, in seconds. */
const AHEAD = 0.002;

/** What goes out peaks no higher, between its samples too: −1 dB, as EBU R 128 has it for what is delivered… */
const CEILING_DECIBELS = -1;

/** …less a hair, as the gain moves between the samples that make a peak. */
const HAIR_DECIBELS = 0.05;

const CEILING = 10 ** ((CEILING_DECIBELS - HAIR_DECIBELS) / 20);

/** Frames of a block. */
export const BLOCK = 128;

/** Of what it holds down it lets go by two thirds in this, in seconds. */
const RELEASE = 0.08;

/**
 * @param {number} rate frames a second
 * @returns {number} frames by which all that goes through a limiter comes later, whether it is on or off
 */
export function framesAhead(rate) {
  return Math.round(AHEAD * rate);
}

/**
 * Holds peaks down before they come: each sample has the gain that the loudest peak around it needs, let go of
 * slowly, and the mean of some of these is the gain, which so moves without a corner. No gain is above what its own
 * sample needs, since each of those whose mean it is sees that sample.
 */
export class Limiter {
  /** @param {number} rate frames a second */
  constructor(rate) {
    this.on = true;
    this.sides = [new TruePeak(), new TruePeak()];
    this.peaks = [new Float64Array(BLOCK), new Float64Array(BLOCK)];
    /** over so many frames the gain is the lowest, and then the mean */
    this.span = framesAhead(rate) - PEAK_BEHIND + 1;
    this.keeps = Math.exp(-1 / (RELEASE * rate));
    /** the lowest of the gains needed in the last frames is at the head of this row: each is higher than those before */
    this.needs = new Float64Array(this.span);
    this.since = new Float64Array(this.span);
    this.head = 0;
    this.count = 0;
    this.frame = 0;
    this.eased = 1;
    this.means = new Float64Array(this.span).fill(1);
    this.sum = this.span;
    /** the lowest gain since that was asked for last */
    this.lowest = 1;
  }

  /**
   * @param {Float32Array} left at most {@link BLOCK} frames
   * @param {Float32Array} right
   * @param {Float32Array} gains is given, for each frame, the gain of the frame {@link framesAhead} before it
   */
  listen(left, right, gains) {
    const [one, other] = this.peaks;
    this.sides[0].measure(left, CEILING, one);
    this.sides[1].measure(right, CEILING, other);
    for (let i = 0; i < gains.length; i++) {
      const peak = Math.max(one[i], other[i]);
      const needed = this.on && peak > CEILING ? CEILING / peak : 1;
      gains[i] = this.#mean(this.#ease(this.#lowestWith(needed)));
      this.lowest = Math.min(this.lowest, gains[i]);
    }
  }

  #lowestWith(needed) {
    const { span, needs, since } = this;
    if (this.count && since[this.head] <= this.frame - span) {
      this.head = (this.head + 1) % span;
      this.count--;
    }
    while (this.count && needs[(this.head + this.count - 1) % span] >= needed) {
      this.count--;
    }
    const at = (this.head + this.count) % span;
    needs[at] = needed;
    since[at] = this.frame++;
    this.count++;
    return needs[this.head];
  }

  /** Down at once, up again slowly. */
  #ease(wanted) {
    this.eased = wanted < this.eased ? wanted : wanted - (wanted - this.eased) * this.keeps;
    return this.eased;
  }

  #mean(gain) {
    const at = this.frame % this.span;
    this.sum += gain - this.means[at];
    this.means[at] = gain;
    // what is hardly below is not: else what rounds off would stay
    return this.sum > this.span * (1 - 1e-6) ? 1 : this.sum / this.span;
  }
}
