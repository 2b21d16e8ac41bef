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
      [sound.isOn, "Touch the page, or press a key: the sound is on.", ""],
      [this.played, "Play: the pads on the keys, your own keyboard, or the drawer of hands.", "z x c v"],
      [clips.length > 0, "The main press counts in; play; press again, and it goes round.", "Enter"],
      [
        clips.some(({ layers }) => layers.length > 1),
        "The main press once more: what you play now is added, pass by pass.",
        "Enter",
      ],
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
      html`<header>
          <h2>${all ? "That is a loop with two layers." : "A first loop"}</h2>
          <button class="btn small">${all ? "Close" : "Not now"}</button>
        </header>
        <ol>
          ${steps.map(
            ([done, words, keys]) =>
              html`<li class=${done ? "is-done" : ""}>
                <span class="tick" role="img" aria-label=${done ? "done" : "to be done"}></span>${words}
                ${keys ? html`<kbd>${keys}</kbd>` : nothing}
              </li>`,
          )}
        </ol>
        ${all ? html`<p class="dim">The rest is in the handbook, behind the <b>?</b>.</p>` : nothing}`,
      this.card,
    );
  }

  #putAway() {
    kept.set(KEPT, DONE);
    this.card.hidden = true;
    this.away = true;
  }
}
