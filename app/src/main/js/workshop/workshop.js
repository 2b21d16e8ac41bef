import { drumNames } from "../house/drum-names.js";
import { noteName } from "../stage/note-names.js";
import { count, passAt } from "../stage/time.js";
import { Choice } from "./choice.js";
import { Edits } from "./edits.js";
import { Gestures } from "./gestures.js";
import { workshopKeys } from "./keys.js";
import { Layers } from "./layers.js";
import { Scale } from "./scale.js";
import { Shown } from "./shown.js";
import { blockOf, coloursOf, drawSheet } from "./sheet.js";
import { Steps } from "./steps.js";
import { Strips } from "./strips.js";
import { Takes } from "./takes.js";
import { field } from "../stage/fields.js";

const PEDAL = 128;
const STEPS = { "1/4": 960, "1/8": 480, "1/16": 240, "1/32": 120, "1/64": 60, "1/8T": 320, "1/16T": 160 };
/** How long notes are by their values. */
const LENGTHS = { "1/1": 3840, "1/2": 1920, ...STEPS, "1/4T": 640 };
const HEARD_FOR = 220;
const PITCHED = [36, 38, 42];

/**
 * One clip large, over the staves, while all goes on: its notes, layers and takes, mended while they sound. What
 * edits come to is the engine's to say; here it is shown, and asked for.
 */
export class Workshop {
  constructor(stage) {
    this.stage = stage;
    this.root = document.getElementById("workshop");
    this.canvas = /** @type {HTMLCanvasElement} */ (document.getElementById("workshop-sheet"));
    this.line = document.getElementById("workshop-line");
    this.bubble = document.getElementById("workshop-bubble");
    this.names = document.getElementById("workshop-names");
    this.scale = new Scale();
    this.choice = new Choice();
    this.edits = new Edits(stage.connection);
    this.part = 0;
    this.clip = 0;
    /** @type {{start: number, length: number} | null} of the loop, while an end of it is dragged */
    this.ends = null;
    this.draws = false;
    this.draft = new Map();
    this.sweep = null;
    this.cursor = null;
    /** whether it opens on the part that is armed, whenever another is */
    this.follows = false;
    this.followed = 0;
    /** @type {Set<number> | null} the clips that there were when another was asked for */
    this.waitsFor = null;
    this.shown = new Shown(`ancora-workshop-${document.getElementById("stage").dataset.show}`);
    /** @type {Set<number>} rows that stay, be there notes in them or not */
    this.opened = new Set();
    this.dirty = true;
    this.layers = new Layers(this);
    this.takes = new Takes(this);
    this.strips = new Strips(this);
    this.steps = new Steps(this);
    new Gestures(this.canvas, this);
    this.#wire();
    drumNames().then((names) => {
      this.drumNames = names;
      this.changed();
    });
  }

  get isOpen() {
    return !this.root.hidden;
  }

  get thing() {
    return this.stage.state.clips.get(this.clip);
  }

  get drums() {
    return this.stage.state.parts.get(this.part)?.sound.drums ?? false;
  }

  /** Ticks of the grid by which notes are moved and drawn. */
  get step() {
    return STEPS[field("workshop-grid").value] ?? 240;
  }

  get scene() {
    const { choice, draft, sweep, cursor, scale, drums } = this;
    const meter = this.stage.state.show.meter;
    return {
      clip: this.ends ? { ...this.thing, ...this.ends } : this.thing,
      meter,
      drums,
      chosen: choice.ids,
      draft,
      sweep,
      cursor,
      scale,
      colours: this.colours,
      coming: this.takeBeingPlayed ? this.stage.state.parts.get(this.part).recorded : null,
    };
  }

  /** The number of the take of this clip that is being played while another, silent, is the one that is heard. */
  get takeBeingPlayed() {
    const onto = this.stage.state.parts.get(this.part)?.onto;
    return onto?.clip === this.clip ? onto.take : undefined;
  }

