/**
 * When the notes of a span come round.
 *
 * @typedef {import("./player.js").Span} Span
 * @typedef {import("./player.js").PlannedNote} PlannedNote
 */

/** The length of a note that sounds until its clip leaves. */
export const DRONE = -1;

const NONE = [];

/**
 * What of a span comes round in (after, last]: found by place, so that it costs what sounds, not what there is.
 *
 * @param {Span} span its notes are by rising place
 * @param {(note: PlannedNote, tick: number, span: Span, of: T) => void} take is given each note with its tick
 * @param {T} [of] and what the span is of
 * @template T
 */
export function comingRound(span, after, last, take, of) {
  const { notes, phase, start, length } = span;
  const first = Math.max(after + 1, span.from);
  const end = Math.min(last, (span.until ?? Infinity) - 1);
  if (end < first || notes.length === 0) {
    return;
  }
  for (let lap = phase + Math.floor((first - phase) / length) * length; lap <= end; lap += length) {
    const high = start + Math.min(length - 1, end - lap);
    for (let i = firstFrom(notes, start + Math.max(0, first - lap)); i < notes.length; i++) {
      const note = notes[i];
      if (note[1] > high) {
        break;
      }
      const tick = lap + note[1] - start;
      if (!isSilent(note, tick)) {
        take(note, tick, span, of);
      }
    }
  }
}

/** Where the first note lies, of notes by rising place, that lies at a place or after it. */
function firstFrom(notes, place) {
  let low = 0;
  let high = notes.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (notes[middle][1] < place) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  return low;
}

/** The ticks in (after, last] at which a span sounds a note: mostly none, so that is found first. */
export function occurrences(span, note, after, last) {
  const ticks = ticksOf(span, note[1], after, last);
  return note.length > 6 ? ticks.filter((tick) => !isSilent(note, tick)) : ticks;
}

/**
 * Whether a note is not attacked at a tick though its place comes round. Where it is silent from a tick that
 * comes after the one through which it is, it sounds between the two.
 */
function isSilent(note, tick) {
  const from = note[6];
  const through = note[7];
  if (typeof from === "number" && typeof through === "number" && from > through) {
    return tick >= from || tick <= through;
  }
  return from !== undefined && (from === null || tick >= from) && (through === null || tick <= through);
}

/** The ticks in (after, last] at which a place of a span comes round. */
export function ticksOf(span, place, after, last) {
  const base = span.phase + place - span.start;
  const end = Math.min(last, (span.until ?? Infinity) - 1);
  let tick = base + Math.ceil((after + 1 - base) / span.length) * span.length;
  if (tick > end) {
    return NONE;
  }
  const ticks = [];
  for (; tick <= end; tick += span.length) {
    if (tick >= span.from) {
      ticks.push(tick);
    }
  }
  return ticks;
}

/** The note that a pitch which sounds goes on with at a tick, without an attack. */
export function tied(span, pitch, at) {
  return span.notes.find(
    (note) => note[5] === 1 && note[3] === pitch && occurrences(span, note, at - 1, at).length > 0,
  );
}

/** Notes that have begun before a tick, counted round the circle, and have not ended by then. */
export function underWay(span, at) {
  const found = [];
  for (const note of span.notes) {
    const [, place, length] = note;
    const base = span.phase + place - span.start;
    const tick = base + Math.floor((at - 1 - base) / span.length) * span.length;
    const end = length === DRONE ? Infinity : tick + length;
    if (end > at && !isSilent(note, tick)) {
      found.push({ note, tick, end });
    }
  }
  return found.sort((a, b) => a.tick - b.tick);
}

/** The tick at which a note ends that is attacked at one. */
export function naturalEnd(note, attack) {
  return note[2] === DRONE ? Infinity : attack + note[2];
}
