/**
 * What is left on the heap, as the engine itself counts it: in a process that compiles in the same thread, so that the
 * figure is the same each time, and that has room for all that is made meanwhile.
 */

const WARM = 10_000;
const COUNTED = 4_000;

/** Says how many bytes a block leaves there. */
export function count(play) {
  play(WARM);
  globalThis.gc();
  const before = process.memoryUsage().heapUsed;
  play(COUNTED);
  console.log((process.memoryUsage().heapUsed - before) / COUNTED);
}
