import { built } from "./built.js";

/** The sound bank; says what is wrong where it cannot be had, or is none. */
export async function fetchedBank() {
  const answer = await fetch(built("bank"));
  const bank = answer.ok ? await answer.arrayBuffer() : new ArrayBuffer(0);
  const riff = new Uint8Array(bank, 0, Math.min(4, bank.byteLength));
  if (String.fromCharCode(...riff) !== "RIFF") {
    throw new Error("the house does not give its sound bank");
  }
  return bank;
}

/** Decodes a bank's samples in a thread of its own: the page would stand still for it, and the music stop. */
export class Decoder {
  /** Begins one; says so where the house does not give it. @returns {Promise<Decoder>} */
  static async begin() {
    const decoder = new Decoder();
    await decoder.#asked();
    return decoder;
  }

  constructor() {
    /** @type {{done: (answer: object) => void, fail: (fault: Error) => void}[]} in the order in which they were asked */
    this.waiting = [];
    this.thread = new Worker(built("decoder"));
    this.thread.onmessage = ({ data }) => {
      const { done, fail } = this.waiting.shift();
      if (data.fault) {
        fail(new Error(data.fault));
      } else {
        done(data);
      }
    };
    this.thread.onerror = () => {
      const fault = new Error("the house does not give what decodes its sound bank");
      this.waiting.splice(0).forEach(({ fail }) => fail(fault));
    };
  }

  /** @param {ArrayBuffer} bank what is decoded from now on */
  take(bank) {
    this.thread.postMessage({ bank });
  }

  /**
   * The samples of a sound that were not given yet.
   *
   * @param {import("../player/sounds.js").One} sound
   * @returns {Promise<{of: object, samples?: {index: number, data: Float32Array, rate: number}[], alone?: ArrayBuffer,
   *   lost?: string}>} what the audio thread is told of it: lost, where its bank is not there
   */
  decode(sound) {
    const from = sound.own && new URL(`/banks/${sound.own.bank}`, document.baseURI).href;
    this.thread.postMessage({ decode: sound, from });
    return this.#asked();
  }

  /**
   * A bank with one kit, in which each key has a sample of its own.
   *
   * @param {[number, Float32Array, number][]} strokes [key, samples, frames a second]
   * @returns {Promise<{made: ArrayBuffer}>}
   */
  makeKit(strokes) {
    this.thread.postMessage({ strokes });
    return this.#asked();
  }

  #asked() {
    return new Promise((done, fail) => this.waiting.push({ done, fail }));
  }

  end() {
    this.thread.terminate();
  }
}
