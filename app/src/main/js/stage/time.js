/**
 * Places in words, and where the music is at this moment.
 */

/**
 * @param {Record<string, any>} stage
 * @returns {number | null} the place heard now, with its fraction; null at standstill
 */
export function tickNow({ state, clock }) {
  return state.map ? state.map.tickAt(clock.now()) : null;
}

/**
 * @param {number} tick
 * @param {{barTicks: number, beatTicks: number}} meter
 * @returns {{bar: number, beat: number}} counted from 1
 */
export function position(tick, { barTicks, beatTicks }) {
  const bar = Math.floor(tick / barTicks);
  return {
    bar: bar + 1,
    beat: Math.floor((tick - bar * barTicks) / beatTicks) + 1,
  };
}

/**
 * @param {number} ticks how long it is until something happens
 * @param {{barTicks: number, beatTicks: number}} meter
 * @returns {string} in bars and beats
 */
export function until(ticks, { barTicks, beatTicks }) {
  const beats = Math.max(1, Math.ceil(ticks / beatTicks - 1e-6));
  const perBar = barTicks / beatTicks;
  const bars = Math.floor(beats / perBar);
  const rest = beats - bars * perBar;
  return [bars && count(bars, "bar"), rest && count(rest, "beat")].filter(Boolean).join(" ");
}

/** "1 bar", "2 bars" */
export function count(n, what) {
  return `${n} ${what}${n === 1 ? "" : "s"}`;
}

/**
 * Where a loop is at a tick: the line that its pass began at, the place since then, and how long it still rests.
 *
 * @param {import("../house/state.js").Vamp} vamp
 * @param {number} length ticks of the loop
 * @param {number} tick
 */
export function passAt({ phase, breather }, length, tick) {
  const until = breather?.until ?? Infinity;
  const rests = breather !== undefined && tick >= breather.from && tick < until;
  const round = rests ? length + breather.ticks : length;
  const since = rests ? breather.from : breather && tick >= until ? until : phase;
  const line = since + Math.floor((tick - since) / round) * round;
  const place = tick - line;
  const through = rests && breather.ticks % length === 0;
  return {
    line,
    round,
    place: through ? place % length : Math.min(place, length),
    rest: place >= length ? round - place : 0,
  };
}
