import { openDrawer } from "./dialogs.js";
import { PREVIEW } from "../house/sound.js";
import { drawer, field } from "./fields.js";

const HEARD_FOR = 900;

/** The drawer in which a part's sound is chosen, each heard at once under the hands. */
export class SoundChooser {
  constructor(stage) {
    this.stage = stage;
    this.dialog = drawer("sounds-dialog");
    this.keep = field("sound-keep");
    this.words = document.getElementById("sounds-words");
    this.search = field("sound-search");
    this.choices = [...document.querySelectorAll(".soundchoice")];
    this.choices.forEach((choice) => choice.addEventListener("click", () => this.#hear(choice)));
    this.search.addEventListener("input", () => this.#find());
    this.keep.addEventListener("click", () => this.#choose());
    this.dialog.addEventListener("close", () => this.#closed());
    stage.sound.addEventListener("ready", () => this.#play());
  }

  /** @param {{id: number, name: string, shelf: number[], sound: Record<string, any>}} part */
  open(part) {
    if (!part) {
      return;
    }
    this.part = part;
    this.chosen = null;
    this.toPlay = null;
    document.getElementById("sounds-title").textContent = `Sound of ${part.name}`;
    this.words.textContent = "Press one to hear it; play it with your hands.";
    this.keep.disabled = true;
    this.search.value = "";
    this.#find();
    for (const choice of this.choices) {
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

  #hear(choice) {
    this.choices.forEach((other) => other.setAttribute("aria-pressed", String(other === choice)));
    this.chosen = soundOf(choice);
    this.stage.hub.preview = PREVIEW;
    this.stage.sound.choose(PREVIEW, this.chosen);
    this.toPlay = this.chosen;
    this.#play();
    const music = this.part.shelf.length > 0 && !same(this.chosen, this.part.sound);
    this.keep.disabled = false;
    this.keep.textContent = music ? `Replace the sound of ${this.part.name}` : "Choose it";
    this.words.textContent = music
      ? `${this.part.name} already has music: it will sound with ${choice.textContent.trim()}.`
      : choice.textContent.trim();
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
      const choice = this.choices.find((c) => same(soundOf(c), this.chosen));
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
    this.dialog.close();
  }

  #closed() {
    this.stage.hub.preview = null;
    this.toPlay = null;
  }

  #find() {
    const wanted = this.search.value.trim().toLowerCase();
    for (const choice of this.choices) {
      const name = `${choice.textContent} ${choice.dataset.family}`.toLowerCase();
      choice.hidden = !wanted.split(/\s+/).every((word) => name.includes(word));
    }
    for (const family of document.querySelectorAll(".family")) {
      family.hidden = !family.querySelector(".soundchoice:not([hidden])");
    }
  }
}

function soundOf(choice) {
  return {
    drums: choice.dataset.drums === "true",
    program: Number(choice.dataset.program),
  };
}

function same(a, b) {
  return a.drums === b.drums && a.program === b.program;
}
