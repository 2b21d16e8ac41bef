/** What plans have alike, as the core has it. */

export const TOLERANCES = {
  entryMicros: 30_000,
  leastRest: 240,
  strokeTicks: 120,
  handBeforeMicros: 80_000,
  sameGestureMicros: 60_000,
};

/** A click that sounds nowhere, until it is given spans. */
export const CLICK = {
  ticks: 960,
  perBeat: 1,
  velocities: [120, 92, 71],
  barTicks: 3840,
  beatKey: 77,
  downbeatKey: 76,
  gain: 1,
  spans: [],
};
