import { sceneOf } from "./scene.js";

/**
 * What the armed part is doing, said to whoever listens to a screen reader: when it becomes something else, and no
 * more than once a beat.
 */
export class Said {
  constructor(stage) {
    this.stage = stage;
    this.line = document.getElementById("said");
    this.words = "";
    this.at = -Infinity;
  }

  draw() {}

  /** @param {number | null} tick */
  tick(tick) {
    const { state } = this.stage;
    const part = state.armedPart;
    if (!part || !state.show) {
      return;
    }
    const words = wordsOf(part, sceneOf(part, tick, state));
    const beat = (60_000 / state.show.bpm) * (4 / state.show.meter.unit);
    if (words !== this.words && performance.now() - this.at >= beat) {
      this.words = words;
      this.at = performance.now();
      this.line.textContent = words;
    }
  }
}

/**
 * @param {import("../house/state.js").Part} part
 * @param {Record<string, any>} scene
 */
function wordsOf(part, { kind, clip, first, takes, cue }) {
  const letter = clip?.letter ?? first?.letter;
  const now = [part.name, letter && `clip ${letter}`, kind.toLowerCase(), takes && `take ${takes.number}`];
  const next = cue && (cue.letter === "tacet" ? "then tacet" : `then clip ${cue.letter}`);
  return [...now, next].filter(Boolean).join(", ");
}
