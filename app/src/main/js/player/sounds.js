/**
 * What a part sounds like: a program or kit of General MIDI, or one of a bank of one's own, for which that stands where
 * the bank is not there; and a second one under the same hand.
 *
 * @typedef {{drums: boolean, program: number, own?: {bank: string, file: string, number: number, name: string}}} One
 * @typedef {One & {second?: {sound: One, level: number, gain?: number, transpose: number, lowest: number, highest: number},
 *   outside?: {bank: number | null, program: number}}} SoundOf what an outside device is told to choose for it
 */

/** @param {SoundOf} sound @returns {One} the first of its sounds */
export function firstOf({ drums, program, own }) {
  return own ? { drums, program, own } : { drums, program };
}

/** @param {any} second a second sound, or none @returns {any} it without what it is called */
export function bare(second) {
  return second && { ...second, sound: firstOf(second.sound) };
}

/** @param {SoundOf} sound @returns {One[]} each of its sounds */
export function eachOf(sound) {
  return [firstOf(sound), ...(sound.second ? [firstOf(sound.second.sound)] : [])];
}

/** @param {One} sound @returns {One} what stands for it where its bank is not there */
export function withoutBank({ drums, program }) {
  return { drums, program };
}

/** @param {One} sound @returns {string} what tells it from all others */
export function nameOf({ drums, program, own }) {
  const name = `${drums ? "kit" : "program"} ${program}`;
  return own ? `${name} of ${own.number} of ${own.bank}` : name;
}

/** The second sound of a part is an instrument beside the part's own; these numbers are no part's. */
const SECONDS = -1000;

/** @param {number} part @returns {number} the instrument that is its second sound */
export function secondOf(part) {
  return SECONDS - part;
}

/** @param {number} instrument @returns {number} the part that it sounds with */
export function partOf(instrument) {
  return instrument <= SECONDS ? SECONDS - instrument : instrument;
}