  /** Opens on a clip of a part; on none it opens on what the part has in hand. */
  open(part, clip) {
    const { parts, armedPart } = this.stage.state;
    const on = parts.get(part) ?? armedPart;
    const which = clip ?? on?.vamp?.clip ?? on?.ready ?? on?.shelf[0];
    if (which === undefined) {
      this.stage.words.say("There is no clip yet: record one, or press F9 for an empty one.", true);
      return;
    }
    this.stage.runs.close();
    this.part = this.edits.part = on.id;
    this.clip = this.edits.clip = which;
    this.choice.choose([]);
    this.opened.clear();
    this.cursor = null;
    this.ends = null;
    this.root.hidden = false;
    document.getElementById("stage").classList.add("workshop");
    const shown = this.shown.get(which);
    if (shown) {
      this.scale.show(shown.from, shown.to);
    } else {
      this.showAll();
    }
    this.#fillChoices();
    this.changed();
    this.canvas.focus();
  }

  /** Asks for a clip with nothing in it, and opens it when it is there. */
  makeEmpty(part) {
    const { connection, state } = this.stage;
    this.waitsFor = new Set(state.clips.keys());
    connection.do({ do: "makeClip", part, bars: Number(field("clip-bars").value) });
  }

  close() {
    this.root.hidden = true;
    document.getElementById("stage").classList.remove("workshop");
  }

  /** F9: opens on the part in hand, with an empty clip where it has none; or goes back to the Stage. */
  toggle() {
    const part = this.stage.state.armedPart;
    if (this.isOpen) {
      this.close();
    } else if (part && !part.shelf.length && !part.first) {
      this.makeEmpty(part.id);
      this.stage.words.say(`${part.name} had no clip: this one is empty. Draw into it, or undo it.`);
    } else {
      this.open();
    }
  }

  changed() {
    this.dirty = true;
  }

  /** Something has changed: drawn anew is only what is shown here. */
  draw() {
    const { state } = this.stage;
    const shown = [
      this.thing,
      state.parts.get(this.part)?.name,
      state.parts.get(this.part)?.sound,
      state.parts.get(this.part)?.recorded,
      state.parts.get(this.part)?.onto?.take,
      state.show,
    ];
    if (!this.drawnOf?.every((value, i) => value === shown[i])) {
      this.drawnOf = shown;
      this.changed();
    }
    if (this.isOpen) {
      this.#fillChoices();
    }
  }

  tick(tick) {
    if (!this.isOpen && !this.waitsFor) {
      return;
    }
    this.#follow();
    if (!this.isOpen) {
      return;
    }
    if (!this.thing) {
      this.close();
      return;
    }
    if (this.dirty) {
      this.dirty = false;
      this.#draw();
    }
    this.#drawLine(tick);
  }

  /** A clip that was asked for is opened when it is there; in a window of its own the armed part is followed. */
  #follow() {
    const { clips, armedPart } = this.stage.state;
    const came = this.waitsFor && [...clips.keys()].find((id) => !this.waitsFor.has(id));
    if (came) {
      this.waitsFor = null;
      this.open(this.#partOf(came), came);
    } else if (this.follows && armedPart && armedPart.id !== this.followed) {
      this.followed = armedPart.id;
      this.open(armedPart.id);
    }
  }

