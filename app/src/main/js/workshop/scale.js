/**
 * Where ticks and pitches lie on the sheet: which stretch of the material is shown, and which rows.
 *
 * @typedef {{wide: number, high: number}} Size
 */

/** Room at the edges of the sheet, in px. */
const EDGE = 26;
const TOP = 30;
const BOTTOM = 14;

const CLOSEST = 8;

export class Scale {
  constructor() {
    /** @type {Size} */
    this.size = { wide: 800, high: 400 };
    this.from = 0;
    this.to = 3840;
    /** @type {number[]} from the top */
    this.pitches = [];
  }

  /** @returns {number} px from the left */
  x(tick) {
    return EDGE + ((tick - this.from) / (this.to - this.from)) * (this.size.wide - 2 * EDGE);
  }

  /** @returns {number} the tick at some px, with its fraction */
  tick(x) {
    return this.from + ((x - EDGE) / (this.size.wide - 2 * EDGE)) * (this.to - this.from);
  }

  /** @returns {number} px from one row to the next */
  get rowHeight() {
    return (this.size.high - TOP - BOTTOM) / Math.max(1, this.pitches.length);
  }

  /** @returns {number} the middle of a pitch's row; below all where it has none */
  y(pitch) {
    const row = this.pitches.indexOf(pitch);
    return TOP + ((row < 0 ? this.pitches.length : row) + 0.5) * this.rowHeight;
  }

  /** @returns {number} the pitch of the row at some px */
  pitch(y) {
    const row = Math.floor((y - TOP) / this.rowHeight);
    return this.pitches[Math.max(0, Math.min(this.pitches.length - 1, row))];
  }

  get top() {
    return TOP;
  }

  get bottom() {
    return this.size.high - BOTTOM;
  }

  /** Shows a stretch. */
  show(from, to) {
    this.from = from;
    this.to = Math.max(to, from + CLOSEST);
  }

  /** Shows more or less, around a tick that stays where it is. */
  zoom(factor, around, most) {
    const long = Math.max(CLOSEST * 20, Math.min(most, (this.to - this.from) * factor));
    const share = (around - this.from) / (this.to - this.from);
    this.show(around - share * long, around + (1 - share) * long);
  }

  /** Shows what lies some px further on. */
  pan(px) {
    const ticks = (px / (this.size.wide - 2 * EDGE)) * (this.to - this.from);
    this.show(this.from + ticks, this.to + ticks);
  }
}
