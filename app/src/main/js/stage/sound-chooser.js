import { kept } from "../house/kept.js";
import { PREVIEW } from "../house/sound.js";
import { openDrawer } from "./dialogs.js";
import { drawer, field, on } from "./fields.js";

const HEARD_FOR = 900;
const FAVOURITES = "ancora-favourites";

/**
 * The drawer in which a part's sound is chosen, each heard at once: by the part's own loop where it sounds, else by
 * a chord, and under the hands. Arrows go from one to the next.
 */
export class SoundChooser {
  constructor(stage) {
    this.stage = stage;
    this.dialog = drawer("sounds-dialog");
    this.keep = field("sound-keep");
    this.words = document.getElementById("sounds-words");
    this.search = field("sound-search");
    this.own = document.getElementById("sounds-own");
    /** @type {HTMLElement[]} */
    this.all = [...document.querySelectorAll(".soundchoice")];
    this.families = document.getElementById("families");
    /** @type {string[]} names of sounds, the newest favourite last */
    this.favourites = JSON.parse(kept.get(FAVOURITES) ?? "[]");
    this.families.addEventListener("click", ({ target }) => {
      const choice = target.closest(".soundchoice");
      if (choice) {
        this.#hear(choice);
      }
    });
    this.search.addEventListener("input", () => this.#find());
    this.dialog.addEventListener("keydown", (event) => this.#key(event));
    this.keep.addEventListener("click", () => this.#choose());
    on("sound-favourite", "click", () => this.#toggleFavourite());
    this.dialog.addEventListener("close", () => this.#closed());
    stage.sound.addEventListener("ready", () => this.#play());
    // the page takes what it is told first
    stage.connection.addEventListener("state", () => queueMicrotask(() => this.#has() && this.#letGo()));
    stage.connection.addEventListener("refused", () => this.#letGo());
  }

  /** @param {{id: number, name: string, shelf: number[], sound: Record<string, any>, vamp?: object}} part */
  open(part) {
    if (!part) {
      return;
    }
    this.part = part;
    this.chosen = null;
    this.toPlay = null;
    document.getElementById("sounds-title").textContent = `Sound of ${part.name}`;
    this.words.textContent = "Press one to hear it, or go through them by arrows; play it with your hands.";
    this.keep.disabled = true;
    field("sound-favourite").disabled = true;
    this.search.value = "";
    this.#drawOwn();
    this.#find();
    for (const choice of this.#choices()) {
      const now = same(soundOf(choice), part.sound);
      choice.setAttribute("aria-pressed", "false");
      choice.setAttribute("aria-current", String(now));
    }
    openDrawer(this.dialog);
    this.dialog.querySelector('[aria-current="true"]')?.scrollIntoView({ block: "center" });
    this.search.focus();
  }

  /** A new part begins with its sound. */
  openForNewPart() {
    this.open({
      id: 0,
      name: "the new part",
      shelf: [],
      sound: { drums: false, program: -1, name: "", family: "" },
    });
  }

  /** @returns {HTMLElement[]} as they stand on the page */
  #choices() {
    return [...this.families.querySelectorAll(".soundchoice")];
  }

  /** Favourites first, then the sounds that the show has: the same sound again is one press. */
  #drawOwn() {
    const names = [...this.favourites].reverse();
    const inShow = this.stage.state.staves.map(({ sound }) => nameOf(sound));
    const wanted = [...new Set([...names, ...inShow])];
    const found = wanted.map((name) => this.all.find((choice) => nameOf(soundOf(choice)) === name));
    const again = found.filter(Boolean).map((choice) => {
      const copy = /** @type {HTMLElement} */ (choice.cloneNode(true));
      const mark = names.includes(nameOf(soundOf(choice))) ? "favourite" : "in this show";
      copy.dataset.mark = mark;
      return copy;
    });
    this.own.querySelectorAll(".soundchoice").forEach((old) => old.remove());
    this.own.append(...again);
  }

  #toggleFavourite() {
    const name = nameOf(this.chosen);
    const was = this.favourites.includes(name);
    this.favourites = was ? this.favourites.filter((one) => one !== name) : [...this.favourites, name];
    kept.set(FAVOURITES, JSON.stringify(this.favourites));
    this.#drawOwn();
    this.#find();
    this.#drawFavourite();
  }

  #drawFavourite() {
    const is = this.favourites.includes(nameOf(this.chosen));
    const button = field("sound-favourite");
    button.disabled = false;
    button.textContent = is ? "no favourite any more" : "a favourite";
  }

  #key(event) {
    const step = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
    const inWord = event.target === this.search;
    if (event.key === "Enter" && inWord && this.chosen) {
      event.preventDefault();
      this.#choose();
      return;
    }
    if (!step || (inWord && event.key !== "ArrowDown" && event.key !== "ArrowUp")) {
      return;
    }
    event.preventDefault();
    const shown = this.#choices().filter((choice) => !choice.hidden);
    const at = shown.findIndex((choice) => choice.getAttribute("aria-pressed") === "true");
    const from = at < 0 ? shown.findIndex((choice) => choice.getAttribute("aria-current") === "true") : at;
    const next = shown[Math.max(0, Math.min(shown.length - 1, from + step))];
    if (next) {
      this.#hear(next);
      next.scrollIntoView({ block: "nearest" });
      if (!inWord) {
        next.focus();
      }
    }
  }

  #hear(choice) {
    this.#choices().forEach((other) => other.setAttribute("aria-pressed", String(other === choice)));
    this.chosen = soundOf(choice);
    const { hub, sound, state } = this.stage;
    hub.preview = PREVIEW;
    sound.choose(PREVIEW, this.chosen);
    const sounds = this.part.id && state.transport.rolling && state.parts.get(this.part.id)?.vamp;
    if (sounds) {
      sound.tries({ part: this.part.id, sound: this.chosen });
    } else {
      this.toPlay = this.chosen;
      this.#play();
    }
    const music = this.part.shelf.length > 0 && !same(this.chosen, this.part.sound);
    this.keep.disabled = false;
    this.#drawFavourite();
    const name = choice.textContent.trim();
    this.keep.textContent = music ? `Replace the sound of ${this.part.name}` : "Choose it";
    this.words.textContent = sounds
      ? `${this.part.name} goes on with ${name} for now.`
      : music
        ? `${this.part.name} already has music: it will sound with ${name}.`
        : name;
  }

  /** Sounds it once: a chord, or kick and snare. It waits until the sound is there. */
  #play() {
    if (!this.toPlay || !this.dialog.open) {
      return;
    }
    const { sound } = this.stage;
    const pitches = this.toPlay.drums ? [36, 42] : [60, 64, 67];
    pitches.forEach((pitch) => sound.down(PREVIEW, pitch, 96));
    setTimeout(() => pitches.forEach((pitch) => sound.up(PREVIEW, pitch)), HEARD_FOR);
  }

  #choose() {
    if (!this.part.id) {
      const choice = this.all.find((c) => same(soundOf(c), this.chosen));
      const name = choice.textContent.trim();
      this.stage.connection.do({ do: "addPart", name, ...this.chosen });
      this.dialog.close();
      return;
    }
    this.stage.connection.do({
      do: "chooseSound",
      part: this.part.id,
      ...this.chosen,
      evenWithMusic: this.part.shelf.length > 0,
    });
    // the loop keeps it until the house has it
    this.awaits = this.part.id;
    this.dialog.close();
  }

  #closed() {
    this.stage.hub.preview = null;
    this.toPlay = null;
    if (!this.awaits) {
      this.stage.sound.tries(null);
    }
  }

  #has() {
    const part = this.awaits && this.stage.state.parts.get(this.awaits);
    return part && same(part.sound, this.chosen);
  }

  #letGo() {
    if (this.awaits) {
      this.awaits = 0;
      this.stage.sound.tries(null);
    }
  }

  #find() {
    const wanted = this.search.value.trim().toLowerCase().split(/\s+/).map(stem);
    for (const choice of this.#choices()) {
      const name = `${choice.textContent} ${choice.dataset.family}`.toLowerCase();
      choice.hidden = !wanted.every((word) => name.includes(word));
    }
    for (const family of document.querySelectorAll(".family")) {
      family.hidden = !family.querySelector(".soundchoice:not([hidden])");
    }
  }
}

/** One is found by many, and many by one. */
function stem(word) {
  return word.length > 3 ? word.replace(/s$/, "") : word;
}

/** @returns {{drums: boolean, program: number}} */
function soundOf(choice) {
  return {
    drums: choice.dataset.drums === "true",
    program: Number(choice.dataset.program),
  };
}

function nameOf({ drums, program }) {
  return `${drums ? "kit" : "sound"} ${program}`;
}

function same(a, b) {
  return a.drums === b.drums && a.program === b.program;
}
