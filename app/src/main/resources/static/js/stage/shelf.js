import { outline } from "./notation.js";

const HELD_FOR = 450;

/** The clips of one part: each a letter with an outline of its notes. A tap cues, a hold opens its drawer. */
export class Shelf {
  constructor(stage, clipDialog, id) {
    this.stage = stage;
    this.dialog = clipDialog;
    this.id = id;
    this.element = document.createElement("div");
    this.element.className = "shelf";
    this.element.setAttribute("role", "group");
    this.drawn = [];
  }

  draw(part) {
    const { state } = this.stage;
    const clips = part.shelf.map((id) => state.clips.get(id)).filter(Boolean);
    const key = [
      state.isArmed(part.id),
      state.transport.rolling,
      part.ready,
      part.vamp?.clip,
      part.cue,
      part.first?.letter,
      part.sound.drums,
      ...clips,
    ];
    if (key.length === this.drawn.length && key.every((value, i) => value === this.drawn[i])) {
      return;
    }
    this.drawn = key;
    const buttons = clips.map((clip) => this.#clip(part, clip));
    if (part.first) {
      buttons.push(this.#recording(part.first.letter));
    }
    if (state.isArmed(part.id) && !part.first) {
      buttons.push(this.#anew());
    }
    this.element.replaceChildren(this.#tacet(part), ...buttons);
  }

  #clip(part, clip) {
    const button = document.createElement("button");
    const { rolling } = this.stage.state.transport;
    const now = rolling ? part.vamp?.clip === clip.id : part.ready === clip.id;
    const next = rolling && part.cue?.clip === clip.id;
    button.className = `clip${now ? (rolling ? " now" : " ready") : ""}${next ? " next" : ""}`;
    button.title = `${clip.letter}${clip.name ? `: ${clip.name}` : ""} (hold for more)`;
    const letter = document.createElement("u");
    letter.textContent = clip.letter;
    button.append(letter, outline(clip, part.sound.drums));
    if (clip.takes.length > 1) {
      const takes = document.createElement("i");
      takes.textContent = String(clip.takes.length);
      takes.title = `${clip.takes.length} takes`;
      button.append(takes);
    }
    const more = () => this.dialog.open(this.id, clip.id);
    tapOrHold(
      button,
      (own) => this.stage.connection.do({ do: "cueClip", part: this.id, clip: clip.id }, own),
      more,
    );
    return button;
  }

  #recording(letter) {
    const box = document.createElement("span");
    box.className = "clip rec";
    const name = document.createElement("u");
    name.textContent = letter;
    box.append(name);
    return box;
  }

  /** Records into a new clip, whatever vamps. */
  #anew() {
    const button = document.createElement("button");
    button.className = "clip anew";
    button.title = "record into a new clip";
    button.textContent = "+";
    button.addEventListener("click", (event) =>
      this.stage.connection.do({ do: "recordAnew" }, event.timeStamp),
    );
    return button;
  }

  #tacet(part) {
    const button = document.createElement("button");
    const next = part.cue && part.cue.clip === undefined;
    button.className = `clip rest${next ? " next" : ""}`;
    button.title = "tacet: silent from the next entry point";
    button.setAttribute("aria-label", "tacet");
    button.append(restSign());
    button.addEventListener("click", (event) =>
      this.stage.connection.do({ do: "cueTacet", part: this.id }, event.timeStamp),
    );
    return button;
  }
}

/** A quarter rest's place: the half rest, a block on a line. */
function restSign() {
  const sign = document.createElement("span");
  sign.className = "restsign";
  return sign;
}

/** A tap counts from the moment at which the finger came down, as soon as it is no hold. */
function tapOrHold(button, tap, hold) {
  let timer = 0;
  let down = 0;
  button.addEventListener("pointerdown", (event) => {
    if (event.button === 0) {
      down = event.timeStamp;
      timer = setTimeout(() => {
        timer = 0;
        hold();
      }, HELD_FOR);
    }
  });
  button.addEventListener("pointerup", () => {
    if (timer) {
      clearTimeout(timer);
      timer = 0;
      tap(down);
    }
  });
  button.addEventListener("pointercancel", () => clearTimeout(timer));
  button.addEventListener("contextmenu", (event) => {
    event.preventDefault();
    clearTimeout(timer);
    timer = 0;
    hold();
  });
  button.addEventListener("keydown", (event) => {
    if (!event.repeat && (event.key === "Enter" || event.key === " ")) {
      event.preventDefault();
      event.stopPropagation();
      (event.shiftKey ? hold : tap)(event.timeStamp);
    }
  });
}
