/**
 * What the page knows of the show. It is told by the engine, whole at first and then what has
 * changed; it decides nothing.
 *
 * @typedef {number[]} Note [id, pitch, velocity, meant onset, length, 1 if held], in material ticks
 * @typedef {{clip: number, phase: number, from: number,
 *   breather?: {from: number, ticks: number, until?: number}}} Vamp where a clip stands, and how it rests
 * @typedef {{ring: boolean, pickup: number, entersOn: string | null, comesIn: "BY_ITSELF" | "FROM_THE_TOP" | "IN_STEP", underWay: boolean}} Manner
 * @typedef {{part: number, keys: boolean, devices: string[], channels: number[], lowest: number, highest: number,
 *   transpose: number, velocity: number | null, offset: number}} Heard keys: whether keys sound there
 * @typedef {{from: number, to: number, take: number}} Stretch of a comp, in material ticks
 * @typedef {import("../player/sounds.js").SoundOf & {name: string, family: string}} Named
 * @typedef {{id: number, letter: string, name: string, start: number, length: number, peeled: number,
 *   manner: Manner, sound?: Named, take: number, takes: {number: number, name: string, partial: boolean, stretches?: Stretch[]}[],
 *   others: {number: number, notes: Note[]}[],
 *   layers: {number: number, out: number, notes: Note[], hollow: Note[], moves: number[][]}[]}} Clip
 * @typedef {{id: number, name: string, pennant: number, leaving: string,
 *   sound: Named,
 *   inputGrid: {grid: string, strength: number, swing: number, endsToo: boolean},
 *   input: {devices: string[], channels: number[], lowest: number, highest: number,
 *     transpose: number, velocity: number | null, offset: number,
 *     monitoring: "ARMED" | "ALWAYS" | "NEVER"},
 *   balance: import("./mixer.js").Balance & {muted: boolean, solo: boolean},
 *   output?: import("../output/midi-out.js").Output,
 *   shelf: number[], ready?: number, vamp?: Vamp,
 *   cue?: {at: number, phase: number, clip?: number}, changesAt?: number,
 *   first?: {letter: string, start: number, origin: number, until?: number, then: "VAMP" | "OVERDUB" | "TAKES"}, recorded: Note[],
 *   played: number[][],
 *   onto?: {clip: number, from: number, mode: "add" | "replace" | "punch" | "takes", line: number,
 *     toCome: boolean, punchFrom?: number, punchTo?: number, take?: number, takeFrom?: number, nextTake?: number}}} Part
 *   recorded: what has been played into a first recording, or into the take that is being played
 */
import { changed, edited } from "../player/changes.js";
import { TempoMap } from "../player/tempo-map.js";

export class State {
  constructor() {
    this.show = null;
    this.form = { sections: [] };
    /** @type {{erase?: number, repeat?: {grid: string, swing: number}}} what hands are made to do */
    this.hands = {};
    /** @type {Heard[]} on which parts hands are heard, and as what */
    this.hears = [];
    /** @type {{undo: string, redo: string}} what would be undone and done again, in words */
    this.history = { undo: "", redo: "" };
    /**
     * @type {{part: number, clip: number, bpm?: number, sure: string,
     *   reading: {octave: number, later: number, beats: number, steady: boolean} | null} | null}
     *   what was kept last, while it can be taken otherwise; how its tempo was taken, if it is of a standstill
     */
    this.kept = null;
    this.transport = { rolling: false, awaiting: false };
    this.armed = 0;
    /** @type {number[]} parts that are played and recorded on together with it */
    this.alongside = [];
    /** @type {number[]} */
    this.order = [];
    /** @type {Map<number, Part>} */
    this.parts = new Map();
    /** @type {Map<number, Clip>} */
    this.clips = new Map();
    /** @type {TempoMap | null} */
    this.map = null;
    /** @type {Record<string, string>} what each pedal does next, in words, by its command */
    this.press = {};
    /** @type {Record<string, string>} what each control that can light would find */
    this.lit = {};
  }

  /** Forgets all, before it is told the whole again. */
  clear() {
    this.parts.clear();
    this.clips.clear();
  }

  /** @param {Record<string, any>} changes what has changed, as `docs/protocol.md` has it */
  take(changes) {
    for (const name of ["show", "armed", "alongside", "order", "form", "hands", "hears", "history", "kept"]) {
      if (name in changes) {
        this[name] = changes[name];
      }
    }
    if (changes.transport) {
      this.transport = changes.transport;
      this.map = changes.transport.rolling ? new TempoMap(changes.transport.anchors) : null;
    }
    merge(this.parts, changes.parts);
    merge(this.clips, changes.clips);
    changes.notes?.forEach((change) => this.#takeNotes(change));
  }

  /** Notes of a layer, or of what is being recorded, have come or gone. */
  #takeNotes({
    clip: id,
    layer: number,
    part,
    out,
    playedEdits,
    edits = [],
    hollowEdits = [],
    moveEdits = [],
  }) {
    if (playedEdits) {
      const { played = [] } = this.parts.get(part);
      merge(this.parts, { [part]: { played: edited(played, playedEdits) } });
      return;
    }
    if (part) {
      const { recorded = [] } = this.parts.get(part);
      merge(this.parts, { [part]: { recorded: edited(recorded, edits) } });
      return;
    }
    const { layers } = this.clips.get(id);
    const place = layers.findIndex((layer) => layer.number === number);
    const layer = layers[place] ?? { number, out: 0, notes: [], hollow: [], moves: [] };
    const next = {
      ...layer,
      out: out ?? layer.out,
      notes: edited(layer.notes, edits),
      hollow: edited(layer.hollow, hollowEdits),
      moves: edited(layer.moves, moveEdits),
    };
    merge(this.clips, { [id]: { layers: place < 0 ? [...layers, next] : layers.with(place, next) } });
  }

  /**
   * @param {Part} part
   * @param {Clip} clip
   * @returns {Note[]} what a take would sound; of the one that is being played, so far
   */
  notesOfTake(part, clip, number) {
    if (number === clip.take) {
      return clip.layers.flatMap(({ notes }) => notes);
    }
    const other = clip.others.find((one) => one.number === number);
    return other?.notes ?? (part.onto?.take === number ? part.recorded : []);
  }

  /** @returns {Part[]} in the order of the staves */
  get staves() {
    return this.order.map((id) => this.parts.get(id)).filter(Boolean);
  }

  /** @returns {Part | undefined} the part that recording goes to, or would go to */
  get armedPart() {
    return this.parts.get(this.armed || this.order[0]);
  }

  /** @returns {boolean} whether recording goes to a part */
  isArmed(id) {
    return id === this.armed || this.alongside.includes(id);
  }
}

/** Things are other objects when anything about them has changed. */
function merge(target, changes = {}) {
  for (const [id, fields] of Object.entries(changes)) {
    if (fields === null) {
      target.delete(Number(id));
    } else {
      target.set(Number(id), changed(target.get(Number(id)), fields));
    }
  }
}
