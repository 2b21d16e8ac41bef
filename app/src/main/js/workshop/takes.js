import { field } from "../stage/fields.js";

/**
 * Takes as thin staves, one above the other: a press hears one, sweeping a stretch puts it into the comp. While
 * a comp is heard a sweep changes it at once; else the stretches are gathered until it is made. By keys a stretch
 * is marked with the arrows, beat by beat, and Enter sweeps it.
 */

const HIGH = 40;
const WIDE = 160;
const PEDAL = 128;

export class Takes {
  constructor(workshop) {
    this.workshop = workshop;
    this.root = document.getElementById("workshop-takes");
    this.box = document.getElementById("workshop-takes-box");
    this.make = document.getElementById("comp-make");
    /** @type {{from: number, to: number, take: number}[]} what is swept together, and not made yet */
    this.stretches = [];
    /** @type {{take: number, from: number, to: number} | null} beats that are marked by keys, of one take */
    this.marked = null;
    /** @type {Set<number>} takes that are ticked, to be laid in a row */
    this.ticked = new Set();
    this.make.addEventListener("click", () => this.#make());
    document.getElementById("comp-forget").addEventListener("click", () => this.#gather([]));
    const act = (id, command) =>
      document.getElementById(id).addEventListener("click", () => workshop.edits.do(command));
    this.name = field("take-name");
    this.name.addEventListener("change", () =>
      workshop.edits.do({ do: "renameTake", take: this.drawn.take, name: this.name.value }),
    );
    document.getElementById("takes-row").addEventListener("click", () => this.#layInRow());
    act("takes-spread", { do: "spreadTakes" });
    act("takes-crop", { do: "cropTakes" });
  }

  /**
   * @param {import("../house/state.js").Clip} clip
   * @param {import("../house/state.js").Note[]} coming what has been played so far of the take that is being played
   */
  draw(clip, coming) {
    if (this.drawn === clip && this.coming === coming) {
      return;
    }
    this.coming = coming;
    if (this.drawn?.id !== clip.id) {
      this.stretches = [];
      this.marked = null;
      this.ticked.clear();
    }
    this.drawn = clip;
    this.box.hidden = clip.takes.length < 2;
    this.#show();
  }

  #show() {
    const clip = this.drawn;
    if (clip.takes.length < 2) {
      return;
    }
    // rows stay as long as their takes do: one that is being swept is not taken from under the finger
    const numbers = `${clip.id}: ${clip.takes.map(({ number }) => number)}`;
    if (numbers !== this.shownTakes) {
      this.shownTakes = numbers;
      this.root.replaceChildren(...clip.takes.map((take) => this.#take(take)));
    }
    clip.takes.forEach((take, place) => this.#update(this.root.children[place], clip, take));
    const heard = clip.takes.find(({ number }) => number === clip.take);
    if (document.activeElement !== this.name) {
      this.name.value = heard.name;
    }
    this.name.placeholder = `name of take ${heard.number}`;
    this.make.hidden = this.stretches.length === 0;
    document.getElementById("comp-forget").hidden = this.stretches.length === 0;
  }

  /** @returns {import("../house/state.js").Note[]} */
  #notes(clip, number) {
    const { part, stage } = this.workshop;
    return stage.state.notesOfTake(stage.state.parts.get(part), clip, number);
  }

  #update(item, clip, take) {
    const heard = take.number === clip.take;
    item.classList.toggle("heard", heard);
    item.classList.toggle("coming", take.number === this.workshop.takeBeingPlayed);
    const hear = item.querySelector("button");
    const called = [take.name, take.partial && "partial", take.stretches && "comp"]
      .filter(Boolean)
      .join(", ");
    hear.title = hear.ariaLabel = `hear take ${take.number}${called ? `, ${called}` : ""}`;
    hear.setAttribute("aria-pressed", String(heard));
    item.querySelector(".taketick").checked = this.ticked.has(take.number);
    this.#draw(item.querySelector("canvas"), clip, take);
  }

  #take(take) {
    const item = document.createElement("li");
    const hear = document.createElement("button");
    hear.className = "btn small";
    hear.textContent = String(take.number);
    hear.addEventListener("click", () =>
      this.workshop.edits.do({ do: "hearTake", take: take.number, atOnce: false }),
    );
    const gone = document.createElement("button");
    gone.className = "btn small";
    gone.textContent = "×";
    gone.title = gone.ariaLabel = `delete take ${take.number}`;
    gone.addEventListener("click", () => this.workshop.edits.do({ do: "deleteTake", take: take.number }));
    const tick = document.createElement("input");
    Object.assign(tick, { type: "checkbox", className: "taketick" });
    tick.title = tick.ariaLabel = `take ${take.number} in the row`;
    tick.addEventListener("change", () => {
      if (tick.checked) {
        this.ticked.add(take.number);
      } else {
        this.ticked.delete(take.number);
      }
    });
    item.append(hear, this.#stave(take), tick, gone);
    return item;
  }

  #stave(take) {
    const canvas = document.createElement("canvas");
    canvas.className = "takestave";
    canvas.height = HIGH;
    canvas.width = WIDE;
    canvas.dataset.take = String(take.number);
    canvas.tabIndex = 0;
    canvas.setAttribute("role", "application");
    canvas.setAttribute(
      "aria-label",
      `take ${take.number}: sweep a stretch to put it into the comp; arrows mark one, with Shift a longer one, Enter sweeps it`,
    );
    canvas.addEventListener("keydown", (event) => this.#key(event, take.number));
    canvas.addEventListener("blur", () => this.#mark(null));
    let from = null;
    canvas.addEventListener("pointerdown", (event) => {
      from = this.#beat(canvas, event, Math.floor);
      canvas.setPointerCapture(event.pointerId);
    });
    canvas.addEventListener("pointerup", (event) => {
      const to = this.#beat(canvas, event, Math.ceil);
      if (from !== null && to > from) {
        this.sweep(take.number, from, to);
      }
      from = null;
    });
    return canvas;
  }

  /** The place on the material's axis, on a beat. */
  #beat(canvas, event, rounded) {
    const { left, width } = canvas.getBoundingClientRect();
    const { beatTicks } = this.workshop.stage.state.show.meter;
    const share = Math.max(0, Math.min(1, (event.clientX - left) / width));
    const clip = this.drawn;
    const beats = rounded((share * clip.length) / beatTicks);
    return clip.start + Math.min(clip.length, beats * beatTicks);
  }

  /** Arrows mark a beat, with Shift as many as there are on the way; Enter sweeps what is marked. */
  #key(event, take) {
    const { beatTicks } = this.workshop.stage.state.show.meter;
    const beats = Math.ceil(this.drawn.length / beatTicks);
    const sign = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (sign) {
      event.preventDefault();
      const { from, to } = this.marked ?? { from: 0, to: 1 - sign };
      const first = event.shiftKey ? from : Math.max(0, Math.min(beats - 1, to - 1 + sign));
      this.#mark({ take, from: first, to: Math.max(first + 1, Math.min(beats, to + sign)) });
    } else if (event.key === "Enter" && this.marked) {
      event.preventDefault();
      const { start, length } = this.drawn;
      const place = (beat) => start + Math.min(length, beat * beatTicks);
      this.sweep(take, place(this.marked.from), place(this.marked.to));
      this.#mark(null);
    }
  }

  #mark(marked) {
    this.marked = marked;
    this.#show();
  }

  /** A stretch of a take goes into the comp. */
  sweep(number, from, to) {
    const clip = this.drawn;
    const heard = clip.takes.find((take) => take.number === clip.take);
    if (heard.stretches && number !== heard.number) {
      this.workshop.edits.do({ do: "redrawComp", take: heard.number, from, to, of: number });
      return;
    }
    const whole = [{ from: clip.start, to: clip.start + clip.length, take: clip.take }];
    this.#gather([...(this.stretches.length ? this.stretches : whole), { from, to, take: number }]);
  }

  #gather(stretches) {
    this.stretches = stretches;
    this.#show();
  }

