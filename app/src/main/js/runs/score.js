/**
 * Draws a run as a score of the evening: systems of staves, one below the other as on paper; sections as boxed
 * capitals over the bars; what a part sounded of a clip between repeat signs, with how often it went round; rests
 * where it was tacet; what hands played in red above. Plain SVG, and only the systems that are looked at.
 */

import { pennant } from "../stage/pennants.js";
import { add, create, set } from "../stage/svg.js";

const NAMES = 132;
const HEAD = 46;
const STAVE = 52;
/** Of a stave, what is above the notes: the clip's letter, what hands played. */
const ABOVE = 17;
const GAP = 16;
const EDGE = 10;
/** A bar is at least so wide, px; systems have a number of bars that is counted at a glance. */
const BAR = 84;
const BARS = [32, 24, 16, 12, 8, 6, 4, 2, 1];
const LEAST_ROWS = 8;

/**
 * @typedef {{element: HTMLElement, bar: (x: number, y: number) => number,
 *   part: (y: number) => number | undefined, passage: (x: number, y: number) => number | undefined,
 *   choose: (chosen: {bars: [number, number] | null, passage?: number}) => void,
 *   playAt: (tick: number | null) => void, close: () => void}} Score
 */

/**
 * @param {Record<string, any>} run as the house tells it
 * @param {number} wide px
 * @returns {Score}
 */
export function score(run, wide) {
  const room = wide - NAMES - EDGE;
  const fits = BARS.find((bars) => bars * BAR <= room) ?? 1;
  const perSystem = Math.min(fits, run.bars);
  const perTick = room / (perSystem * run.barTicks);
  const first = Math.floor(run.from / run.barTicks);
  const high = HEAD + run.parts.length * STAVE + GAP;
  const element = document.createElement("div");
  element.className = "score";
  const ranges = new Map(run.parts.map((part) => [part, rangeOf(part)]));
  /** @type {ReturnType<typeof system>[]} */
  const systems = [];
  for (let bar = 0; bar < run.bars; bar += perSystem) {
    const from = (first + bar) * run.barTicks;
    const until = from + Math.min(perSystem, run.bars - bar) * run.barTicks;
    systems.push(system({ run, from, until, perTick, wide, high, ranges }));
  }
  element.append(...systems.map(({ svg }) => svg));
  const near = new IntersectionObserver(
    (seen) =>
      seen
        .filter(({ isIntersecting }) => isIntersecting)
        .forEach(({ target }) => systems.find(({ svg }) => svg === target)?.fill()),
    { rootMargin: "600px" },
  );
  systems.forEach(({ svg }) => near.observe(svg));
  const at = (y) => systems[Math.max(0, Math.min(systems.length - 1, Math.floor(y / high)))];
  /** @type {ReturnType<typeof system> | undefined} */
  let playing;
  return {
    element,
    bar(x, y) {
      const { from, until } = at(y);
      const tick = from + (x - NAMES) / perTick;
      return Math.floor(Math.max(from, Math.min(until - 1, tick)) / run.barTicks) + 1;
    },
    part: (y) => run.parts[Math.floor(((y % high) - HEAD) / STAVE)]?.id,
    passage(x, y) {
      const part = run.parts[Math.floor(((y % high) - HEAD) / STAVE)];
      const { from, until } = at(y);
      const tick = from + (x - NAMES) / perTick;
      return part?.passages.find((p) => tick >= p.from && tick < p.until && tick < until)?.number;
    },
    choose: (chosen) => systems.forEach((each) => each.choose(chosen)),
    playAt(tick) {
      const now = tick === null ? undefined : systems.find(({ from, until }) => tick >= from && tick < until);
      if (now !== playing) {
        playing?.playAt(null);
        playing = now;
        now?.svg.scrollIntoView({ block: "nearest" });
      }
      now?.playAt(tick);
    },
    close: () => near.disconnect(),
  };
}

/** The lowest and highest pitch of a part, so that a line lies equally high in all systems. */
function rangeOf(part) {
  const all = part.passages.flatMap(({ rounds }) => rounds.flatMap(({ notes }) => notes));
  const pitches = all.map(([, pitch]) => pitch).filter((pitch) => pitch < 128);
  const low = Math.min(...pitches);
  return { low, rows: Math.max(LEAST_ROWS, Math.max(...pitches) - low + 1) };
}

