/**
 * Draws loops with the signs of sheet music: repeat bar lines at a loop's two ends, bar lines, dotted
 * lines for beats, ties over the line as arcs, a rest for silence. Plain SVG.
 */

import { add, create, set } from "./svg.js";

/** More notes than these in one layer are drawn together. */
const MANY = 400;
const STRENGTHS = 4;

const EDGE = 30;
const PAD = 8;
const LEAST_ROWS = 8;
/** What was played last has a strip so high below a clip that stands ready, at most. */
const STRIP = 30;
/** A take that is silent while another is played has a line so high; so many are shown at most. */
const LANE = 12;
const MOST_BEFORE = 4;
/** Each picture's hatching has a name of its own. */
let patterns = 0;

/** What has a pitch beyond the keys is the sustain pedal. */
const PEDAL = 128;
const LAYER_COLOURS = ["var(--ink)", "var(--layer-2)", "var(--layer-3)", "var(--layer-4)"];

/**
 * @typedef {{svg: SVGElement, line: HTMLElement, moveTo: (position: number | null) => void,
 *   hatchFrom: (position: number | null, letter?: string) => void}} Picture
 *   moveTo puts the play line at a part of the width, or takes it away; hatchFrom draws what comes next
 *   from there on
 */

/**
 * @param {import("../house/state.js").Clip} clip
 * @param {{barTicks: number, beatTicks: number}} meter
 * @param {boolean} drums whether rows are drums, else pitches
 * @param {{wide: number, high: number}} size
 * @param {{from: number, to: number}} [range] of a punch, in ticks of the material
 * @returns {Picture}
 */
export function loopPicture(clip, meter, drums, size, range) {
  const svg = sheet(size, `clip ${clip.letter}`);
  const scale = scaleOf(size, clip.start, clip.length);
  bars(svg, size, scale, clip.length, meter, clip.start);
  repeatSign(svg, size, 0);
  repeatSign(svg, size, 1);
  const layers = clip.layers.map((layer, i) => [layer.notes, LAYER_COLOURS[i % LAYER_COLOURS.length]]);
  notes(svg, size, scale, layers, drums, {
    start: clip.start,
    end: clip.start + clip.length,
  });
  if (range) {
    bracket(svg, scale(range.from), scale(range.to));
  }
  return withPlayLine(svg, size);
}

/** A bracket over a stretch, as a score has it over bars that are played otherwise. */
function bracket(svg, from, to) {
  add(svg, "path", {
    d: `M${from + 1} ${PAD + 8}V${PAD - 4}H${to - 1}V${PAD + 8}`,
    fill: "none",
    stroke: "var(--rec)",
    "stroke-width": 3,
    class: "punchrange",
  });
}

/**
 * A first recording, still open: bars are added as it goes on.
 *
 * @param {{start: number, origin: number}} first
 * @param {import("../house/state.js").Note[]} played into it so far
 * @param {number} barCount how many bars to draw
 * @returns {Picture}
 */
export function openPicture(first, played, meter, drums, barCount, size) {
  const svg = sheet(size, "recording");
  const start = first.start - first.origin;
  const length = barCount * meter.barTicks;
  const scale = scaleOf(size, start, length);
  bars(svg, size, scale, length, meter, start);
  repeatSign(svg, size, 0);
  const shown = played.filter(([, , , meant]) => meant >= start);
  notes(svg, size, scale, [[shown, "var(--rec)"]], drums, {
    start,
    end: start + length,
  });
  return withPlayLine(svg, size);
}

/**
 * While takes are on: large the take that is being played, as it comes; the takes before, which are silent, faint
 * in lines above it.
 *
 * @param {import("../house/state.js").Clip} clip
 * @param {{coming: import("../house/state.js").Note[], before: () => import("../house/state.js").Note[][]}} takes
 * @returns {Picture}
 */
