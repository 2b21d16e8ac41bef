/**
 * What the page knows of the show. It is told by the engine, whole at first and then what has
 * changed; it decides nothing.
 *
 * @typedef {number[]} Note [id, pitch, velocity, meant onset, length, 1 if held], in material ticks
 * @typedef {{id: number, letter: string, start: number, length: number, peeled: number,
 *   layers: {number: number, notes: Note[]}[]}} Clip
 * @typedef {{id: number, name: string,
 *   sound: {drums: boolean, program: number, name: string, family: string},
 *   inputGrid: {grid: string, strength: number, swing: number, endsToo: boolean},
 *   shelf: number[], ready?: number, vamp?: {clip: number, phase: number, from: number},
 *   first?: {letter: string, start: number, origin: number, until?: number, notes: Note[]},
 *   overdub?: {clip: number, from: number}}} Part
 */
import { TempoMap } from "../player/tempo-map.js";

export class State {
  constructor() {
    this.show = null;
    this.transport = { rolling: false, awaiting: false };
    this.armed = 0;
    /** @type {number[]} */
    this.order = [];
    /** @type {Map<number, Part>} */
    this.parts = new Map();
    /** @type {Map<number, Clip>} */
    this.clips = new Map();
    /** @type {TempoMap | null} */
    this.map = null;
    this.press = "";
    this.holder = "";
  }

  /** Forgets all, before it is told the whole again. */
  clear() {
    this.parts.clear();
    this.clips.clear();
  }

  /** @param {object} changes what has changed, as `docs/protocol.md` has it */
  take(changes) {
    for (const name of ["show", "armed", "order"]) {
      if (name in changes) {
        this[name] = changes[name];
      }
    }
    if (changes.transport) {
      this.transport = changes.transport;
      this.map = changes.transport.rolling ? new TempoMap(changes.transport.anchors) : null;
    }
    replace(this.parts, changes.parts);
    replace(this.clips, changes.clips);
  }

  /** @returns {Part[]} in the order of the staves */
  get staves() {
    return this.order.map((id) => this.parts.get(id)).filter(Boolean);
  }

  /** @returns {Part | undefined} the part that recording goes to, or would go to */
  get armedPart() {
    return this.parts.get(this.armed || this.order[0]);
  }
}

function replace(target, changes = {}) {
  for (const [id, value] of Object.entries(changes)) {
    if (value === null) {
      target.delete(Number(id));
    } else {
      target.set(Number(id), value);
    }
  }
}
