import { onPress } from "./fields.js";
import { count } from "./time.js";

/**
 * What was kept: of a standstill the tempo that was found in it, how sure that is, and how else it may be taken; of
 * a run how many phrases. It is there until something else is done, or it is put away.
 */
export class KeptSheet {
  constructor(stage) {
    this.stage = stage;
    this.root = document.getElementById("kept-sheet");
    /** @type {number} the clip whose sheet was put away */
    this.away = 0;
    for (const button of this.root.querySelectorAll("[data-by]")) {
      onPress(button.id, () => this.#change(button.dataset.by));
    }
    for (const button of this.root.querySelectorAll("[data-phrases]")) {
      onPress(button.id, () =>
        stage.connection.do({ do: "keepPhrases", by: Number(button.dataset.phrases) }),
      );
    }
    onPress("kept-hear", () => this.#hear());
    onPress("kept-away", () => {
      this.away = stage.state.kept?.clip ?? 0;
      this.draw();
    });
  }

  draw() {
    const { state } = this.stage;
    const { kept } = state;
    const clip = kept && state.clips.get(kept.clip);
    this.root.hidden = !clip || kept.clip === this.away;
    if (this.root.hidden) {
      return;
    }
    const { beats, unit, barTicks } = state.show.meter;
    const ofRun = !kept.reading;
    for (const button of this.root.querySelectorAll("[data-by], #kept-hear")) {
      button.hidden = ofRun;
    }
    const called = `${state.parts.get(kept.part).name} ${clip.letter}`;
    if (ofRun) {
      document.getElementById("kept-words").textContent =
        `${called}: ${count(clip.length / barTicks, "bar")} of the run`;
      return;
    }
    for (const button of this.root.querySelectorAll("[data-phrases]")) {
      button.disabled = state.transport.rolling;
    }
    const found = kept.bpm
      ? `${Math.round(kept.bpm * 10) / 10}, ${kept.sure}, in ${beats}/${unit}`
      : "no tempo was found: taken at the show's";
    document.getElementById("kept-words").textContent =
      `${called}: ${count(clip.length / barTicks, "bar")}, ${found}`;
    const pressed = {
      STEADY: kept.reading.steady,
      AS_PLAYED: !kept.reading.steady,
      THREE: beats === 3,
      FOUR: beats === 4,
    };
    for (const button of this.root.querySelectorAll("[data-by]")) {
      const { by } = button.dataset;
      if (by in pressed) {
        button.setAttribute("aria-pressed", String(pressed[by]));
      }
      button.disabled = state.transport.rolling || (!kept.bpm && by !== "GIVE_UP");
    }
    document.getElementById("kept-hear").textContent = state.transport.rolling ? "stop" : "hear it";
  }

  /** At standstill alone: what sounds is never stopped by it. */
  #change(by) {
    this.stage.connection.do({ do: "changeKept", by });
  }

  #hear() {
    const { connection, state } = this.stage;
    connection.do({ do: state.transport.rolling ? "stop" : "hearKept" });
  }
}
