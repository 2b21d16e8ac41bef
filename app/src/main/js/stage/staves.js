import { BalanceStrip } from "./balance.js";
import { pennant } from "./pennants.js";
import { Shelf } from "./shelf.js";
import { Stave } from "./stave.js";

/** The parts, a stave for each, and the count-in's large numbers over them. */
export class Staves {
  constructor(stage, { partDialog, clipDialog, chooser }) {
    this.stage = stage;
    this.partDialog = partDialog;
    this.clipDialog = clipDialog;
    document.getElementById("part-add").addEventListener("click", () => chooser.openForNewPart());
    this.root = document.getElementById("parts");
    this.countdown = document.createElement("div");
    this.countdown.className = "countdown";
    this.countdown.hidden = true;
    this.countdown.setAttribute("role", "timer");
    // drawers and parts that come take room: the armed one stays in the picture
    new ResizeObserver(() => this.armedRow?.scrollIntoView({ block: "nearest" })).observe(this.root);
    /** @type {Map<number, {row: HTMLElement, stave: Stave, shelf: Shelf, strip: BalanceStrip}>} */
    this.rows = new Map();
    this.heard = new Map();
    stage.hub.addEventListener("played", ({ detail }) => this.#hearing(detail));
    stage.sound.addEventListener("levels", ({ detail }) => this.#measured(detail));
  }

  draw() {
    const { state } = this.stage;
    if (!state.show) {
      return;
    }
    const parts = state.staves;
    const known = new Set(parts.map((part) => part.id));
    for (const [id, { row }] of this.rows) {
      if (!known.has(id)) {
        row.remove();
        this.rows.delete(id);
      }
    }
    parts.forEach((part, place) => this.#drawPart(part, place));
    this.root.querySelector(".empty")?.remove();
    if (!parts.length) {
      const empty = document.createElement("p");
      empty.className = "empty";
      empty.textContent = "No part yet: add one with “+ part”, choosing its sound.";
      this.root.append(empty);
    }
    this.root.append(this.countdown);
  }

  tick(tick) {
    this.#drawCountdown(tick);
    for (const { stave } of this.rows.values()) {
      stave.tick(tick);
    }
  }

  #drawPart(part, place) {
    const { state } = this.stage;
    if (!this.rows.has(part.id)) {
      this.rows.set(part.id, this.#newRow(part));
    }
    const { row, stave, shelf, strip } = this.rows.get(part.id);
    if (this.root.children[place] !== row) {
      this.root.insertBefore(row, this.root.children[place] ?? null);
    }
    const armed = state.isArmed(part.id);
    if (armed && !row.classList.contains("armed")) {
      this.armedRow = row;
      row.scrollIntoView({ block: "nearest" });
    }
    row.classList.toggle("armed", armed);
    row.classList.toggle("silent", part.balance.gain === 0);
    row.querySelector("b").textContent = part.name;
    row.querySelector(".soundname").textContent = part.sound.name;
    row.querySelector(".arm").lastChild.textContent = armed ? "armed" : "arm";
    row.querySelector(".arm").setAttribute("aria-pressed", String(armed));
    row.querySelector(".ring").hidden = !armed;
    if (row.dataset.pennant !== String(part.pennant)) {
      row.dataset.pennant = String(part.pennant);
      row.querySelector(".pennant").replaceWith(pennant(part.pennant));
    }
    stave.draw(part);
    shelf.draw(part);
    strip.draw(part);
  }

  #newRow(part) {
    const row = document.createElement("article");
    row.className = "stave";
    row.dataset.part = String(part.id);
    const who = document.createElement("div");
    who.className = "who";
    const name = document.createElement("b");
    const sound = document.createElement("button");
    sound.className = "soundname";
    sound.title = "settings of the part";
    sound.addEventListener("click", () => this.partDialog.open(this.stage.state.parts.get(part.id)));
    const arm = document.createElement("button");
    arm.className = "arm";
    const ring = document.createElement("span");
    ring.className = "ring";
    const hearing = document.createElement("span");
    hearing.className = "hearing";
    hearing.title = "lit while playing arrives";
    arm.append(hearing, ring, document.createElement("span"));
    arm.title = "arm it; with Shift together with those that are armed";
    arm.addEventListener("click", (event) => {
      const { connection, state } = this.stage;
      connection.do(
        event.shiftKey
          ? { do: "armAlongside", part: part.id, on: !state.alongside.includes(part.id) }
          : { do: "arm", part: part.id },
      );
    });
    row.dataset.pennant = String(part.pennant);
    who.append(pennant(part.pennant), name, sound, arm);
    const drawing = document.createElement("div");
    drawing.className = "drawing";
    drawing.title = "open it in the Workshop";
    drawing.addEventListener("click", () => stave.swept || this.stage.workshop.open(part.id));
    const words = document.createElement("div");
    words.className = "statewords";
    const shelf = new Shelf(this.stage, this.clipDialog, part.id);
    const strip = new BalanceStrip(this.stage, part.id);
    const openTakes = (clip) => this.clipDialog.open(part.id, clip);
    row.append(who, drawing, words, shelf.element, strip.element);
    this.root.append(row);
    const stave = new Stave(this.stage, drawing, words, openTakes);
    return { row, stave, shelf, strip };
  }

  /** @param {import("../house/mixer.js").Levels} levels */
  #measured(levels) {
    const now = performance.now();
    this.rows.forEach(({ strip }) => strip.measured(levels, now));
  }

  /** The count-in, large across the staves: how many beats are left. */
  #drawCountdown(tick) {
    const { show } = this.stage.state;
    const counting = tick !== null && tick < 0;
    if (this.countdown.hidden === counting) {
      this.countdown.hidden = !counting;
    }
    if (counting) {
      const left = String(Math.ceil(-tick / show.click.ticks));
      if (this.countdown.textContent !== left) {
        this.countdown.textContent = left;
      }
    }
  }

  #hearing({ pitch, velocity }) {
    if (velocity) {
      this.heard.set(pitch, true);
    } else {
      this.heard.delete(pitch);
    }
    const lamp = this.rows.get(this.stage.state.armedPart?.id)?.row.querySelector(".hearing");
    lamp?.classList.toggle("on", this.heard.size > 0);
  }
}
