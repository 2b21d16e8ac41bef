import { html, nothing, render } from "../house/lit.js";
import { kept } from "../house/kept.js";

const KEPT = "ancora-first-steps";
const DONE = "done";

/**
 * A card on an empty Stage: the way to a first loop in four steps, which tick themselves off as they are done. Once
 * it has been gone through, or put away, it does not come again unless it is asked for from the help.
 */
export class FirstSteps {
  constructor(stage, { beside }) {
    this.stage = stage;
    this.card = document.getElementById("first-steps");
    this.away = beside;
    this.drawn = "";
    this.played = false;
    if (new URLSearchParams(location.search).get("first") === "again") {
      kept.set(KEPT, "");
    }
    stage.hub.addEventListener("played", () => (this.played = true));
    this.card.addEventListener("click", ({ target }) => target.closest("button") && this.#putAway());
  }

  draw() {
    const { state, sound } = this.stage;
    if (this.away || !state.show) {
      return;
    }
    if (this.card.hidden) {
      // a show that has music shows that its performer knows the way
      if (state.clips.size > 0 || kept.get(KEPT) === DONE) {
        return;
      }
      this.card.hidden = false;
    }
    const clips = [...state.clips.values()];
    const steps = [
      [sound.isOn, "touch the page: the sound is on", ""],
      [this.played, "play: pads, keys", "z x c v"],
      [clips.length > 0, "main press: it counts in; play; press again, and it goes round", "Enter"],
      [clips.some(({ layers }) => layers.length > 1), "press once more: what you play is added", "Enter"],
    ];
    const key = JSON.stringify(steps);
    if (key === this.drawn) {
      return;
    }
    this.drawn = key;
    const all = steps.every(([done]) => done);
    if (all) {
      kept.set(KEPT, DONE);
    }
    render(
      html`<h2>${all ? "That is a loop" : "A first loop"}</h2>
        <ol>
          ${steps.map(
            ([done, words, keys]) =>
              html`<li class=${done ? "is-done" : ""}>
                <span class="tick" role="img" aria-label=${done ? "done:" : "to be done:"}></span>${words}
                ${keys ? html`<kbd>${keys}</kbd>` : nothing}
              </li>`,
          )}
        </ol>
        <button class="btn small">${all ? "Close" : "Not now"}</button>`,
      this.card,
    );
  }

  /** That the sound is on, and that hands have played, nobody tells. */
  tick() {
    if (!this.card.hidden) {
      this.draw();
    }
  }

  #putAway() {
    kept.set(KEPT, DONE);
    this.card.hidden = true;
    this.away = true;
  }
}
