import {
  loopPicture,
  openPicture,
  readyPicture,
  rememberedPicture,
  restPicture,
  takesPicture,
} from "./notation.js";
import { lengthOf, linesOf, sceneOf } from "./scene.js";
import { count } from "./time.js";

/** A finger that moves by no more has not moved, in px. */
const STILL = 6;

/** The repeat signs at the ends of a loop are so wide, px. */
const ENDS = 30;

/** One part's stave: what sounds now over its bars, the play line, and the state in words. */
export class Stave {
  /**
   * @param {Record<string, any>} stage
   * @param {HTMLElement} drawing
   * @param {HTMLElement} words
   */
  constructor(stage, drawing, words, openTakes) {
    this.stage = stage;
    this.takes = document.createElement("button");
    this.takes.className = "takesof";
    this.takes.title = "hear, name, choose and spread the takes";
    // the words around it change with each beat, perhaps before a finger is off it
    for (const kind of ["pointerdown", "click"]) {
      this.takes.addEventListener(kind, () => openTakes(this.scene.clip.id));
    }
    this.drawing = drawing;
    this.end = document.createElement("div");
    this.end.className = "loopend";
    this.end.hidden = true;
    this.words = words;
    /** @type {any} what is drawn, see `notation.js` */
    this.picture = null;
    this.drawnKey = null;
    this.said = "";
    this.size = { wide: 0, high: 0 };
    // asking the element in each frame would have the browser lay out the page once for each stave
    new ResizeObserver(([{ contentRect }]) => {
      this.size = { wide: Math.round(contentRect.width), high: Math.round(contentRect.height) };
    }).observe(drawing);
    this.#sweepToKeep(drawing);
    this.#dragEnds(drawing);
  }

