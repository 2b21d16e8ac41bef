import { BLOCK, Limiter, framesAhead } from "./limiter.js";
import { Loudness } from "./loudness.js";

/** So many reports a second. */
const REPORTS = 20;

/**
 * What all goes through at the end, and what measures it. Input 0 is the whole, which is held down where it would peak
 * too high; the others are measured as they come in. Output 0 is the whole; what an output further on gives is its own
 * input with the gain that the whole has, so that all of them together are the whole.
 *
 * Says, some times a second, {levels}: the peak of the whole as it goes out, the lowest gain by which it was held, the
 * loudness of the last 3 s in LUFS, and then the peak of each other input. Whether peaks are held is a parameter: it
 * holds from the first frame on, where a message comes when it comes.
 */
class MasterProcessor extends AudioWorkletProcessor {
  static get parameterDescriptors() {
    return [{ name: "limited", defaultValue: 1, minValue: 0, maxValue: 1, automationRate: "k-rate" }];
  }

  constructor({ numberOfInputs, numberOfOutputs }) {
    super();
    this.limiter = new Limiter(sampleRate);
    this.loudness = new Loudness(sampleRate);
    this.silence = new Float32Array(BLOCK);
    this.gains = new Float32Array(BLOCK);
    const ahead = framesAhead(sampleRate);
    this.delays = Array.from({ length: numberOfOutputs }, () => [0, 1].map(() => new Delay(ahead)));
    this.levels = new Float32Array(3 + numberOfInputs - 1);
    this.said = { levels: this.levels };
    this.reportFrames = Math.round(sampleRate / REPORTS / BLOCK) * BLOCK;
  }

  process(inputs, outputs, { limited }) {
    this.limiter.on = limited[0] > 0;
    const [left = this.silence, right = left] = inputs[0];
    this.limiter.listen(left, right, this.gains);
    for (let k = 0; k < outputs.length; k++) {
      const [one = this.silence, other = one] = inputs[k];
      this.delays[k][0].through(one, this.gains, outputs[k][0]);
      this.delays[k][1].through(other, this.gains, outputs[k][1]);
    }
    this.#measure(inputs, outputs[0]);
    return true;
  }

  #measure(inputs, [left, right]) {
    const { levels } = this;
    this.loudness.take(left, right);
    levels[0] = Math.max(levels[0], peakOf(left), peakOf(right));
    for (let k = 1; k < inputs.length; k++) {
      for (const channel of inputs[k]) {
        levels[2 + k] = Math.max(levels[2 + k], peakOf(channel));
      }
    }
    if (currentFrame % this.reportFrames < BLOCK) {
      levels[1] = this.limiter.lowest;
      levels[2] = this.loudness.shortTerm();
      this.port.postMessage(this.said);
      this.limiter.lowest = 1;
      levels.fill(0);
    }
  }
}

/** One channel, so many frames later. */
class Delay {
  constructor(frames) {
    this.ring = new Float32Array(frames);
    this.at = 0;
  }

  through(from, gains, to) {
    const { ring } = this;
    for (let i = 0; i < to.length; i++) {
      const sample = ring[this.at];
      ring[this.at] = from[i];
      this.at = this.at + 1 === ring.length ? 0 : this.at + 1;
      to[i] = sample * gains[i];
    }
  }
}

function peakOf(samples) {
  let peak = 0;
  for (let i = 0; i < samples.length; i++) {
    const level = Math.abs(samples[i]);
    if (level > peak) {
      peak = level;
    }
  }
  return peak;
}

registerProcessor("ancora-master", MasterProcessor);
