/**
 * The clip as a large stave: repeat bars at its ends, bars and beats, a row for each pitch, each note a block with
 * a stem as high as its velocity. On a canvas: 4000 notes are drawn within a frame.
 *
 * @typedef {import("../house/state.js").Note} Note
 * @typedef {{clip: import("../house/state.js").Clip, meter: {barTicks: number, beatTicks: number}, drums: boolean,
 *   chosen: Set<number>, draft: Map<number, Note>, sweep: number[] | null, cursor: {tick: number, pitch: number} | null,
 *   scale: import("./scale.js").Scale, colours: Record<string, string>, coming: Note[] | null}} Scene coming: what has
 *     been played of a take that is being played; the one that is in the clip is silent meanwhile
 */

const PEDAL = 128;
const LAYERS = ["ink", "layer-2", "layer-3", "layer-4"];
const THICKEST = 15;
const LEAST = 9;

/** What is silent is so faint. */
const SILENT = 0.3;

/** The colours that the page has, by their names without dashes. */
export function coloursOf(element) {
  const style = getComputedStyle(element);
  const names = [...LAYERS, "rule", "line", "dim", "now", "ground", "raise", "kept", "rec"];
  return Object.fromEntries(names.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]));
}

/** @returns {string} the name of the colour of a layer at a place among the others, from below */
export function layerColour(place) {
  return LAYERS[place % LAYERS.length];
}

/**
 * @param {CanvasRenderingContext2D} to
 * @param {Scene} scene
 */
export function drawSheet(to, scene) {
  const { scale, colours, clip } = scene;
  const { wide, high } = scale.size;
  to.clearRect(0, 0, wide, high);
  drawRows(to, scene);
  drawBars(to, scene);
  to.globalAlpha = scene.coming ? SILENT : 1;
  clip.layers.forEach((layer, place) => {
    to.strokeStyle = to.fillStyle = colours[layerColour(place)];
    layer.hollow.forEach((note) => drawHollow(to, scene, note));
    layer.notes.forEach((note) => drawNote(to, scene, scene.draft.get(note[0]) ?? note));
  });
  to.globalAlpha = 1;
  to.fillStyle = to.strokeStyle = colours.rec;
  scene.coming?.forEach((note) => drawNote(to, scene, note));
  to.fillStyle = to.strokeStyle = colours.now;
  for (const [id, note] of scene.draft) {
    if (id < 0) {
      drawNote(to, scene, note);
    }
  }
  drawDimmed(to, scene);
  drawRepeats(to, scene);
  drawSweep(to, scene);
}

function drawRows(to, { scale, colours }) {
  const { wide } = scale.size;
  to.strokeStyle = colours.line;
  to.lineWidth = 1;
  to.beginPath();
  for (const pitch of scale.pitches) {
    const y = Math.round(scale.y(pitch)) + 0.5;
    to.moveTo(0, y);
    to.lineTo(wide, y);
  }
  to.stroke();
}

function drawBars(to, { scale, colours, meter, clip }) {
  const { barTicks, beatTicks } = meter;
  const dense = scale.x(beatTicks) - scale.x(0) < 12;
  const step = dense ? barTicks : beatTicks;
  const first = Math.floor(clip.start / barTicks) * barTicks;
  to.font = "15px 'Atkinson Hyperlegible', sans-serif";
  for (let tick = Math.ceil(scale.from / step) * step; tick <= scale.to; tick += step) {
    const bar = tick % barTicks === 0;
    const x = Math.round(scale.x(tick)) + 0.5;
    to.strokeStyle = bar ? colours.rule : colours.line;
    to.lineWidth = bar ? 2 : 1;
    to.setLineDash(bar ? [] : [2, 6]);
    to.beginPath();
    to.moveTo(x, scale.top - 6);
    to.lineTo(x, scale.bottom);
    to.stroke();
    if (bar && tick >= clip.start && tick < clip.start + clip.length) {
      to.fillStyle = colours.dim;
      to.fillText(String((tick - first) / barTicks + 1), x + 5, scale.top - 10);
    }
  }
  to.setLineDash([]);
}

/** ‖: and :‖ where the loop begins and ends. */
function drawRepeats(to, { scale, colours, clip }) {
  to.fillStyle = colours.ink;
  const middle = (scale.top + scale.bottom) / 2;
  for (const [tick, side] of [
    [clip.start, 1],
    [clip.start + clip.length, -1],
  ]) {
    const x = scale.x(tick) - side * 16;
    to.fillRect(x - (side > 0 ? 7 : 0), scale.top - 6, 7, scale.bottom - scale.top + 6);
    for (const off of [-14, 14]) {
      to.beginPath();
      to.arc(x + side * 7, middle + off, 4, 0, 7);
      to.fill();
    }
  }
}