  /** An end of the loop is taken at its repeat sign, and dragged along the bar lines. */
  #dragEnds(drawing) {
    let drag = null;
    const x = ({ clientX }) => clientX - drawing.getBoundingClientRect().left;
    drawing.addEventListener("pointerdown", (event) => {
      const { clip, takes, first } = this.scene ?? {};
      const side = x(event) < ENDS ? "start" : x(event) > this.size.wide - ENDS ? "end" : null;
      drag = clip && !takes && !first && side ? { side, clip, at: x(event) } : null;
      if (drag) {
        drawing.setPointerCapture(event.pointerId);
      }
    });
    drawing.addEventListener("pointermove", (event) => {
      if (drag && Math.abs(x(event) - drag.at) > STILL) {
        const { clip, side } = drag;
        const { meter } = this.stage.state.show;
        const unit = clip.length < meter.barTicks ? meter.beatTicks : meter.barTicks;
        const perTick = (this.size.wide - 2 * ENDS) / clip.length;
        const moved = Math.round((x(event) - drag.at) / perTick / unit) * unit;
        const length = Math.max(unit, clip.length + (side === "end" ? moved : -moved));
        const start = side === "end" ? clip.start : clip.start + clip.length - length;
        drag.to = { start, length };
        this.swept = true;
        const edge = side === "end" ? start + length : start;
        this.end.hidden = false;
        this.end.style.left = `${ENDS + (edge - clip.start) * perTick}px`;
        this.end.textContent = lengthOf(length, meter);
        drawing.append(this.end);
      }
    });
    drawing.addEventListener("pointerup", () => {
      const { to, clip } = drag ?? {};
      if (to && (to.start !== clip.start || to.length !== clip.length)) {
        const reshaping = { by: "toWindow", ...to };
        this.stage.connection.do({ do: "reshape", part: this.part.id, clip: clip.id, reshaping });
      }
    });
    for (const kind of ["pointerup", "pointercancel"]) {
      drawing.addEventListener(kind, () => {
        drag = null;
        this.end.hidden = true;
      });
    }
  }

  /** A stretch of what was played last is swept, and kept. */
  #sweepToKeep(drawing) {
    let from = null;
    const x = ({ clientX }) => clientX - drawing.getBoundingClientRect().left;
    const y = ({ clientY }) => clientY - drawing.getBoundingClientRect().top;
    drawing.addEventListener("pointerdown", (event) => {
      from = this.picture?.instantAt && y(event) >= (this.picture.below ?? 0) ? x(event) : null;
      this.swept = false;
    });
    drawing.addEventListener("pointermove", (event) => {
      if (from !== null && event.buttons && Math.abs(x(event) - from) > STILL) {
        this.swept = true;
        this.picture.sweep?.(from, x(event));
      }
    });
    drawing.addEventListener("pointerup", (event) => {
      if (from !== null && this.swept && this.picture.instantAt) {
        const [a, b] = [from, x(event)].sort((p, q) => p - q).map(this.picture.instantAt);
        this.picture.sweep(0, 0);
        this.stage.connection.do({
          do: "keepStretch",
          part: this.part.id,
          onto: this.part.id,
          from: a,
          until: Math.max(a + 1, b),
          cue: false,
        });
      }
      from = null;
    });
  }

  /** @param {import("../house/state.js").Part} part */
  draw(part) {
    this.part = part;
    this.tick(this.stage.state.map ? this.stage.state.map.tickAt(this.stage.clock.now()) : null);
  }

  /** @param {number | null} tick the place heard now */
  tick(tick) {
    const { state } = this.stage;
    if (!this.part || !state.show) {
      return;
    }
    const scene = sceneOf(this.part, tick, state);
    this.scene = scene;
    if (this.size.wide && this.size.high) {
      this.#drawScene(scene);
      this.picture.moveTo(scene.position);
      this.picture.hatchFrom(scene.hatch?.position ?? null, scene.hatch?.letter);
    }
    this.#say(scene, tick);
  }

  /** The picture is drawn anew only when what it shows has changed; else only its play line moves. */
  #drawScene(scene) {
    const { state } = this.stage;
    const { wide, high } = this.size;
    const key = [
      scene.kind,
      scene.clip ?? scene.first,
      remembered(scene, this.part),
      scene.notes,
      scene.bars,
      scene.takes?.coming,
      scene.range?.from,
      scene.range?.to,
      state.show.meter,
      wide,
      high,
    ];
    if (this.drawnKey?.every((value, i) => value === key[i])) {
      return;
    }
    this.drawnKey = key;
    const { meter } = state.show;
    const { drums } = this.part.sound;
    const played = remembered(scene, this.part);
    if (scene.takes) {
      this.picture = takesPicture(scene.clip, scene.takes, meter, drums, this.size);
    } else if (scene.clip && played) {
      this.picture = readyPicture(scene.clip, played, meter, drums, this.size);
    } else if (scene.clip) {
      this.picture = loopPicture(scene.clip, meter, drums, this.size, scene.range);
    } else if (scene.first && scene.kind === "RECORD") {
      this.picture = openPicture(scene.first, scene.notes, meter, drums, scene.bars, this.size);
    } else if (played) {
      this.picture = rememberedPicture(played, drums, this.size);
    } else {
      this.picture = restPicture(this.size);
    }
    this.drawing.replaceChildren(this.picture.svg, this.picture.line);
  }

  #say(scene, tick) {
    const { meter } = this.stage.state.show;
    const lines = linesOf(scene, tick, meter);
    const [latest] = remembered(scene, this.part)?.slice(-1) ?? [];
    if (latest && !scene.awaiting) {
      lines[scene.kind === "READY" ? "note" : "more"] =
        `played ${age(this.stage.clock.now() - latest[3] - latest[4])} ago: sweep it to keep it`;
    }
    const text = JSON.stringify(lines);
    if (text === this.said) {
      return;
    }
    this.said = text;
    this.words.className = `statewords ${lines.style}`;
    const state = document.createElement("div");
    state.className = "state";
    const mark = document.createElement("span");
    mark.className = "mark";
    state.append(mark, lines.state);
    this.words.replaceChildren(state);
    for (const [style, line] of [
      ["more", lines.more],
      ["note", lines.note],
      ["next", lines.next],
    ]) {
      if (line) {
        const element = document.createElement("div");
        element.className = style;
        element.textContent = line;
        this.words.append(element);
      }
    }
    if (lines.takes) {
      this.takes.textContent = lines.takes;
      this.words.append(this.takes);
    }
  }
}

/** What was played last, where nothing sounds. */
function remembered({ kind }, { played }) {
  return (kind === "TACET" || kind === "READY") && played.length ? played : null;
}

/** How long ago, in words that change no more often than they must. */
function age(micros) {
  const seconds = Math.max(0, micros / 1e6);
  return seconds < 60
    ? count(Math.max(1, Math.round(seconds)), "second")
    : count(Math.round(seconds / 60), "minute");
}