/** So many bars of all parts, drawn when they come into view. */
function system({ run, from, until, perTick, wide, high, ranges }) {
  const svg = create("svg", { viewBox: `0 0 ${wide} ${high}`, width: wide, height: high });
  const x = (tick) => NAMES + (Math.max(from, Math.min(until, tick)) - from) * perTick;
  const bottom = HEAD + run.parts.length * STAVE;
  const chosen = add(svg, "rect", {
    y: 22,
    height: bottom - 22,
    class: "score-chosen",
    visibility: "hidden",
  });
  const drawn = add(svg, "g", {});
  const line = add(svg, "line", { y1: 24, y2: bottom, class: "score-now", visibility: "hidden" });
  let filled = false;
  let passage;
  const mark = () =>
    drawn
      .querySelectorAll("[data-passage]")
      .forEach((each) => each.classList.toggle("is-chosen", Number(each.dataset.passage) === passage));
  return {
    svg,
    from,
    until,
    fill() {
      if (!filled) {
        filled = true;
        head(drawn, { run, from, until, x, bottom });
        run.parts.forEach((part, row) =>
          stave(drawn, part, {
            from,
            until,
            x,
            perTick,
            top: HEAD + row * STAVE,
            range: ranges.get(part),
            run,
          }),
        );
        mark();
      }
    },
    /** @param {{bars: [number, number] | null, passage?: number}} what */
    choose({ bars, passage: number }) {
      passage = number;
      mark();
      const [begin, end] = bars ? bars.map((bar) => (bar - 1) * run.barTicks) : [0, 0];
      const shows = bars && begin < until && end > from;
      set(chosen, { visibility: shows ? "visible" : "hidden" });
      if (shows) {
        set(chosen, { x: x(begin), width: x(end) - x(begin) });
      }
    },
    playAt(tick) {
      set(line, {
        visibility: tick === null ? "hidden" : "visible",
        x1: x(tick ?? from),
        x2: x(tick ?? from),
      });
    },
  };
}

/** Rehearsal marks, bar numbers, bar lines through all staves, and the brace before them. */
function head(parent, { run, from, until, x, bottom }) {
  add(parent, "path", { d: `M${NAMES} ${HEAD + 4}V${bottom - 4}`, class: "score-brace" });
  for (let tick = from; tick <= until; tick += run.barTicks) {
    if (tick > from) {
      add(parent, "path", { d: `M${x(tick)} ${HEAD + 4}V${bottom - 4}`, class: "score-bar" });
    }
    if (tick < until) {
      text(parent, x(tick) + 4, HEAD - 4, String(Math.floor(tick / run.barTicks) + 1), "score-number");
    }
  }
  const entered = run.sections.filter(({ tick }) => tick < until && (tick >= from || from <= run.from));
  entered.forEach(({ tick, letter, name }, place) => {
    const at = x(tick);
    const room = place + 1 < entered.length ? x(entered[place + 1].tick) - at : Infinity;
    const wide = 8 + 11 * letter.length;
    add(parent, "rect", { x: at, y: 3, width: wide, height: 20, class: "score-mark" });
    text(parent, at + wide / 2, 18, letter, "score-letter");
    if (room > wide + 10 + name.length * 9) {
      text(parent, at + wide + 7, 18, name, "score-name");
    }
  });
}

