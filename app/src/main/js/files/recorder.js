/**
 * Sends the page what comes in, in the order of its frames: {input, first, left, right}. What lies before the first
 * frame that is wanted is left out.
 */

/** Frames that are sent at once. */
const PIECE = 128 * 128;

class Recorder extends AudioWorkletProcessor {
  /** @param {{numberOfInputs: number, processorOptions: {skip: number, frames: number}}} options frames that are left out, and that follow */
  constructor({ numberOfInputs, processorOptions: { skip, frames } }) {
    super();
    this.skip = skip;
    this.frames = frames;
    this.first = 0;
    this.filled = 0;
    this.pieces = Array.from({ length: numberOfInputs }, () => this.empty());
  }

  empty() {
    return [new Float32Array(PIECE), new Float32Array(PIECE)];
  }

  process(inputs) {
    if (currentFrame < this.skip) {
      return true;
    }
    this.pieces.forEach((sides, i) =>
      sides.forEach((side, channel) => {
        // what is silent may have no channels, and one that is alone is heard on both sides
        const from = inputs[i][channel] ?? inputs[i][0];
        if (from) {
          side.set(from, this.filled);
        }
      }),
    );
    this.filled += 128;
    if (this.filled === PIECE || this.first + this.filled >= this.frames) {
      this.send();
    }
    return true;
  }

  send() {
    const count = Math.min(this.filled, this.frames - this.first);
    if (count <= 0) {
      return;
    }
    this.pieces.forEach(([left, right], input) => {
      const sides = [left.subarray(0, count), right.subarray(0, count)];
      this.port.postMessage({ input, first: this.first, left: sides[0], right: sides[1] }, [
        left.buffer,
        right.buffer,
      ]);
    });
    this.pieces = this.pieces.map(() => this.empty());
    this.first += this.filled;
    this.filled = 0;
  }
}

registerProcessor("ancora-recorder", Recorder);