export function takesPicture(clip, { coming, before }, meter, drums, size) {
  const svg = sheet(size, `takes of clip ${clip.letter}`);
  const scale = scaleOf(size, clip.start, clip.length);
  const shown = before().slice(-Math.max(1, Math.min(MOST_BEFORE, Math.floor(size.high / 40))));
  const top = shown.length * LANE;
  const end = clip.start + clip.length;
  bars(svg, size, scale, clip.length, meter, clip.start);
  repeatSign(svg, size, 0);
  repeatSign(svg, size, 1);
  shown.forEach((list, place) => {
    const rows = rowsOf(
      list.map(([, pitch]) => pitch).filter((pitch) => pitch !== PEDAL),
      drums,
    );
    const blocks = list
      .filter(([, pitch, , meant]) => pitch !== PEDAL && meant >= clip.start && meant < end)
      .map(([, pitch, , meant, length]) => {
        const y = PAD + place * LANE + ((rows.of(pitch) + 0.5) / rows.count) * (LANE - 4);
        return block(scale(meant), y, Math.max(3, scale(Math.min(meant + length, end)) - scale(meant)), 2.5);
      });
    add(svg, "path", { d: blocks.join(""), fill: "var(--dim)", "fill-opacity": 0.7, class: "takebefore" });
  });
  const large = add(svg, "g", { transform: `translate(0 ${top})`, class: "takecoming" });
  const room = { wide: size.wide, high: size.high - top };
  notes(large, room, scale, [[coming, "var(--rec)"]], drums, { start: clip.start, end });
  return withPlayLine(svg, size);
}

/** A whole rest: the part is silent. */
export function restPicture(size) {
  const { wide, high } = size;
  const svg = sheet(size, "tacet");
  const middle = high / 2;
  for (let i = -2; i <= 2; i++) {
    add(svg, "line", {
      x1: EDGE,
      x2: wide - EDGE,
      y1: middle + i * 16,
      y2: middle + i * 16,
      stroke: "var(--line)",
    });
  }
  add(svg, "rect", {
    x: wide / 2 - 26,
    y: middle - 16,
    width: 52,
    height: 11,
    fill: "var(--dim)",
  });
  return withPlayLine(svg, size);
}

/**
 * What was played last and is in no clip, faint, as far apart as it was played: it can be kept.
 *
 * @param {number[][]} played [id, pitch, velocity, instant, microseconds that it was held]
 * @returns {Picture & {instantAt: (x: number) => number}}
 */
export function rememberedPicture(played, drums, size) {
  const svg = sheet(size, "what was played last");
  return { ...withPlayLine(svg, size), ...remembered(svg, played, drums, { ...size, top: 0 }) };
}

/**
 * A clip that stands ready, and in a strip below it what was played last and is in no clip.
 *
 * @param {import("../house/state.js").Clip} clip
 * @param {number[][]} played as above
 * @returns {Picture & {instantAt: (x: number) => number, below: number}} below this height it is swept
 */
export function readyPicture(clip, played, meter, drums, size) {
  const below = size.high - Math.min(STRIP, Math.round(size.high / 3));
  const picture = loopPicture(clip, meter, drums, { wide: size.wide, high: below });
  set(picture.svg, { viewBox: `0 0 ${size.wide} ${size.high}` });
  add(picture.svg, "line", { x1: EDGE, x2: size.wide - EDGE, y1: below, y2: below, stroke: "var(--line)" });
  const strip = { wide: size.wide, high: size.high - below, top: below };
  return { ...picture, ...remembered(picture.svg, played, drums, strip), below };
}

function remembered(svg, played, drums, { wide: across, high, top }) {
  const from = played[0][3];
  const until = Math.max(from + 1, ...played.map(([, , , on, long]) => on + long));
  const wide = across - 2 * EDGE;
  const rows = rowsOf(
    played.map(([, pitch]) => pitch),
    drums,
  );
  const blocks = played.map(([, pitch, , on, long]) => {
    const x = EDGE + ((on - from) / (until - from)) * wide;
    const y = top + Math.min(PAD, high / 8) + ((rows.of(pitch) + 0.5) / rows.count) * (high * 0.8) - 2;
    return block(x, y, Math.max(4, (long / (until - from)) * wide), 4);
  });
  add(svg, "path", { d: blocks.join(""), fill: "var(--dim)", "fill-opacity": 0.8 });
  const swept = add(svg, "rect", {
    y: top,
    height: high,
    width: 0,
    fill: "var(--now)",
    "fill-opacity": 0.25,
  });
  return {
    instantAt: (x) => Math.round(from + Math.max(0, Math.min(1, (x - EDGE) / wide)) * (until - from)),
    sweep: (a, b) => set(swept, { x: Math.min(a, b), width: Math.abs(b - a) }),
  };
}

