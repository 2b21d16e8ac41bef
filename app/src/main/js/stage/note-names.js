const NAMES = ["C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B"];

/**
 * A pitch as musicians name it, with middle C as C4.
 *
 * @param {number} pitch MIDI note number
 * @returns {string} such as "E♭3"
 */
export function noteName(pitch) {
  return `${NAMES[pitch % 12]}${Math.floor(pitch / 12) - 1}`;
}
