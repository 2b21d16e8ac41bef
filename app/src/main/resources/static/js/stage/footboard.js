import { startOrStop } from "./conductor.js";

/** The pedals, and what each will do next, in the engine's words. */
export class Footboard {
  constructor(stage) {
    this.stage = stage;
    const { connection } = stage;
    const on = (id, act) =>
      document.getElementById(id).addEventListener("pointerdown", (event) => {
        if (event.button === 0) {
          act(event.timeStamp);
        }
      });
    const key = (id, act) =>
      document.getElementById(id).addEventListener("keydown", (event) => {
        if (!event.repeat && (event.key === "Enter" || event.key === " ")) {
          event.preventDefault();
          event.stopPropagation();
          act(event.timeStamp);
        }
      });
    const acts = {
      "main-press": (own) => connection.do({ do: "mainPress" }, own),
      peel: (own) => connection.do({ do: "peel" }, own),
      restore: (own) => connection.do({ do: "restore" }, own),
      clear: (own) => clearOrBringBack(stage, own),
      stop: (own) => startOrStop(stage, own),
    };
    for (const [id, act] of Object.entries(acts)) {
      on(id, act);
      key(id, act);
    }
  }

  draw() {
    const { press } = this.stage.state;
    for (const [name, words] of Object.entries(press || {})) {
      const element = document.getElementById(`${name}-words`);
      if (element.textContent !== words) {
        element.textContent = words;
      }
    }
  }
}

/** Clears the loop of the armed part; without one, brings back what was cleared. */
export function clearOrBringBack({ connection, state }, own, back = false) {
  connection.do({ do: back || !state.armedPart?.shelf.length ? "unclear" : "clear" }, own);
}
