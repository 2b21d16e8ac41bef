/**
 * Draws a run: the sections as boxed capitals over its bars, and for each part a strip with its passages, what
 * hands played above them.
 */

import { pennant } from "../stage/pennants.js";

const SVG = "http://www.w3.org/2000/svg";
const NAMES = 132;
const HEAD = 44;
const STRIP = 58;
const EDGE = 8;

/**
 * @typedef {{element: SVGElement, bar: (x: number) => number, part: (y: number) => number | undefined,
 *   passage: (x: number, y: number) => number | undefined, choose: (chosen: object) => void,
 *   playAt: (tick: number | null) => void}} Strips
 */

/**
 * @param {Record<string, any>} run as the host tells it
 * @param {number} wide px
 * @returns {Strips}
 */
export function strips(run, wide) {
  const high = HEAD + run.parts.length * STRIP + 8;
  const svg = create("svg", {
    viewBox: `0 0 ${wide} ${high}`,
    width: wide,
    height: high,
    class: "strips-svg",
  });
  const first = Math.floor(run.from / run.barTicks);
  const perTick = (wide - NAMES - EDGE) / (run.bars * run.barTicks);
  const x = (tick) => NAMES + (tick - first * run.barTicks) * perTick;
  const barWide = run.barTicks * perTick;

  const chosen = add(svg, "rect", { y: 0, height: high, class: "strip-chosen", visibility: "hidden" });
  const each = [1, 2, 4, 8, 16, 32, 64].find((bars) => bars * barWide > 26) ?? 128;
  for (let bar = 0; bar <= run.bars; bar++) {
    const at = x((first + bar) * run.barTicks);
    if (bar % each === 0) {
      add(svg, "line", { x1: at, x2: at, y1: 22, y2: high - 4, class: "strip-bar" });
      if (bar < run.bars) {
        text(svg, at + 3, 36, String(first + bar + 1), "strip-number");
      }
    }
  }
  for (const { tick, letter, name } of run.sections) {
    const at = Math.max(x(tick), NAMES);
    add(svg, "rect", { x: at, y: 3, width: 18, height: 18, class: "strip-box" });
    text(svg, at + 9, 17, letter, "strip-letter");
    text(svg, at + 24, 17, name, "strip-name");
  }
  const boxes = [];
  run.parts.forEach((part, row) => drawPart(svg, part, row, { x, perTick, boxes, run, wide }));
  const line = add(svg, "line", { y1: 22, y2: high - 4, class: "strip-now", visibility: "hidden" });
  const numbers = run.bars;
  return {
    element: svg,
    bar: (at) => Math.max(0, Math.min(numbers - 1, Math.floor((at - NAMES) / barWide))) + first + 1,
    part: (at) => run.parts[Math.floor((at - HEAD) / STRIP)]?.id,
    passage: (left, top) =>
      boxes.find((b) => left >= b.x && left <= b.x + b.width && top >= b.y && top <= b.y + b.height)?.number,
    /** @param {{bars: [number, number] | null, passage?: number}} what */
    choose({ bars, passage }) {
      set(chosen, {
        visibility: bars ? "visible" : "hidden",
        x: bars ? x((bars[0] - 1) * run.barTicks) : 0,
        width: bars ? (bars[1] - bars[0]) * barWide : 0,
      });
      boxes.forEach((b) => b.element.classList.toggle("is-chosen", b.number === passage));
    },
    playAt(tick) {
      set(line, { visibility: tick === null ? "hidden" : "visible", x1: x(tick ?? 0), x2: x(tick ?? 0) });
    },
  };
}

function drawPart(svg, part, row, { x, perTick, boxes, run, wide }) {
  const top = HEAD + row * STRIP;
  add(svg, "line", { x1: 0, x2: wide, y1: top - 3, y2: top - 3, class: "strip-rule" });
  const flag = pennant(part.pennant);
  set(flag, { x: 2, y: top + 10, width: 26, height: 26 });
  svg.append(flag);
  text(svg, 36, top + 28, part.name, "strip-part");
  const pitches = part.hands.map(([, pitch]) => pitch).filter((pitch) => pitch < 128);
  const [low, top8] = [Math.min(...pitches), Math.max(...pitches)];
  const hands = part.hands
    .filter(([, pitch]) => pitch < 128)
    .map(([tick, pitch, length]) => {
      const y = top + 1 + (1 - (pitch - low) / Math.max(1, top8 - low)) * 9;
      return `M${round(x(tick))} ${round(y)}h${round(Math.max(2, length * perTick))}v2.4H${round(x(tick))}z`;
    });
  add(svg, "path", { d: hands.join(""), class: "strip-hands" });
  for (const passage of part.passages) {
    const box = {
      number: passage.number,
      x: x(Math.max(passage.from, run.from)),
      y: top + 15,
      width: Math.max(2, (passage.until - passage.from) * perTick - 1.5),
      height: STRIP - 22,
    };
    box.element = add(svg, "g", { class: "strip-passage" });
    const { number, element, ...place } = box;
    add(element, "rect", { ...place, rx: 4 });
    const notes = outline(passage, box);
    add(element, "path", { d: notes, class: "strip-outline" });
    if (box.width > 16) {
      text(element, box.x + 5, box.y + 14, passage.letter, "strip-clip");
    }
    boxes.push({ ...box, number });
  }
}

/** The clip's notes once, as far as there is room. */
function outline({ outline: rows, from, until }, { x, y, width, height }) {
  const pitches = rows.map(([, pitch]) => pitch).filter((pitch) => pitch < 128);
  if (!pitches.length || width < 24) {
    return "";
  }
  const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
  const perTick = width / Math.max(1, until - from);
  return rows
    .filter(([, pitch]) => pitch < 128)
    .map(([place, pitch, length]) => {
      const top = y + 17 + (1 - (pitch - low) / Math.max(1, high - low)) * (height - 21);
      const left = x + place * perTick;
      const long = Math.min(Math.max(1.5, length * perTick), x + width - left);
      return `M${round(left)} ${round(top)}h${round(long)}v2H${round(left)}z`;
    })
    .join("");
}

function text(parent, x, y, words, style) {
  add(parent, "text", { x, y, class: style }).textContent = words;
}

function add(parent, name, attributes) {
  const element = create(name, attributes);
  parent.append(element);
  return element;
}

function create(name, attributes) {
  const element = document.createElementNS(SVG, name);
  set(element, attributes);
  return element;
}

function set(element, attributes) {
  for (const [name, value] of Object.entries(attributes)) {
    element.setAttribute(name, String(value));
  }
}

function round(value) {
  return Math.round(value * 10) / 10;
}
