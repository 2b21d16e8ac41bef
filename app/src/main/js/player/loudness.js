/**
 * How loud a sound is, as ITU-R BS.1770-4 measures it and EBU R 128 uses it: in LUFS, over both channels, after a filter
 * that hears as a head does.
 */

/** The filter of BS.1770, for any rate: a high shelf, and a high-pass. What it is made of is from memory; at 48 kHz it
 * comes to the coefficients that the standard prints, which the test holds it to. */
const SHELF = { hertz: 1681.974450955533, decibels: 3.999843853973347, q: 0.7071752369554196 };
const PASS = { hertz: 38.13547087602444, q: 0.5003270373238773 };

/** A full tone of 997 Hz in one channel is at −3.01 LUFS by this. */
const OFFSET = -0.691;

/** Of a whole, blocks of 400 ms count, that begin every 100, above −70 LUFS, and above what they are less 10. */
const STEP = 0.1;
const STEPS_OF_BLOCK = 4;
const ABSOLUTE_GATE = -70;
const RELATIVE_GATE = -10;

/** "Short-term" are the last 3 s. */
const STEPS_OF_SHORT_TERM = 30;

/** @returns {{b: number[], a: number[]}[]} the two filters, one after the other */
export function headFilters(rate) {
  const k = Math.tan((Math.PI * SHELF.hertz) / rate);
  const high = 10 ** (SHELF.decibels / 20);
  const band = high ** 0.4996667741545416;
  const shelf = 1 + k / SHELF.q + k * k;
  const l = Math.tan((Math.PI * PASS.hertz) / rate);
  const pass = 1 + l / PASS.q + l * l;
  return [
    {
      b: [
        (high + (band * k) / SHELF.q + k * k) / shelf,
        (2 * (k * k - high)) / shelf,
        (high - (band * k) / SHELF.q + k * k) / shelf,
      ],
      a: [(2 * (k * k - 1)) / shelf, (1 - k / SHELF.q + k * k) / shelf],
    },
    { b: [1, -2, 1], a: [(2 * (l * l - 1)) / pass, (1 - l / PASS.q + l * l) / pass] },
  ];
}

/** One filter of the second order for one channel (direct form II, transposed). */
class Filter {
  constructor({ b, a }) {
    this.b0 = b[0];
    this.b1 = b[1];
    this.b2 = b[2];
    this.a1 = a[0];
    this.a2 = a[1];
    this.one = 0;
    this.two = 0;
  }

  next(x) {
    const y = this.b0 * x + this.one;
    this.one = this.b1 * x - this.a1 * y + this.two;
    this.two = this.b2 * x - this.a2 * y;
    return y;
  }
}

/** The loudness of what comes, of its last moments or of all of it. */
export class Loudness {
  /**
   * @param {number} rate frames a second
   * @param {boolean} [whole] whether that of all of it is wanted, which keeps ten numbers for each second
   */
  constructor(rate, whole = false) {
    this.filters = [0, 1].map(() => headFilters(rate).map((filter) => new Filter(filter)));
    this.stepFrames = Math.round(STEP * rate);
    this.frames = 0;
    this.power = 0;
    this.recent = new Float64Array(STEPS_OF_SHORT_TERM);
    this.steps = 0;
    /** @type {number[] | null} the power of each step */
    this.all = whole ? [] : null;
  }

  /**
   * @param {Float32Array} left
   * @param {Float32Array} right
   */
  take(left, right) {
    const [left1, left2] = this.filters[0];
    const [right1, right2] = this.filters[1];
    for (let i = 0; i < left.length;) {
      const until = Math.min(left.length, i + this.stepFrames - this.frames);
      this.frames += until - i;
      let power = 0;
      for (; i < until; i++) {
        const l = left2.next(left1.next(left[i]));
        const r = right2.next(right1.next(right[i]));
        power += l * l + r * r;
      }
      this.power += power;
      if (this.frames === this.stepFrames) {
        this.#step();
      }
    }
  }

  #step() {
    const power = this.power / this.stepFrames;
    this.recent[this.steps % STEPS_OF_SHORT_TERM] = power;
    this.all?.push(power);
    this.steps++;
    this.frames = 0;
    this.power = 0;
  }

  /** @returns {number} LUFS of the last 3 s; −Infinity if nothing sounded */
  shortTerm() {
    let sum = 0;
    for (let i = 0; i < STEPS_OF_SHORT_TERM; i++) {
      sum += this.recent[i];
    }
    return decibels(sum / STEPS_OF_SHORT_TERM);
  }

  /** @returns {number} LUFS of all of it, without what is too soft to count; −Infinity if nothing does */
  integrated() {
    const blocks = [];
    for (let i = STEPS_OF_BLOCK; i <= this.all.length; i++) {
      blocks.push(mean(this.all.slice(i - STEPS_OF_BLOCK, i)));
    }
    const audible = blocks.filter((power) => decibels(power) > ABSOLUTE_GATE);
    const gate = decibels(mean(audible)) + RELATIVE_GATE;
    return decibels(mean(audible.filter((power) => decibels(power) > gate)));
  }
}

function mean(powers) {
  return powers.reduce((sum, power) => sum + power, 0) / (powers.length || 1);
}

function decibels(power) {
  return OFFSET + 10 * Math.log10(power);
}
