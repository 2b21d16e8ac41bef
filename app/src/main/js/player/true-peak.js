/**
 * How high a sound peaks between its samples too, as ITU-R BS.1770-4, Annex 2 measures it: four times as many samples,
 * by a low-pass filter of 48 taps. The filter is a sinc under a Hann window, not the table there.
 */

const TIMES = 4;
const TAPS = 12;

/** For each place between two samples the weights of the samples around it. */
const PHASES = Array.from({ length: TIMES }, (_, phase) =>
  Float64Array.from({ length: TAPS }, (_, tap) => {
    const x = tap - TAPS / 2 + 1 - phase / TIMES;
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    return sinc * (0.5 + 0.5 * Math.cos((2 * Math.PI * x) / TAPS));
  }),
);

/** The highest peak of one channel, whose samples come some at a time. */
export class TruePeak {
  constructor() {
    this.peak = 0;
    this.before = new Float32Array(TAPS - 1);
  }

  /** @param {Float32Array} samples the next */
  take(samples) {
    const all = new Float32Array(this.before.length + samples.length);
    all.set(this.before);
    all.set(samples, this.before.length);
    for (let at = 0; at + TAPS <= all.length; at++) {
      for (const weights of PHASES) {
        let sum = 0;
        for (let tap = 0; tap < TAPS; tap++) {
          sum += weights[tap] * all[at + tap];
        }
        this.peak = Math.max(this.peak, Math.abs(sum));
      }
    }
    this.before = all.slice(all.length - this.before.length);
  }
}