/** A clip's notes, tiny: what tells it from its neighbours on the shelf. */
export function outline(clip, drums) {
  const size = { wide: 44, high: 20 };
  const svg = sheet(size, "");
  svg.setAttribute("aria-hidden", "true");
  svg.setAttribute("class", "outline");
  const list = clip.layers.flatMap((layer) => layer.notes).filter(([, pitch]) => pitch !== PEDAL);
  const rows = rowsOf(
    list.map(([, pitch]) => pitch),
    drums,
  );
  const blocks = [];
  for (const [, pitch, , meant, length] of list) {
    const x = ((meant - clip.start) / clip.length) * size.wide;
    if (x >= 0 && x < size.wide) {
      const width = Math.max(1.5, Math.min((length / clip.length) * size.wide, size.wide - x));
      const y = ((rows.of(pitch) + 0.5) / rows.count) * (size.high - 3);
      blocks.push(block(x, y, width, 2.2));
    }
  }
  add(svg, "path", { d: blocks.join(""), fill: "currentColor" });
  return svg;
}

function sheet({ wide, high }, label) {
  return create("svg", {
    viewBox: `0 0 ${Math.max(1, wide)} ${Math.max(1, high)}`,
    role: "img",
    "aria-label": label,
  });
}

/** Places of ticks across the sheet. */
function scaleOf({ wide }, start, length) {
  const room = wide - 2 * EDGE;
  return (tick) => EDGE + ((tick - start) / length) * room;
}

function bars(svg, { high }, scale, length, { barTicks, beatTicks }, start) {
  for (let tick = 0; tick <= length; tick += beatTicks) {
    const x = scale(start + tick);
    const bar = (start + tick) % barTicks === 0;
    const line = add(svg, "line", {
      x1: x,
      x2: x,
      y1: PAD,
      y2: high - PAD,
      stroke: bar ? "var(--rule)" : "var(--line)",
    });
    set(line, bar ? { "stroke-width": 2 } : { "stroke-dasharray": "2 6", "stroke-width": 2 });
  }
}

/** ‖: at the loop's beginning, :‖ at its end. */
function repeatSign(svg, { wide, high }, end) {
  const at = (x, width = 0) => (end ? wide - x - width : x);
  const tall = { y: PAD, height: high - 2 * PAD, fill: "var(--ink)" };
  add(svg, "rect", { x: at(4, 7), width: 7, ...tall });
  add(svg, "rect", { x: at(14, 2.5), width: 2.5, ...tall });
  for (const y of [0.4, 0.6]) {
    add(svg, "circle", {
      cx: at(23),
      cy: high * y,
      r: 3.4,
      fill: "var(--ink)",
    });
  }
}

/** Rows are the drums that are there, or a range of pitches around those that are. */
function rowsOf(pitches, drums) {
  const sorted = [...new Set(pitches)].sort((a, b) => b - a);
  if (drums) {
    return {
      count: Math.max(3, sorted.length),
      of: (pitch) => sorted.indexOf(pitch),
    };
  }
  const top = (sorted[0] ?? 60) + 1;
  const bottom = (sorted.at(-1) ?? 60) - 1;
  const spare = Math.max(0, LEAST_ROWS - (top - bottom + 1));
  return {
    count: top - bottom + 1 + spare,
    of: (pitch) => top - pitch + spare / 2,
  };
}

/** A rectangle, as a piece of a path: many notes are drawn as one. */
function block(x, y, width, height) {
  const [left, top, across] = [x, y, width].map((value) => Math.round(value * 10) / 10);
  return `M${left} ${top}h${across}v${height}h${-across}z`;
}

function notes(svg, { wide, high }, scale, layers, drums, { start, end }) {
  pedalLine(svg, high, scale, layers, { start, end });
  const rows = rowsOf(
    layers.flatMap(([list]) => list.map(([, pitch]) => pitch).filter((pitch) => pitch !== PEDAL)),
    drums,
  );
  const step = (high - 4 * PAD) / rows.count;
  const thick = Math.min(22, Math.max(4, step * 0.62));
  for (const [list, colour] of layers) {
    if (list.length > MANY) {
      manyNotes(svg, list, { scale, rows, step, thick, start, end, colour });
      continue;
    }
    for (const [, pitch, velocity, meant, length, held] of list) {
      if (meant < start || meant >= end || pitch === PEDAL) {
        continue;
      }
      const y = 2 * PAD + rows.of(pitch) * step + (step - thick) / 2;
      const x = scale(meant);
      const stop = Math.min(meant + length, end);
      const least = drums ? thick : 6;
      const look = {
        y,
        height: thick,
        rx: drums ? thick / 2 : 3,
        fill: colour,
        "fill-opacity": 0.45 + (0.55 * velocity) / 127,
      };
      add(svg, "rect", { x, width: Math.max(least, scale(stop) - x), ...look });
      if (meant + length > end && !held) {
        const rest = Math.min(meant + length - end, end - start);
        add(svg, "rect", {
          x: scale(start),
          width: scale(start + rest) - scale(start),
          ...look,
        });
        tie(svg, wide, y + thick, colour);
      }
    }
  }
}

