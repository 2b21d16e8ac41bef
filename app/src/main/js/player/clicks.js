const DOWNBEAT_VELOCITY = 120;
const BEAT_VELOCITY = 92;

/**
 * The clicks of the metronome in (after, last].
 *
 * @param {{ticks: number, barTicks: number, beatKey: number, downbeatKey: number,
 *   spans: (number | null)[][]}} click as the plan has it
 * @returns {{tick: number, pitch: number, velocity: number}[]} by rising tick
 */
export function clicks({ ticks, barTicks, beatKey, downbeatKey, spans }, after, last) {
  const found = [];
  const first = Math.ceil((after + 1) / ticks) * ticks;
  const start = Math.floor(first / barTicks) * barTicks;
  for (let bar = start; bar <= last; bar += barTicks) {
    for (let tick = bar; tick < bar + barTicks && tick <= last; tick += ticks) {
      if (tick > after && spans.some(([from, until]) => tick >= from && (until === null || tick < until))) {
        const downbeat = tick === bar;
        found.push({
          tick,
          pitch: downbeat ? downbeatKey : beatKey,
          velocity: downbeat ? DOWNBEAT_VELOCITY : BEAT_VELOCITY,
        });
      }
    }
  }
  return found;
}