  /** Those that are ticked, in the order in which they were; all, where none is. */
  #layInRow() {
    const takes = [...this.ticked].filter((number) =>
      this.drawn.takes.some((take) => take.number === number),
    );
    this.workshop.edits.do(takes.length ? { do: "takesInARow", takes } : { do: "layTakesInRow" });
  }

  #make() {
    this.workshop.edits.do({ do: "comp", stretches: this.stretches });
    this.#gather([]);
  }

  #draw(canvas, clip, take) {
    const wide = canvas.clientWidth || WIDE;
    if (canvas.width !== wide) {
      canvas.width = wide;
    }
    const to = canvas.getContext("2d");
    const style = getComputedStyle(document.body);
    const colour = (name) => style.getPropertyValue(`--${name}`).trim();
    const notes = this.#notes(clip, take.number).filter(([, pitch]) => pitch !== PEDAL);
    const pitches = notes.map(([, pitch]) => pitch);
    const low = Math.min(...pitches);
    const range = Math.max(1, Math.max(...pitches) - low);
    const x = (tick) => ((tick - clip.start) / clip.length) * canvas.width;
    to.fillStyle = colour("raise");
    to.fillRect(0, 0, canvas.width, HIGH);
    const coming = take.number === this.workshop.takeBeingPlayed;
    to.fillStyle = coming ? colour("rec") : take.number === clip.take ? colour("ink") : colour("dim");
    for (const [, pitch, , meant, length] of notes) {
      to.fillRect(x(meant), 30 - ((pitch - low) / range) * 24, Math.max(2, x(meant + length) - x(meant)), 3);
    }
    const heard = clip.takes.find(({ number }) => number === clip.take);
    const stretches = this.stretches.length ? this.stretches : (heard.stretches ?? []);
    if (take.name) {
      to.font = "12px 'Atkinson Hyperlegible', sans-serif";
      to.fillText(take.name, 4, 12);
    }
    if (this.marked?.take === take.number) {
      const { beatTicks } = this.workshop.stage.state.show.meter;
      const [from, until] = [this.marked.from, this.marked.to].map((beat) =>
        x(clip.start + beat * beatTicks),
      );
      to.strokeStyle = colour("now");
      to.lineWidth = 2;
      to.strokeRect(from + 1, 1, until - from - 2, HIGH - 2);
    }
    // a later one lies over an earlier
    for (const stretch of stretches) {
      to.fillStyle = colour(stretch.take === take.number ? "now" : "raise");
      to.fillRect(x(stretch.from), HIGH - 5, x(stretch.to) - x(stretch.from), 5);
    }
  }
}