/** Of so many notes none is told from the other: they are drawn together, in a few strengths. */
function manyNotes(svg, list, { scale, rows, step, thick, start, end, colour }) {
  const strengths = Array.from({ length: STRENGTHS }, () => []);
  for (const [, pitch, velocity, meant, length] of list) {
    if (meant >= start && meant < end && pitch !== PEDAL) {
      const x = scale(meant);
      const y = 2 * PAD + rows.of(pitch) * step + (step - thick) / 2;
      const width = Math.max(2, scale(Math.min(meant + length, end)) - x);
      strengths[Math.floor((velocity / 128) * STRENGTHS)].push(block(x, y, width, Math.round(thick)));
    }
  }
  strengths.forEach((blocks, i) => {
    const opacity = 0.45 + (0.55 * (i + 0.5)) / STRENGTHS;
    add(svg, "path", { d: blocks.join(""), fill: colour, "fill-opacity": opacity });
  });
}

/** The sustain pedal, as sheet music has it: a bracket under the notes. */
function pedalLine(svg, high, scale, layers, { start, end }) {
  const y = high - PAD;
  for (const [, pitch, , meant, length] of layers.flatMap(([list]) => list)) {
    if (pitch === PEDAL && meant >= start && meant < end) {
      const from = scale(meant);
      const to = scale(Math.min(meant + length, end));
      add(svg, "path", {
        d: `M${from} ${y - 7}V${y}H${to}V${y - 7}`,
        fill: "none",
        stroke: "var(--dim)",
        "stroke-width": 2,
      });
    }
  }
}

/** An arc over the line, out at the end and in at the beginning. */
function tie(svg, wide, y, colour) {
  const arc = { fill: "none", stroke: colour, "stroke-width": 2.5 };
  add(svg, "path", { d: `M${wide - EDGE - 18} ${y + 3} q 22 13 46 3`, ...arc });
  add(svg, "path", { d: `M2 ${y + 5} q 22 13 46 -2`, ...arc });
}

function withPlayLine(svg, { wide, high }) {
  const hatch = add(svg, "g", { class: "comes", visibility: "hidden" });
  const pattern = add(hatch, "pattern", {
    id: `hatch-${++patterns}`,
    width: 9,
    height: 9,
    patternUnits: "userSpaceOnUse",
    patternTransform: "rotate(45)",
  });
  add(pattern, "rect", { width: 3.5, height: 9, fill: "var(--next)" });
  const band = add(hatch, "rect", {
    y: 2,
    height: high - 4,
    fill: `url(#hatch-${patterns})`,
    "fill-opacity": 0.5,
  });
  const name = add(hatch, "text", { y: 24, class: "comesname" });
  let hatched;
  const hatchFrom = (position, letter = "") => {
    const key = position === null ? null : `${position} ${letter}`;
    if (key === hatched) {
      return;
    }
    hatched = key;
    set(hatch, { visibility: position === null ? "hidden" : "visible" });
    if (position !== null) {
      const x = Math.min(EDGE + position * (wide - 2 * EDGE), wide - EDGE - 8);
      set(band, { x, width: wide - EDGE - x });
      const room = wide - EDGE - x;
      const fits = room > 20 + 12 * letter.length;
      set(name, fits ? { x: x + 8, "text-anchor": "start" } : { x: x - 6, "text-anchor": "end" });
      name.textContent = letter;
    }
  };
  // apart from the picture, so that it moves without the picture being painted anew
  const line = document.createElement("div");
  line.className = "playline";
  let shown;
  const moveTo = (position) => {
    const x = position === null ? null : Math.round((EDGE + position * (wide - 2 * EDGE)) * 2) / 2;
    if (x !== shown) {
      shown = x;
      line.hidden = x === null;
      line.style.transform = `translateX(${x ?? 0}px)`;
    }
  };
  moveTo(null);
  return { svg, line, moveTo, hatchFrom };
}