  #draw() {
    const clip = this.thing;
    const { wide, high } = this.#fit();
    this.colours = coloursOf(this.root);
    const notes = this.#notes();
    this.choice.follow(notes);
    this.#rows(notes);
    this.shown.set(this.clip, { from: this.scale.from, to: this.scale.to });
    const to = this.canvas.getContext("2d");
    to.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
    this.scale.size = { wide, high };
    drawSheet(to, this.scene);
    this.layers.draw(clip);
    this.takes.draw(clip, this.scene.coming);
    this.strips.draw(this.scene);
    this.#say(clip, notes);
  }

  #partOf(clip) {
    return [...this.stage.state.parts.values()].find(({ shelf }) => shelf.includes(clip))?.id;
  }

  /** What other clips and parts there are to choose from. */
  #fillChoices() {
    const { state } = this.stage;
    const clips = state.staves.flatMap((part) =>
      part.shelf.map((id) => [id, `${part.name} ${state.clips.get(id)?.letter}`]),
    );
    const key = `${this.clip} ${clips}`;
    if (key === this.drawnChoices) {
      return;
    }
    this.drawnChoices = key;
    const fill = (id, rows) => {
      const select = field(id);
      const { value } = select;
      select.replaceChildren(...rows.map(([at, words]) => new Option(words, String(at))));
      select.value = rows.some(([at]) => String(at) === value) ? value : String(rows[0]?.[0] ?? "");
    };
    const others = clips.filter(([id]) => id !== this.clip);
    fill("workshop-feel", [["0", "straight"], ...others.map(([id, name]) => [id, `feel of ${name}`])]);
    fill("clip-there", others);
    fill(
      "clip-part",
      state.staves.filter(({ id }) => id !== this.part).map(({ id, name }) => [id, name]),
    );
  }

  #fit() {
    const { clientWidth: wide, clientHeight: high } = this.canvas.parentElement;
    const [across, down] = [Math.round(wide * devicePixelRatio), Math.round(high * devicePixelRatio)];
    if (this.canvas.width !== across || this.canvas.height !== down) {
      this.canvas.width = across;
      this.canvas.height = down;
    }
    return { wide, high };
  }

  #notes() {
    return this.thing.layers.flatMap((layer) => layer.notes);
  }

  /** Rows are what the clip uses; others are opened. */
  #rows(notes) {
    const used = new Set(this.opened);
    for (const layer of this.thing.layers) {
      layer.hollow.forEach(([, pitch]) => used.add(pitch));
    }
    notes.forEach(([, pitch]) => used.add(pitch));
    this.draft.forEach(([, pitch]) => used.add(pitch));
    used.delete(PEDAL);
    // a row that has lost its last note stays while the clip is open: nothing jumps
    used.forEach((pitch) => this.opened.add(pitch));
    if (used.size === 0) {
      (this.drums ? PITCHED : [60, 64, 67]).forEach((pitch) => used.add(pitch));
    }
    const pitches = [...used].sort((a, b) => b - a);
    const key = `${pitches} ${this.drums} ${Boolean(this.drumNames)} ${this.canvas.height}`;
    this.scale.pitches = pitches;
    if (key !== this.drawnRows) {
      this.drawnRows = key;
      this.scale.size = { wide: this.canvas.clientWidth, high: this.canvas.clientHeight };
      this.names.replaceChildren(...pitches.map((pitch) => this.#rowName(pitch)));
    }
  }

  #rowName(pitch) {
    const name = document.createElement("button");
    name.className = "rowname";
    name.textContent = this.#nameOf(pitch);
    name.title = "choose the row; it is heard";
    name.style.top = `${this.scale.y(pitch) - Math.min(20, this.scale.rowHeight / 2)}px`;
    name.style.height = `${Math.min(40, this.scale.rowHeight)}px`;
    name.addEventListener("click", (event) => {
      this.choose(
        this.#notes().filter(([, at]) => at === pitch),
        event.shiftKey,
      );
      this.hear([[0, pitch, 90]]);
    });
    return name;
  }

  #nameOf(pitch) {
    return this.drums ? (this.drumNames?.[pitch] ?? `drum ${pitch}`) : `${noteName(pitch)} ${pitch}`;
  }

  #say(clip, notes) {
    const { parts, show } = this.stage.state;
    const bars = clip.length / show.meter.barTicks;
    const long = Number.isInteger(bars)
      ? count(bars, "bar")
      : count(clip.length / show.meter.beatTicks, "beat");
    document.getElementById("workshop-title").textContent =
      `Workshop: ${parts.get(this.part)?.name} ${clip.letter}`;
    const [only] = this.choice.ids.size === 1 ? this.chosenNotes() : [];
    const size = this.choice.ids.size;
    const chosen = only ? `: ${this.#nameOf(only[1])} is chosen` : size ? `, ${size} chosen` : "";
    document.getElementById("workshop-words").textContent =
      `${[clip.name, long, count(clip.layers.length, "layer")].filter(Boolean).join(" · ")} · ${count(notes.length, "note")}${chosen}`;
    for (const button of this.root.querySelectorAll("[data-wants]")) {
      button.disabled = this.choice.isEmpty;
    }
  }

  #drawLine(tick) {
    const vamp = this.stage.state.parts.get(this.part)?.vamp;
    const clip = this.thing;
    const sounds = tick !== null && vamp?.clip === this.clip && tick >= vamp.from;
    this.line.hidden = !sounds;
    if (sounds) {
      const place = clip.start + passAt(vamp, clip.length, tick).place;
      const x = this.scale.x(place);
      this.line.hidden = x < 0 || x > this.scale.size.wide;
      this.line.style.transform = `translateX(${Math.round(x * 2) / 2}px)`;
    }
  }

  /** Choosing: what is chosen is heard, if that is on. */
  choose(notes, add = false) {
    this.choice.choose(notes, add);
    if (notes.length && notes.length <= 8) {
      this.hear(notes);
    }
    this.cursor = null;
    this.#askGrid();
    this.changed();
  }

  chooseAll() {
    this.choose(this.#notes());
  }

  /** The next note in time, or the one before; from the cursor, where none is chosen. */
  chooseNext(sign, add) {
    const notes = this.#notes()
      .filter(([, pitch]) => pitch !== PEDAL)
      .sort((a, b) => a[3] - b[3] || a[1] - b[1]);
    if (!notes.length) {
      return;
    }
    const chosen = notes.filter(([id]) => this.choice.ids.has(id));
    const from = sign > 0 ? notes.indexOf(chosen.at(-1)) : notes.indexOf(chosen[0]);
    const next = from < 0 ? (sign > 0 ? 0 : notes.length - 1) : from + sign;
    const note = notes[(next + notes.length) % notes.length];
    this.choose([note], add && !this.choice.ids.has(note[0]));
    this.#keepInSight(note[3]);
  }

  #keepInSight(tick) {
    const { scale } = this;
    if (tick < scale.from || tick > scale.to) {
      const half = (scale.to - scale.from) / 2;
      scale.show(tick - half, tick + half);
    }
  }

  chosenNotes() {
    return this.#notes().filter(([id]) => this.choice.ids.has(id));
  }

  /** Sounds notes for a moment, as the part sounds. */
  hear(notes) {
    if (!field("workshop-hear").checked) {
      return;
    }
    const { sound } = this.stage;
    const level = Number(field("workshop-hear-level").value) / 100;
    for (const [, pitch, velocity] of notes.filter(([, at]) => at < PEDAL)) {
      sound.down(this.part, pitch, Math.max(1, Math.round(velocity * level)));
      setTimeout(() => sound.up(this.part, pitch), HEARD_FOR);
    }
  }

  /** The nearest line of the grid. */
  snap(tick) {
    return Math.round(tick / this.step) * this.step;
  }

  /** Round the circle, as the engine will have it. */
  round(was, tick) {
    const { start, length } = this.thing;
    const inside = was >= start && was < start + length;
    return inside ? start + ((((tick - start) % length) + length) % length) : tick;
  }

  /** How far a drag of a note goes: by the grid, or freely. */
  distance([, pitch], at, to, free) {
    const ticks = this.scale.tick(to.x) - this.scale.tick(at.x);
    const moved = free ? Math.round(ticks) : this.snap(ticks);
    const row = this.scale.pitches.indexOf(pitch) + Math.round((to.y - at.y) / this.scale.rowHeight);
    const rows = this.scale.pitches;
    const there = rows[Math.max(0, Math.min(rows.length - 1, row))];
    return { ticks: moved, semitones: there - pitch };
  }

  /** What a gesture would come to. */
  sketch(draft, sweep, shown) {
    this.draft = draft;
    this.sweep = sweep;
    this.bubble.hidden = !shown;
    if (shown) {
      const [, pitch, velocity, meant] = shown;
      const { barTicks, beatTicks } = this.stage.state.show.meter;
      const place = meant - Math.floor(this.thing.start / barTicks) * barTicks;
      const [x, y] = blockOf(this.scale, shown, this.drums);
      this.bubble.textContent = `${Math.floor(place / barTicks) + 1}.${Math.floor((place % barTicks) / beatTicks) + 1}.${String(Math.round(place % beatTicks)).padStart(3, "0")} · ${this.#nameOf(pitch)} · ${velocity}`;
      this.bubble.style.transform = `translate(${Math.max(0, x)}px, ${Math.max(0, y - 44)}px)`;
    }
    this.changed();
  }

  moveChosen({ ticks, semitones }) {
    if (!this.choice.isEmpty && (ticks || semitones)) {
      this.edits.make({ by: "move", notes: this.choice.list, ticks, semitones });
      const moved = this.chosenNotes().map(([id, pitch, velocity]) => [id, pitch + semitones, velocity]);
      if (semitones && moved.length <= 8) {
        this.hear(moved);
      }
    }
  }

  /** Moves what is chosen; where nothing is, the cursor for drawing. */
  moveBy(ticks, semitones) {
    if (!this.choice.isEmpty) {
      this.moveChosen({ ticks, semitones });
      return;
    }
    const rows = this.scale.pitches;
    const { tick, pitch } = this.cursor ?? { tick: this.thing.start - ticks, pitch: rows.at(-1) };
    const row = rows.indexOf(pitch) - Math.sign(semitones);
    this.cursor = {
      tick: this.round(this.thing.start, tick + ticks),
      pitch: rows[Math.max(0, Math.min(rows.length - 1, row))],
    };
    this.hear([[0, this.cursor.pitch, 80]]);
    this.changed();
  }

  drawAtCursor() {
    if (this.cursor) {
      this.drawNote(this.cursor.pitch, this.cursor.tick, this.step, null);
    }
  }

  /**
   * @param {number | null} velocity as its place is by itself, if null
   * @param {boolean} [isToHear] whether it is heard and chosen: what a key draws has sounded
   */
  drawNote(pitch, place, length, velocity, isToHear = true) {
    const loud = velocity === null ? {} : { velocity };
    if (isToHear) {
      this.choice.expect(this.#notes());
      this.hear([[0, pitch, velocity ?? 90]]);
    }
    this.edits.make({ by: "draw", pitch, place, length, ...loud });
  }

  velocityBy(add) {
    if (!this.choice.isEmpty) {
      this.edits.make({ by: "velocity", notes: this.choice.list, add });
      const louder = this.chosenNotes().map(([id, pitch, velocity]) => [
        id,
        pitch,
        Math.max(1, Math.min(127, velocity + add)),
      ]);
      if (louder.length <= 8) {
        this.hear(louder);
      }
    }
  }

  deleteChosen() {
    if (!this.choice.isEmpty) {
      this.edits.make({ by: "delete", notes: this.choice.list });
    }
  }

  /** What is chosen is remembered to be pasted: after itself, by whole bars, again and again. */
  remember() {
    const notes = this.chosenNotes();
    if (notes.length) {
      this.copied = { ids: this.choice.list, times: 0 };
      this.stage.words.say(
        `${count(notes.length, "note")} to copy: paste puts them on by the bars they take up.`,
      );
    }
  }

  paste() {
    if (this.copied?.ids.length) {
      this.choice.expect(this.#notes());
      this.edits.make({ by: "copyOn", notes: this.copied.ids, times: ++this.copied.times });
    }
  }

  /** Copies notes some ticks on, and chooses the copies. */
  copyBy(ticks) {
    if (!this.choice.isEmpty) {
      this.choice.expect(this.#notes());
      this.edits.make({ by: "copy", notes: this.choice.list, ticks, semitones: 0 });
    }
  }

  /** @returns {{from: number, to: number}} where notes are chosen; else of the loop, what is shown */
  stretch() {
    const notes = this.chosenNotes();
    if (notes.length) {
      const from = Math.min(...notes.map(([, , , meant]) => meant));
      return { from, to: Math.max(from + 1, ...notes.map(([, , , meant, length]) => meant + length)) };
    }
    return {
      from: Math.max(this.thing.start, Math.round(this.scale.from)),
      to: Math.min(this.thing.start + this.thing.length, Math.round(this.scale.to)),
    };
  }

  /** @returns {Record<string, any>} to the grid, as the tools are set, of what is chosen or of all */
  #toGrid() {
    const value = (id) => field(id).value;
    const feel = Number(value("workshop-feel"));
    const lines = feel
      ? { feelOf: feel }
      : { grid: value("workshop-grid"), swing: Number(value("workshop-swing")) };
    const notes = this.choice.isEmpty ? "all" : this.choice.list;
    return { by: "toGrid", notes, strength: Number(value("workshop-strength")), ...lines };
  }

  /** What goes to the grid, or back: what is chosen, or all of more than is shown. */
  /** @returns {{clips?: number[], takes?: "heard" | "all"} | null} */
  #reach() {
    const reach = field("workshop-reach").value;
    const { shelf } = this.stage.state.parts.get(this.part);
    return reach === "takes" ? { takes: "all" } : reach === "clips" ? { clips: shelf } : null;
  }

  #makeInReach(edit, asks) {
    const reach = this.#reach();
    if (reach) {
      this.edits.makeIn({ ...edit, notes: "all" }, reach, asks);
    } else if (asks) {
      this.edits.ask(edit);
    } else {
      this.edits.make(edit);
    }
  }

  toGrid() {
    this.#makeInReach(this.#toGrid(), false);
  }

  asPlayed() {
    this.#makeInReach({ by: "asPlayed", notes: this.choice.isEmpty ? "all" : this.choice.list }, false);
  }

  /** A length in note values, as it is typed. */
  #lengthen(typed) {
    const ticks = LENGTHS[typed.value.trim().toUpperCase()];
    if (!ticks) {
      this.stage.words.say(
        "That is no note value: type 1/1, 1/2, 1/4, 1/8, 1/16, 1/32, 1/8T or 1/16T.",
        true,
      );
    } else if (!this.choice.isEmpty) {
      this.edits.make({ by: "length", notes: this.choice.list, ticks });
    }
    typed.value = "";
    this.canvas.focus();
  }

  /**
   * An end of the loop, while it is dragged, on a beat.
   *
   * @param {"start" | "end"} which
   */
  dragEnd(which, x) {
    const { beatTicks, barTicks } = this.stage.state.show.meter;
    const { start, length } = this.thing;
    const at = Math.round(this.scale.tick(x) / beatTicks) * beatTicks;
    const end = start + length;
    this.ends =
      which === "start"
        ? { start: Math.min(at, end - beatTicks), length: Math.max(beatTicks, end - at) }
        : { start, length: Math.max(beatTicks, at - start) };
    const bars = this.ends.length / barTicks;
    const long = Number.isInteger(bars) ? count(bars, "bar") : count(this.ends.length / beatTicks, "beat");
    document.getElementById("workshop-words").textContent = `the loop will have ${long}`;
    this.changed();
  }

  /** The loop goes round between its ends as they were dragged. */
  dropEnd(takes) {
    const { ends } = this;
    this.ends = null;
    if (takes && ends) {
      this.edits.do({ do: "reshape", reshaping: { by: "toWindow", ...ends } });
    }
    this.changed();
  }

  /** What is chosen becomes longer or shorter by the grid, all of it as long as its longest note then. */
  lengthBy(sign) {
    const longest = Math.max(...this.chosenNotes().map(([, , , , length]) => length));
    if (!this.choice.isEmpty) {
      const ticks = Math.max(1, (Math.round(longest / this.step) + sign || 0.5) * this.step);
      this.edits.make({ by: "length", notes: this.choice.list, ticks });
    }
  }

  showChosen() {
    const notes = this.chosenNotes();
    if (notes.length) {
      const from = Math.min(...notes.map(([, , , meant]) => meant));
      const to = Math.max(...notes.map(([, , , meant, length]) => meant + length));
      const margin = Math.max(this.step, (to - from) * 0.05);
      this.scale.show(from - margin, to + margin);
      this.changed();
    }
  }

  /** A view is kept under its number, and had again by it. */
  view(number, keeps) {
    const name = `${this.clip}/${number}`;
    const view = this.shown.get(name);
    if (keeps || !view) {
      this.shown.set(name, { from: this.scale.from, to: this.scale.to });
      this.stage.words.say(`View ${number} is what is shown now.`);
    } else {
      this.scale.show(view.from, view.to);
    }
    this.changed();
  }

  /** What it will do is said before it is done. */
  #askGrid() {
    clearTimeout(this.asking);
    this.asking = setTimeout(() => this.isOpen && this.#makeInReach(this.#toGrid(), true), 150);
  }

  zoom(factor, around) {
    const most = Math.max(this.thing.length * 1.3, this.stage.state.show.meter.barTicks);
    this.scale.zoom(factor, around, most);
    this.changed();
  }

  zoomBy(factor) {
    this.zoom(factor, (this.scale.from + this.scale.to) / 2);
  }

  showAll() {
    const { start, length } = this.thing;
    const margin = length * 0.03;
    this.scale.show(start - margin, start + length + margin);
    this.changed();
  }

  /** The bar that sounds, else the one that is shown first. */
  showBar() {
    const { barTicks } = this.stage.state.show.meter;
    const x = this.line.hidden ? this.scale.from : this.scale.tick(this.#lineX());
    const bar = Math.max(this.thing.start, Math.floor(x / barTicks) * barTicks);
    this.scale.show(bar - barTicks * 0.03, bar + barTicks * 1.03);
    this.changed();
  }

  #lineX() {
    return Number(/translateX\((.*)px\)/u.exec(this.line.style.transform)?.[1] ?? 0);
  }

  #wire() {
    const on = (id, act) => document.getElementById(id).addEventListener("click", act);
    const chosen = (edit) => () =>
      !this.choice.isEmpty && this.edits.make({ notes: this.choice.list, ...edit });
    on("workshop-close", () => this.close());
    on("workshop-all", () => this.showAll());
    on("workshop-bar", () => this.showBar());
    on("workshop-in", () => this.zoomBy(1 / 1.5));
    on("workshop-out", () => this.zoomBy(1.5));
    on("tool-draw", ({ currentTarget }) => {
      this.draws = !this.draws;
      currentTarget.setAttribute("aria-pressed", String(this.draws));
    });
    on("tool-earlier", () => this.moveBy(-this.step, 0));
    on("tool-later", () => this.moveBy(this.step, 0));
    on("tool-softer", () => this.velocityBy(-8));
    on("tool-louder", () => this.velocityBy(8));
    on("tool-accents", chosen({ by: "velocity", accents: true }));
    on("tool-shorter", chosen({ by: "length", factor: 0.5 }));
    on("tool-longer", chosen({ by: "length", factor: 2 }));
    on("tool-to-next", chosen({ by: "length", toNext: true }));
    on("tool-to-grid", () => this.toGrid());
    on("tool-as-played", () => this.asPlayed());
    on("workshop-chosen", () => this.showChosen());
    field("tool-length").addEventListener("change", ({ target }) =>
      this.#lengthen(/** @type {any} */ (target)),
    );
    for (const button of /** @type {any[]} */ ([
      ...document.querySelectorAll("#workshop-views [data-view]"),
    ])) {
      button.addEventListener("click", ({ shiftKey }) => this.view(button.dataset.view, shiftKey));
    }
    on("tool-copy", () => this.copyBy(this.step));
    on("tool-own", () => this.edits.do({ do: "splitNotes", notes: this.choice.list }));
    on("tool-delete", () => this.deleteChosen());
    on("workshop-row-add", () => {
      const pitch = Number(field("workshop-row").value);
      this.opened.add(pitch);
      this.hear([[0, pitch, 90]]);
      this.changed();
    });
    for (const id of [
      "workshop-grid",
      "workshop-strength",
      "workshop-swing",
      "workshop-feel",
      "workshop-reach",
    ]) {
      document.getElementById(id).addEventListener("input", () => {
        for (const what of ["strength", "swing"]) {
          document.getElementById(`workshop-${what}-words`).textContent =
            `${field(`workshop-${what}`).value} %`;
        }
        this.#askGrid();
      });
    }
    this.edits.addEventListener("asked", ({ detail }) => {
      document.getElementById("workshop-will").textContent = detail;
    });
    on("clip-cut", () => this.edits.do({ do: "cutClip", bars: Number(field("clip-bars").value) }));
    on("clip-repeat", () => this.edits.do({ do: "repeatClip", times: Number(field("clip-times").value) }));
    on("clip-empty", () => this.makeEmpty(this.part));
    const there = () => Number(field("clip-there").value);
    on("clip-after", () =>
      this.stage.connection.do({ do: "chainClips", part: this.part, clip: [this.clip, there()] }),
    );
    on("clip-copy-notes", () => {
      const notes = this.choice.isEmpty ? "all" : this.choice.list;
      this.edits.make({
        by: "copy",
        notes,
        ticks: 0,
        semitones: 0,
        toPart: this.#partOf(there()),
        toClip: there(),
      });
    });
    const part = () => Number(field("clip-part").value);
    on("clip-copy", () => this.edits.do({ do: "copyClip", to: part() }));
    on("clip-move", () => this.edits.do({ do: "moveClipTo", to: part() }));
    on("tool-steps", ({ currentTarget }) => {
      this.steps.isOn = !this.steps.isOn;
      currentTarget.setAttribute("aria-pressed", String(this.steps.isOn));
    });
    const rows = field("workshop-row");
    rows.addEventListener("focus", () => {
      rows.replaceChildren(
        ...Array.from(
          { length: 128 },
          (_, pitch) => new Option(this.#nameOf(127 - pitch), String(127 - pitch)),
        ),
      );
      rows.value = String(this.scale.pitches[0] ?? 60);
    });
    const keys = workshopKeys(this);
    this.takesKey = (event) => this.isOpen && keys(event);
    new ResizeObserver(() => {
      this.drawnRows = "";
      this.changed();
    }).observe(this.canvas.parentElement);
  }
}
