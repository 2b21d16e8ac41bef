import { startOrStop } from "./conductor.js";

/** The pedals, and what each will do next, in the engine's words. */
export class Footboard {
  constructor(stage) {
    this.stage = stage;
    for (const pedal of document.querySelectorAll(".pedal")) {
      const act = acts(stage)[pedal.dataset.pedal];
      pedal.addEventListener("pointerdown", (event) => {
        if (event.button === 0) {
          act(event.timeStamp);
        }
      });
      pedal.addEventListener("keydown", (event) => {
        if (!event.repeat && (event.key === "Enter" || event.key === " ")) {
          event.preventDefault();
          event.stopPropagation();
          act(event.timeStamp);
        }
      });
    }
  }

  draw() {
    const { press } = this.stage.state;
    for (const [name, words] of Object.entries(press || {})) {
      const element = document.getElementById(`${name}-words`);
      if (element && element.textContent !== words) {
        element.textContent = words;
      }
    }
  }
}

function acts(stage) {
  const send = (name) => (own) => stage.connection.do({ do: name }, own);
  return {
    main: send("mainPress"),
    peel: send("peel"),
    restore: send("restore"),
    next: send("cueNext"),
    handOff: send("handOff"),
    stop: (own) => startOrStop(stage, own),
  };
}
