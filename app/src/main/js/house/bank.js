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

/** The number of the answer to nothing: that the thread is there. */
const HERE = 0;

/** Decodes a bank's samples in a thread of its own: the page would stand still for it, and the music stop. */
export class Decoder {
  /** Begins one; says so where the house does not give it. @returns {Promise<Decoder>} */
  static async begin() {
    const decoder = new Decoder();
    await decoder.#answer(HERE);
    return decoder;
  }

  constructor() {
    /** @type {Map<number, {done: (answer: any) => void, fail: (fault: Error) => void}>} by the number of what was asked */
    this.waiting = new Map();
    this.asked = HERE;
    this.thread = new Worker(built("decoder"));
    this.thread.onmessage = ({ data }) => {
      const { done, fail } = this.waiting.get(data.number);
      this.waiting.delete(data.number);
      if (data.fault) {
        fail(new Error(data.fault));
      } else {
        done(data);
      }
    };
    this.thread.onerror = () => {
      const fault = new Error("the house does not give what decodes its sound bank");
      this.waiting.forEach(({ fail }) => fail(fault));
      this.waiting.clear();
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
    return this.#ask({ decode: sound, from });
  }

  /**
   * A bank with one kit, in which each key has a sample of its own.
   *
   * @param {[number, Float32Array, number][]} strokes [key, samples, frames a second]
   * @returns {Promise<{made: ArrayBuffer}>}
   */
  makeKit(strokes) {
    return this.#ask({ strokes });
  }

  /** What takes long is overtaken by what does not: answers come in any order. */
  #ask(message) {
    const number = ++this.asked;
    this.thread.postMessage({ number, ...message });
    return this.#answer(number);
  }

  #answer(number) {
    return new Promise((done, fail) => this.waiting.set(number, { done, fail }));
  }

  end() {
    this.thread.terminate();
  }
}