/** What lies outside the repeat bars does not go round. */
function drawDimmed(to, { scale, colours, clip }) {
  to.globalAlpha = 0.6;
  to.fillStyle = colours.ground;
  const begin = scale.x(clip.start) - 2;
  const end = scale.x(clip.start + clip.length) + 2;
  to.fillRect(0, scale.top - 6, Math.max(0, begin), scale.size.high);
  to.fillRect(end, scale.top - 6, Math.max(0, scale.size.wide - end), scale.size.high);
  to.globalAlpha = 1;
}

/** @returns {number[]} left, top, width and height of a note's block */
export function blockOf(scale, [, pitch, , meant, length], drums) {
  const thick = Math.max(4, Math.min(THICKEST, scale.rowHeight * 0.42));
  const x = scale.x(meant);
  const wide = drums ? Math.min(scale.x(meant + length) - x, thick * 2.4) : scale.x(meant + length) - x;
  return [x, scale.y(pitch) - thick / 2, Math.max(LEAST, wide - 1), thick];
}

function drawNote(to, scene, note) {
  const [id, pitch, velocity, meant, length] = note;
  const { scale, clip, drums, chosen, colours } = scene;
  if (pitch === PEDAL || meant > scale.to) {
    return;
  }
  const [x, y, wide, thick] = blockOf(scale, note, drums);
  const end = clip.start + clip.length;
  const over = !drums && meant < end && meant + length > end;
  const shown = over ? Math.max(LEAST, scale.x(end) - x) : wide;
  if (x + shown < 0) {
    return;
  }
  const stem = (velocity / 127) * Math.max(8, scale.rowHeight * 0.56);
  to.fillRect(x, y, shown, thick);
  to.fillRect(x, y - stem, 2.5, stem);
  to.fillRect(x - 1.5, y - stem - 2, 5.5, 3);
  if (over) {
    drawTie(to, scene, note, y + thick);
  }
  if (chosen.has(id)) {
    const before = to.strokeStyle;
    to.strokeStyle = colours.now;
    to.lineWidth = 3;
    to.strokeRect(x - 4, y - 4, shown + 8, thick + 8);
    to.strokeStyle = before;
  }
}

/** It sounds on over the line: out at the end, in at the beginning. */
function drawTie(to, { scale, clip }, [, , , meant, length], y) {
  const end = clip.start + clip.length;
  const rest = Math.min(meant + length - end, clip.length);
  to.globalAlpha = 0.55;
  to.fillRect(scale.x(clip.start), y - 5, scale.x(clip.start + rest) - scale.x(clip.start), 4);
  to.globalAlpha = 1;
  to.lineWidth = 2;
  for (const x of [scale.x(end), scale.x(clip.start)]) {
    to.beginPath();
    to.ellipse(x, y + 1, 18, 8, 0, 0.2, Math.PI - 0.2);
    to.stroke();
  }
}

function drawHollow(to, { scale, drums }, note) {
  if (note[1] === PEDAL) {
    return;
  }
  const [x, y, wide, thick] = blockOf(scale, note, drums);
  to.lineWidth = 1.5;
  to.setLineDash([3, 3]);
  to.strokeRect(x, y, wide, thick);
  to.setLineDash([]);
}

function drawSweep(to, { scale, colours, sweep, cursor }) {
  to.strokeStyle = colours.kept;
  to.lineWidth = 2;
  if (sweep) {
    const [x1, y1, x2, y2] = sweep;
    to.strokeRect(Math.min(x1, x2), Math.min(y1, y2), Math.abs(x2 - x1), Math.abs(y2 - y1));
  }
  if (cursor) {
    to.setLineDash([4, 4]);
    to.strokeRect(scale.x(cursor.tick) - 5, scale.y(cursor.pitch) - 10, 10, 20);
    to.setLineDash([]);
  }
}

/** The note at a place of the sheet, the nearest within reach; undefined if there is none. */
export function noteAt({ clip, scale, drums }, x, y, reach) {
  let found;
  let least = reach;
  for (const layer of clip.layers) {
    for (const note of layer.notes) {
      if (note[1] === PEDAL) {
        continue;
      }
      const [left, top, wide, high] = blockOf(scale, note, drums);
      const away = Math.hypot(outside(x, left, left + wide), outside(y, top, top + high));
      if (away < least) {
        least = away;
        found = note;
      }
    }
  }
  return found;
}

function outside(value, low, high) {
  return value < low ? low - value : Math.max(0, value - high);
}

/** The notes in a rectangle of the sheet. */
export function notesIn({ clip, scale, drums }, [x1, y1, x2, y2]) {
  const [left, right] = [Math.min(x1, x2), Math.max(x1, x2)];
  const [top, bottom] = [Math.min(y1, y2), Math.max(y1, y2)];
  return clip.layers
    .flatMap((layer) => layer.notes)
    .filter((note) => {
      const [x, y, wide, high] = blockOf(scale, note, drums);
      return note[1] !== PEDAL && x + wide >= left && x <= right && y + high >= top && y <= bottom;
    });
}
