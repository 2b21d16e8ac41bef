import { kept } from "../house/kept.js";

const MOST = 200;

/** What was shown of each clip last, kept by this browser for a show; of the clips shown most lately. */
export class Shown {
  /** @param {string} name under which it is kept */
  constructor(name) {
    this.name = name;
    /** @type {Map<number | string, {from: number, to: number}>} ticks, by the clip's id, or that and a view's number */
    this.views = new Map(read(name));
  }

  get(clip) {
    return this.views.get(clip);
  }

  set(clip, view) {
    const before = this.views.get(clip);
    if (before?.from === view.from && before.to === view.to) {
      return;
    }
    this.views.delete(clip);
    this.views.set(clip, view);
    clearTimeout(this.writing);
    this.writing = setTimeout(() => this.#write(), 500);
  }

  #write() {
    kept.set(this.name, JSON.stringify([...this.views].slice(-MOST)));
  }
}

/** @returns {[number | string, {from: number, to: number}][]} of what is kept, what can be read */
function read(name) {
  try {
    return JSON.parse(kept.get(name) ?? "[]").filter(
      ([clip, view]) => /^\d+(\/[1-4])?$/.test(clip) && Number.isFinite(view.from) && view.to > view.from,
    );
  } catch {
    return [];
  }
}
