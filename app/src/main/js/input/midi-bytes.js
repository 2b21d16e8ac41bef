/**
 * Makes whole messages of a stream of MIDI bytes (MIDI 1.0, "Data Format"): running status, real-time bytes
 * inside other messages, and system exclusive, which is passed over.
 */

const STATUS = 0x80;
const SYSTEM_EXCLUSIVE = 0xf0;
const END_OF_EXCLUSIVE = 0xf7;
const FIRST_REAL_TIME = 0xf8;

/** Data bytes that follow a status of the channel messages 8n to En, and of the system common ones F1 to F3. */
const CHANNEL_DATA = [2, 2, 2, 2, 1, 1, 2];
const COMMON_DATA = { 0xf1: 1, 0xf2: 2, 0xf3: 1 };

export class MidiBytes {
  /** @param {(message: number[]) => void} message is told each channel message */
  constructor(message) {
    this.message = message;
    this.status = 0;
    /** @type {number[]} */
    this.data = [];
    this.wanted = 0;
  }

  /** @param {Iterable<number>} bytes 0 to 255; what is none is passed over */
  take(bytes) {
    for (const byte of bytes) {
      if (byte >= FIRST_REAL_TIME) {
        continue;
      }
      if (byte >= STATUS) {
        this.#begin(byte);
      } else {
        this.#add(byte);
      }
    }
  }

  /** A system common message, and exclusive, end the running status. */
  #begin(status) {
    this.data = [];
    this.status = status === END_OF_EXCLUSIVE ? 0 : status;
    this.wanted = status < SYSTEM_EXCLUSIVE ? CHANNEL_DATA[(status >> 4) - 8] : (COMMON_DATA[status] ?? 0);
  }

  #add(byte) {
    if (!this.wanted) {
      return;
    }
    this.data.push(byte);
    if (this.data.length < this.wanted) {
      return;
    }
    const whole = [this.status, ...this.data];
    this.data = [];
    if (this.status < SYSTEM_EXCLUSIVE) {
      this.message(whole.length === 2 ? [...whole, 0] : whole);
    } else {
      this.status = 0;
      this.wanted = 0;
    }
  }
}
