/** @type {never[]} */
const NONE = [];

/**
 * The clicks of the metronome in (after, last].
 *
 * @param {{ticks: number, perBeat: number, barTicks: number, beatKey: number, downbeatKey: number, velocities: number[],
 *   spans: (number | null)[][]}} click as the plan has it; velocities of downbeat, beat, and what lies between beats
 * @returns {{tick: number, pitch: number, velocity: number}[]} by rising tick
 */
export function clicks({ ticks, perBeat, barTicks, beatKey, downbeatKey, velocities, spans }, after, last) {
  const first = Math.ceil((after + 1) / ticks) * ticks;
  if (first > last && Math.ceil((after + 1) / barTicks) * barTicks > last) {
    return NONE;
  }
  const found = [];
  const start = Math.floor(first / barTicks) * barTicks;
  for (let bar = start; bar <= last; bar += barTicks) {
    for (let tick = bar; tick < bar + barTicks && tick <= last; tick += ticks) {
      if (tick > after && spans.some(([from, until]) => tick >= from && (until === null || tick < until))) {
        const place = (tick - bar) / ticks;
        found.push({
          tick,
          pitch: place === 0 ? downbeatKey : beatKey,
          velocity: velocities[place === 0 ? 0 : place % perBeat === 0 ? 1 : 2],
        });
      }
    }
  }
  return found;
}
