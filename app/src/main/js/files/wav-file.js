/**
 * A WAV file in the making: two channels of linear PCM, as "Multimedia Programming Interface and Data Specifications
 * 1.0" (1991) lays it out, from memory. Frames come in order, some at a time.
 */

const HEADER = 44;
const CHANNELS = 2;

/** What is collected before the browser may put it on its disk, in bytes. */
const BLOB = 8 << 20;

export class WavFile {
  /**
   * @param {string} name
   * @param {number} rate frames a second
   * @param {16 | 24} bits of a sample
   */
  constructor(name, rate, bits) {
    this.name = name;
    this.rate = rate;
    this.bits = bits;
    this.peak = 0;
    this.frames = 0;
    this.blobs = [];
    this.pieces = [];
    this.held = 0;
    this.seed = 1;
  }

  /**
   * @param {Float32Array} left -1 to 1; what is louder is cut off there
   * @param {Float32Array} right
   */
  take(left, right) {
    const bytes = new DataView(new ArrayBuffer(left.length * CHANNELS * (this.bits / 8)));
    const write = this.bits === 16 ? this.#write16 : this.#write24;
    for (let i = 0, at = 0; i < left.length; i++, at += CHANNELS * (this.bits / 8)) {
      write.call(this, bytes, at, left[i]);
      write.call(this, bytes, at + this.bits / 8, right[i]);
    }
    this.frames += left.length;
    this.pieces.push(bytes.buffer);
    this.held += bytes.byteLength;
    if (this.held >= BLOB) {
      this.#put();
    }
  }

  /** @returns {File} all of it */
  file() {
    this.#put();
    return new File([this.#header(), ...this.blobs], `${this.name}.wav`, { type: "audio/wav" });
  }

  #put() {
    this.blobs.push(new Blob(this.pieces));
    this.pieces = [];
    this.held = 0;
  }

  #within(sample, most) {
    this.peak = Math.max(this.peak, Math.abs(sample));
    return Math.max(-1, Math.min(1, sample)) * most;
  }

  /** What 16 bits cannot say becomes even noise, not distortion: two dice, the height of a step each (common practice). */
  #write16(bytes, at, sample) {
    const value = sample === 0 ? 0 : this.#within(sample, 32767) + this.#die() - this.#die();
    bytes.setInt16(at, Math.max(-32768, Math.min(32767, Math.round(value))), true);
  }

  #write24(bytes, at, sample) {
    const value = Math.round(this.#within(sample, 8388607));
    bytes.setUint8(at, value & 255);
    bytes.setInt16(at + 1, value >> 8, true);
  }

  /** The same throws each time: a file that is made again is the same. */
  #die() {
    this.seed = (this.seed * 16807) % 2147483647;
    return this.seed / 2147483647;
  }

  #header() {
    const frame = CHANNELS * (this.bits / 8);
    const length = this.frames * frame;
    const header = new DataView(new ArrayBuffer(HEADER));
    const text = (at, word) => [...word].forEach((c, i) => header.setUint8(at + i, c.charCodeAt(0)));
    text(0, "RIFF");
    header.setUint32(4, HEADER - 8 + length, true);
    text(8, "WAVEfmt ");
    header.setUint32(16, 16, true);
    header.setUint16(20, 1, true);
    header.setUint16(22, CHANNELS, true);
    header.setUint32(24, this.rate, true);
    header.setUint32(28, this.rate * frame, true);
    header.setUint16(32, frame, true);
    header.setUint16(34, this.bits, true);
    text(36, "data");
    header.setUint32(40, length, true);
    return header.buffer;
  }
}
