/** What a part listens to, in words and back. */

const CHANNELS = 16;

/**
 * Channels as musicians count them.
 *
 * @param {number[]} channels from 0; none for all
 * @returns {string} such as "1, 3–5"; empty for all
 */
export function channelsInWords(channels) {
  const runs = [];
  for (const channel of [...channels].sort((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && last[1] === channel - 1) {
      last[1] = channel;
    } else {
      runs.push([channel, channel]);
    }
  }
  return runs.map(([from, to]) => (from === to ? `${from + 1}` : `${from + 1}–${to + 1}`)).join(", ");
}

/**
 * The channels that are meant.
 *
 * @param {string} words such as "1, 3-5"; empty or "all" for all
 * @returns {number[] | null} from 0, rising; null where it means none
 */
export function channelsOf(words) {
  const text = words.trim();
  if (text === "" || text === "all") {
    return [];
  }
  const channels = new Set();
  for (const piece of text.split(/[,;\s]+(?![–-])/u)) {
    const run = /^(\d{1,2})(?:\s*[–-]\s*(\d{1,2}))?$/u.exec(piece);
    const [from, to] = run ? [Number(run[1]), Number(run[2] ?? run[1])] : [0, 0];
    if (from < 1 || to < from || to > CHANNELS) {
      return null;
    }
    for (let channel = from; channel <= to; channel++) {
      channels.add(channel - 1);
    }
  }
  return [...channels].sort((a, b) => a - b);
}
