/**
 * How high a sound peaks between its samples too, as ITU-R BS.1770-4, Annex 2 measures it: four times as many samples,
 * by a low-pass filter. It is a sinc of 24 samples under a Hann window, where the table there has 12: what is near half the
 * sample rate is found closer.
 */

const TIMES = 4;
const TAPS = 24;

/** What is found lies so many samples before the sample that was taken last. */
export const PEAK_BEHIND = TAPS / 2;

/** For each place between two samples the weights of the samples around it. */
const PHASES = Array.from({ length: TIMES }, (_, phase) =>
  Float64Array.from({ length: TAPS }, (_, tap) => {
    const x = tap - TAPS / 2 + 1 - phase / TIMES;
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    return sinc * (0.5 + 0.5 * Math.cos((2 * Math.PI * x) / TAPS));
  }),
);

/** Between samples it is at most so many times as high as the highest of them. */
const MOST = Math.max(...PHASES.map((weights) => weights.reduce((sum, w) => sum + Math.abs(w), 0)));

/** The peaks of one channel, whose samples come one after another. */
export class TruePeak {
  constructor() {
    this.peak = 0;
    // each sample stands there twice, so that the newest ones always lie in a row
    this.ring = new Float64Array(2 * TAPS);
    this.at = 0;
    /** how many of the newest samples may make a peak above the floor */
    this.loud = 0;
  }

  /** @param {Float32Array} samples the next */
  take(samples) {
    for (const peak of this.measure(samples, 0, new Float64Array(samples.length))) {
      this.peak = Math.max(this.peak, peak);
    }
  }

  /**
   * A block at once and in one loop, as the audio thread is to make no numbers on the heap.
   *
   * @param {Float32Array} samples the next
   * @param {number} floor peaks that are no higher need not be found
   * @param {Float64Array} peaks is given, for each sample, how high it peaks around the sample {@link PEAK_BEHIND}
   *     before; 0 if certainly not above the floor
   */
  measure(samples, floor, peaks) {
    const { ring } = this;
    for (let i = 0; i < samples.length; i++) {
      ring[this.at] = samples[i];
      ring[this.at + TAPS] = samples[i];
      this.at = (this.at + 1) % TAPS;
      this.loud = Math.abs(samples[i]) * MOST > floor ? TAPS : this.loud - 1;
      let highest = 0;
      for (let phase = 0; phase < TIMES && this.loud > 0; phase++) {
        let sum = 0;
        for (let tap = 0; tap < TAPS; tap++) {
          sum += PHASES[phase][tap] * ring[this.at + tap];
        }
        highest = Math.max(highest, Math.abs(sum));
      }
      peaks[i] = highest;
    }
    return peaks;
  }
}
