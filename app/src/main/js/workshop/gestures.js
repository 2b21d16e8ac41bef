import { noteAt, notesIn } from "./sheet.js";

/** How near a finger, or a mouse, has to come to a note, in px. */
const REACH = { touch: 20, pen: 10, mouse: 6 };

/** Less than this is a press, not a drag, in px. */
const STILL = 4;

/** A velocity changes by one for so many px up or down. */
const PX_A_VELOCITY = 1.5;

/**
 * What a mouse, pen or finger does on the sheet: choose, sweep, drag, draw, and two fingers to zoom.
 * It tells the workshop what is meant; while it goes on, what it would come to is shown as a draft.
 */
export class Gestures {
  /** @param {HTMLCanvasElement} canvas */
  constructor(canvas, workshop) {
    this.canvas = canvas;
    this.workshop = workshop;
    /** @type {Map<number, {x: number, y: number}>} fingers that are down */
    this.fingers = new Map();
    canvas.addEventListener("pointerdown", (event) => this.#down(event));
    canvas.addEventListener("pointermove", (event) => this.#move(event));
    canvas.addEventListener("pointerup", (event) => this.#up(event));
    canvas.addEventListener("pointercancel", (event) => this.#cancel(event));
    canvas.addEventListener("wheel", (event) => this.#wheel(event), { passive: false });
  }

  #place(event) {
    const { left, top } = this.canvas.getBoundingClientRect();
    return { x: event.clientX - left, y: event.clientY - top };
  }

  #down(event) {
    const at = this.#place(event);
    this.fingers.set(event.pointerId, at);
    this.canvas.setPointerCapture(event.pointerId);
    this.canvas.focus();
    if (this.fingers.size === 2) {
      this.drag = null;
      this.workshop.sketch(new Map(), null);
      return;
    }
    const { workshop } = this;
    const reach = REACH[event.pointerType] ?? REACH.mouse;
    const note = noteAt(workshop.scene, at.x, at.y, reach);
    const end = !note && endAt(workshop.scene, at.x, Math.max(reach, 12));
    if (end) {
      this.drag = { at, end };
      return;
    }
    const draws = workshop.draws && !note;
    if (note && (!workshop.choice.ids.has(note[0]) || event.shiftKey)) {
      workshop.choose([note], event.shiftKey);
    }
    this.drag = { at, note, draws, add: event.shiftKey };
  }

  #move(event) {
    const at = this.#place(event);
    if (this.fingers.has(event.pointerId)) {
      const before = this.fingers.get(event.pointerId);
      this.fingers.set(event.pointerId, at);
      if (this.fingers.size === 2) {
        this.#pinch(event.pointerId, before, at);
        return;
      }
    }
    if (
      !this.drag ||
      (!this.drag.moved && Math.hypot(at.x - this.drag.at.x, at.y - this.drag.at.y) < STILL)
    ) {
      return;
    }
    this.drag.moved = true;
    this.drag.to = at;
    this.drag.free = event.altKey;
    if (this.drag.end) {
      this.workshop.dragEnd(this.drag.end, at.x);
    } else {
      this.#sketch();
    }
  }

  /** Two fingers: what lies between them stays between them. */
  #pinch(moved, before, now) {
    const [other] = [...this.fingers].filter(([id]) => id !== moved).map(([, place]) => place);
    const was = Math.max(20, Math.abs(before.x - other.x));
    const is = Math.max(20, Math.abs(now.x - other.x));
    const { scale } = this.workshop;
    this.workshop.zoom(was / is, scale.tick((now.x + other.x) / 2));
    scale.pan(((before.x - now.x) / 2) * (was / is));
    this.workshop.changed();
  }

  #sketch() {
    const { at, to, note, draws, free } = this.drag;
    const { workshop } = this;
    if (draws) {
      const drawn = this.#drawn();
      workshop.sketch(new Map([[-1, drawn]]), null, drawn);
    } else if (note) {
      const { ticks, semitones } = workshop.distance(note, at, to, free);
      const draft = new Map();
      for (const chosen of workshop.chosenNotes()) {
        const [id, pitch, velocity, meant, length, held] = chosen;
        const there = Math.max(0, Math.min(127, pitch + semitones));
        draft.set(id, [id, there, velocity, workshop.round(meant, meant + ticks), length, held]);
      }
      workshop.sketch(draft, null, draft.get(note[0]));
    } else {
      workshop.sketch(new Map(), [at.x, at.y, to.x, to.y]);
    }
  }

  /** A note from where the drag began: to the right it lasts, upwards it is louder. */
  #drawn() {
    const { at, to = at } = this.drag;
    const { workshop } = this;
    const { scale } = workshop;
    const begin = workshop.snap(scale.tick(at.x));
    const length = Math.max(workshop.step, workshop.snap(scale.tick(to.x)) - begin);
    const louder = Math.round((at.y - to.y) / PX_A_VELOCITY);
    const velocity = Math.abs(louder) < 4 ? 0 : Math.max(1, Math.min(127, 90 + louder));
    return [-1, scale.pitch(at.y), velocity || 90, begin, length, 0, velocity === 0];
  }

  #up(event) {
    this.fingers.delete(event.pointerId);
    const { drag, workshop } = this;
    this.drag = null;
    if (!drag) {
      return;
    }
    if (drag.end) {
      workshop.dropEnd(drag.moved);
      return;
    }
    if (drag.draws) {
      this.drag = drag;
      const [, pitch, velocity, place, length, , byPlace] = this.#drawn();
      this.drag = null;
      workshop.drawNote(pitch, place, length, byPlace ? null : velocity);
    } else if (drag.note && drag.moved) {
      workshop.moveChosen(workshop.distance(drag.note, drag.at, drag.to, drag.free));
    } else if (drag.moved) {
      workshop.choose(notesIn(workshop.scene, [drag.at.x, drag.at.y, drag.to.x, drag.to.y]), drag.add);
    } else if (drag.note && !drag.add) {
      workshop.choose([drag.note]);
    } else if (!drag.note && !drag.add) {
      workshop.choose([]);
    }
    workshop.sketch(new Map(), null);
  }

  #cancel(event) {
    this.fingers.delete(event.pointerId);
    this.drag = null;
    this.workshop.dropEnd(false);
    this.workshop.sketch(new Map(), null);
  }

  /** Up and down goes along; with Ctrl it zooms, as a pinch on a touch pad does. */
  #wheel(event) {
    event.preventDefault();
    const { workshop } = this;
    if (event.ctrlKey || event.metaKey) {
      workshop.zoom(1.0015 ** event.deltaY, workshop.scale.tick(this.#place(event).x));
    } else {
      workshop.scale.pan(event.deltaX + event.deltaY);
    }
    workshop.changed();
  }
}

/** The repeat sign that a finger is on, which stands outside the loop. */
function endAt({ clip, scale }, x, reach) {
  const from = (tick, side) => Math.abs(x - (scale.x(tick) - side * 12)) <= reach;
  return from(clip.start, 1) ? "start" : from(clip.start + clip.length, -1) ? "end" : null;
}