function stave(parent, part, { from, until, x, perTick, top, range, run }) {
  const flag = pennant(part.pennant);
  set(flag, { x: 2, y: top + 14, width: 26, height: 26 });
  parent.append(flag);
  const name = part.name.length > 11 ? `${[...part.name].slice(0, 10).join("")}…` : part.name;
  add(text(parent, 36, top + 32, name, "score-part"), "title", {}).textContent = part.name;
  const high = STAVE - ABOVE - 6;
  const y = (pitch) => top + ABOVE + (1 - (pitch - range.low + 0.5) / range.rows) * high;
  const here = part.passages.filter((p) => p.from < until && p.until > from);
  for (const passage of here) {
    const group = add(parent, "g", { "data-passage": passage.number, class: "score-passage" });
    const [left, right] = [x(passage.from), x(passage.until)];
    add(group, "rect", {
      x: left,
      y: top,
      width: Math.max(1, right - left),
      height: STAVE,
      class: "score-room",
    });
    const middle = top + ABOVE + high / 2;
    if (passage.from >= from) {
      repeatSign(group, left, middle, high, 1);
      text(group, left + 3, top + 12, passage.letter, "score-clip");
      if (passage.passes > 1 && right - left > 60) {
        text(group, left + 18, top + 12, `${passage.passes} times`, "score-passes");
      }
    }
    if (passage.until <= until) {
      repeatSign(group, right, middle, high, -1);
    }
    for (let at = firstLine(passage, from); at < Math.min(until, passage.until); at += passage.loop) {
      add(group, "path", { d: `M${x(at)} ${middle - high / 2}v${high}`, class: "score-line" });
    }
    add(group, "path", { d: notesOf(passage, { from, until, x, y, part }), class: "score-notes" });
  }
  rests(parent, here, { from, until, x, top, high, bar: run.barTicks });
  const hands = part.hands
    .filter(([tick, pitch]) => pitch < 128 && tick >= from && tick < until)
    .map(([tick, pitch, length]) => {
      const within = Math.max(0, Math.min(1, (pitch - range.low) / range.rows));
      return stroke(x(tick), top + 2 + (1 - within) * 9, Math.max(2.5, length * perTick));
    });
  add(parent, "path", { d: hands.join(""), class: "score-hands" });
}

/** The first line of its loop after a passage begins, in a system. */
function firstLine({ from: begins, phase, loop }, from) {
  const after = Math.max(begins + 1, from);
  return phase + Math.ceil((after - phase) / loop) * loop;
}

/** What a passage sounds in a system, each time round as it was. */
function notesOf(passage, { from, until, x, y, part }) {
  const drawn = [];
  for (const { from: begins, times, notes } of passage.rounds) {
    const last = notes.reduce((end, [place, , length]) => Math.max(end, place + length), 0);
    const skipped = Math.max(0, Math.floor((from - begins - last) / passage.loop));
    for (let pass = skipped; pass < times && begins + pass * passage.loop < until; pass++) {
      for (const [place, pitch, length] of notes) {
        const tick = begins + pass * passage.loop + place;
        const end = part.drums ? tick + 1 : tick + length;
        if (pitch < 128 && tick < until && (tick >= from || end > from + 1)) {
          drawn.push(stroke(x(tick), y(pitch), Math.max(part.drums ? 3.5 : 2.5, x(end) - x(tick) - 1)));
        }
      }
    }
  }
  return drawn.join("");
}

/** A repeat sign: a thick line, a thin one, and the dots on the side of the music. */
function repeatSign(parent, at, middle, high, side) {
  const top = middle - high / 2;
  add(parent, "path", { d: `M${at} ${top}v${high}`, class: "score-thick" });
  add(parent, "path", { d: `M${at + side * 4} ${top}v${high}`, class: "score-thin" });
  for (const up of [-4.5, 4.5]) {
    add(parent, "circle", { cx: at + side * 8, cy: middle + up, r: 1.7, class: "score-dot" });
  }
}

/** Whole bars in which a part is tacet: one rest, and how many they are. */
function rests(parent, passages, { from, until, x, top, high, bar }) {
  let begins = from;
  for (const { from: start, until: end } of [...passages, { from: until, until }]) {
    const bars = Math.floor((start - begins) / bar);
    if (bars > 0) {
      const [left, right] = [x(begins), x(begins + bars * bar)];
      const lines = [0, 1, 2, 3, 4].map((row) => top + ABOVE + (row * high) / 4);
      add(parent, "path", {
        d: lines.map((y) => `M${left + 6} ${y}H${right - 6}`).join(""),
        class: "score-rule",
      });
      const middle = (left + right) / 2;
      const wide = Math.min(34, (right - left) / 3);
      add(parent, "rect", {
        x: middle - wide / 2,
        y: lines[1],
        width: wide,
        height: high / 8,
        class: "score-rest",
      });
      if (bars > 1) {
        text(parent, middle, top + 12, String(bars), "score-bars");
      }
    }
    begins = Math.max(begins, Math.ceil(end / bar) * bar);
  }
}

function stroke(x, y, wide) {
  return `M${round(x)} ${round(y - 1.2)}h${round(wide)}v2.4H${round(x)}z`;
}

function text(parent, x, y, words, style) {
  const element = add(parent, "text", { x, y, class: style });
  element.textContent = words;
  return element;
}

function round(value) {
  return Math.round(value * 10) / 10;
}
