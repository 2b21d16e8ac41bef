/**
 * Pedal and controllers of the clip, a strip for each that there is, below its notes; each can be taken out, and
 * controllers thinned: in the stretch that is swept over on a strip, else where notes are chosen, else where it is
 * shown.
 */

const PEDAL = 128;
const HIGH = 30;
const THINNED_TO = 60;
const KINDS = ["control", "bend", "pressure"];

export class Strips {
  constructor(workshop) {
    this.workshop = workshop;
    this.root = document.getElementById("workshop-strips");
    /** @type {Map<string, HTMLCanvasElement>} */
    this.canvases = new Map();
    /** @type {{from: number, to: number} | null} what is swept over, in ticks of the material, and of which clip */
    this.swept = null;
    this.of = 0;
  }

  draw(scene) {
    const { clip } = scene;
    if (clip.id !== this.of) {
      this.of = clip.id;
      this.swept = null;
    }
    const spans = clip.layers.flatMap((layer) => layer.notes).filter(([, pitch]) => pitch === PEDAL);
    /** @type {Map<string, number[][]>} */
    const strips = new Map(spans.length ? [["pedal", spans]] : []);
    for (const move of clip.layers.flatMap((layer) => layer.moves)) {
      const name = move[0] === 0 ? `${KINDS[0]} ${move[1]}` : KINDS[move[0]];
      strips.set(name, [...(strips.get(name) ?? []), move]);
    }
    this.root.hidden = strips.size === 0;
    const names = [...strips.keys()];
    if (String(names) !== String([...this.canvases.keys()])) {
      this.canvases.clear();
      this.root.replaceChildren(...names.map((name) => this.#strip(name)));
    }
    for (const [name, rows] of strips) {
      this.#draw(this.canvases.get(name), scene, name, rows);
    }
  }

  #strip(name) {
    const row = document.createElement("div");
    row.className = "strip-row";
    const words = document.createElement("span");
    words.textContent = name;
    const canvas = document.createElement("canvas");
    canvas.setAttribute("role", "img");
    canvas.setAttribute("aria-label", name === "pedal" ? "the sustain pedal" : name);
    this.canvases.set(name, canvas);
    this.#sweeps(canvas);
    row.append(canvas, words);
    if (name !== "pedal") {
      row.append(this.#button("thin", name, () => ({ by: "thinMoves", every: THINNED_TO })));
    }
    row.append(
      this.#button("take out", name, () => ({ by: name === "pedal" ? "deletePedal" : "deleteMoves" })),
    );
    return row;
  }

  /** A stretch is swept over; a press alone lets it go. */
  #sweeps(canvas) {
    let from = null;
    const tick = (event) => {
      const { thing, scale } = this.workshop;
      const x = event.clientX - canvas.getBoundingClientRect().left;
      return Math.round(Math.max(thing.start, Math.min(thing.start + thing.length, scale.tick(x))));
    };
    canvas.addEventListener("pointerdown", (event) => {
      canvas.setPointerCapture(event.pointerId);
      from = tick(event);
      this.swept = null;
      this.workshop.changed();
    });
    canvas.addEventListener("pointermove", (event) => {
      const to = from === null ? from : tick(event);
      if (from !== null && to !== from) {
        this.swept = { from: Math.min(from, to), to: Math.max(from, to) };
        this.workshop.changed();
      }
    });
    canvas.addEventListener("lostpointercapture", () => (from = null));
  }

  #button(words, name, edit) {
    const button = document.createElement("button");
    button.className = "btn small";
    button.textContent = words;
    button.ariaLabel = `${words}: ${name}, where it is swept, chosen, or shown`;
    button.addEventListener("click", () => {
      const controller = name === "pedal" ? {} : { controller: name.replace("control ", "") };
      this.workshop.edits.make({ ...edit(), ...controller, ...(this.swept ?? this.workshop.stretch()) });
    });
    return button;
  }

  #draw(canvas, { scale, colours }, name, rows) {
    canvas.width = scale.size.wide;
    canvas.height = HIGH;
    const to = canvas.getContext("2d");
    if (this.swept) {
      to.fillStyle = colours.now;
      to.globalAlpha = 0.3;
      to.fillRect(scale.x(this.swept.from), 0, scale.x(this.swept.to) - scale.x(this.swept.from), HIGH);
      to.globalAlpha = 1;
    }
    to.strokeStyle = to.fillStyle = colours.dim;
    to.lineWidth = 2;
    if (name === "pedal") {
      for (const [, , , meant, length] of rows) {
        // as sheet music has it: a bracket
        const [from, until] = [scale.x(meant), scale.x(meant + length)];
        to.beginPath();
        to.moveTo(from, 8);
        to.lineTo(from, 22);
        to.lineTo(until, 22);
        to.lineTo(until, 8);
        to.stroke();
      }
      return;
    }
    const most = name === "bend" ? 16_383 : 127;
    for (const [, , place, value] of rows) {
      const high = 2 + (value / most) * (HIGH - 6);
      to.fillRect(scale.x(place) - 1, HIGH - high, 3, high);
    }
  }
}
