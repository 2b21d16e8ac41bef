import { pennant } from "./pennants.js";
import { Stave } from "./stave.js";
import { tickNow } from "./time.js";

/** The parts, a stave for each, and the count-in's large numbers over them. */
export class Staves {
  constructor(stage, chooser) {
    this.stage = stage;
    this.chooser = chooser;
    this.root = document.getElementById("parts");
    this.countdown = document.createElement("div");
    this.countdown.className = "countdown";
    this.countdown.hidden = true;
    this.countdown.setAttribute("role", "timer");
    /** @type {Map<number, {row: HTMLElement, stave: Stave}>} */
    this.rows = new Map();
    this.heard = new Map();
    stage.hub.addEventListener("played", ({ detail }) => this.#hearing(detail));
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
    parts.forEach((part) => this.#drawPart(part));
    if (!parts.length) {
      const empty = document.createElement("p");
      empty.className = "empty";
      empty.textContent = "This show has no part.";
      this.root.replaceChildren(empty);
    }
    this.root.append(this.countdown);
  }

  tick() {
    const tick = tickNow(this.stage);
    this.#drawCountdown(tick);
    for (const { stave } of this.rows.values()) {
      stave.tick(tick);
    }
  }

  #drawPart(part) {
    const { state } = this.stage;
    if (!this.rows.has(part.id)) {
      this.rows.set(part.id, this.#newRow(part));
    }
    const { row, stave } = this.rows.get(part.id);
    const armed = state.armed === part.id;
    row.classList.toggle("armed", armed);
    row.querySelector("b").textContent = part.name;
    row.querySelector(".soundname").textContent = part.sound.name;
    row.querySelector(".arm").lastChild.textContent = armed ? "armed" : "not armed";
    row.querySelector(".ring").hidden = !armed;
    stave.draw(part);
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
    sound.title = "choose the sound";
    sound.addEventListener("click", () => this.chooser.open(this.stage.state.parts.get(part.id)));
    const arm = document.createElement("button");
    arm.className = "btn small arm";
    const ring = document.createElement("span");
    ring.className = "ring";
    const hearing = document.createElement("span");
    hearing.className = "hearing";
    hearing.title = "lit while playing arrives";
    arm.append(hearing, ring, document.createElement("span"));
    arm.addEventListener("click", () => this.stage.connection.do({ do: "arm", part: part.id }));
    who.append(pennant(part.id), name, sound, arm);
    const drawing = document.createElement("div");
    drawing.className = "drawing";
    const words = document.createElement("div");
    words.className = "statewords";
    row.append(who, drawing, words);
    this.root.append(row);
    return { row, stave: new Stave(this.stage, drawing, words) };
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
