import { bringBank, banks, deleteBank } from "../files/banks.js";
import { kept } from "../house/kept.js";
import { html, render } from "../house/lit.js";
import { PREVIEW } from "../house/sound.js";
import { bare, firstOf, nameOf } from "../player/sounds.js";
import { openDrawer } from "./dialogs.js";
import { drawer, field, on } from "./fields.js";

const HEARD_FOR = 900;
const FAVOURITES = "ancora-favourites";

/** A bank is deleted by a second press, within so many ms. */
const SURE_WITHIN = 4000;

/** How a second sound begins: as loud as the first, on all keys. */
const SECOND = { level: 0, transpose: 0, lowest: 0, highest: 127 };

/**
 * What a sound is chosen for.
 *
 * @typedef {import("../player/sounds.js").One} One
 * @typedef {import("../player/sounds.js").SoundOf} SoundOf
 * @typedef {Record<string, any>} Aim
 * @property {string} title
 * @property {Record<string, any>} part the part that has it, or will have it
 * @property {One | null} now what it is now
 * @property {(sound: One) => SoundOf} whole what the part sounds like with it
 * @property {boolean} music whether there is music already that will sound otherwise
 * @property {(sound: SoundOf) => object} command what chooses it
 * @property {() => SoundOf | undefined} has what it is by now
 * @property {boolean} sounds whether it is heard in the loop at once
 */

/**
 * The drawer in which a sound is chosen, each heard at once: by the part's own loop where it sounds, else by a chord, and
 * under the hands. Arrows go from one to the next. It is that of a part, its second one, or one that a clip turns to.
 */
export class SoundChooser {
  constructor(stage) {
    this.stage = stage;
    this.dialog = drawer("sounds-dialog");
    this.keep = field("sound-keep");
    this.words = document.getElementById("sounds-words");
    this.search = field("sound-search");
    this.own = document.getElementById("sounds-own");
    this.banks = document.getElementById("banks");
    this.families = document.getElementById("families");
    /** @type {string[]} names of sounds, the newest favourite last; programs once were called sounds here */
    this.favourites = JSON.parse(kept.get(FAVOURITES) ?? "[]").map((name) =>
      name.replace(/^sound /, "program "),
    );
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
    on("bank-file", "change", ({ target }) => this.#bring(target));
    this.dialog.addEventListener("close", () => this.#closed());
    stage.sound.addEventListener("ready", () => this.#play());
    // the page takes what it is told first
    stage.connection.addEventListener("state", () => queueMicrotask(() => this.#has() && this.#letGo()));
    stage.connection.addEventListener("refused", () => this.#letGo());
  }

  /** The sound of a part. @param {Record<string, any> | undefined} part */
  open(part) {
    if (part) {
      const { id, name, sound, shelf } = part;
      const { second } = sound;
      this.#open({
        title: `Sound of ${name}`,
        part,
        now: sound,
        whole: (one) => (second ? { ...one, second: bare(second) } : one),
        music: shelf.length > 0,
        command: (whole) => ({ do: "chooseSound", part: id, ...whole, evenWithMusic: shelf.length > 0 }),
        has: () => this.stage.state.parts.get(id)?.sound,
        sounds: Boolean(part.vamp),
      });
    }
  }

  /** A new part begins with its sound. */
  openForNewPart() {
    this.#open({
      title: "Sound of the new part",
      part: { id: 0, name: "the new part" },
      now: null,
      whole: (one) => one,
      music: false,
      command: (whole) => ({ do: "addPart", name: this.chosenName, ...whole }),
      has: () => undefined,
      sounds: false,
    });
  }

  /** The sound that a part has besides, under the same hand. */
  openForSecond(part) {
    const { id, name, sound } = part;
    this.#open({
      title: `Second sound of ${name}`,
      part,
      now: sound.second?.sound ?? null,
      whole: (one) => ({ ...firstOf(sound), second: { ...(sound.second ?? SECOND), sound: one } }),
      music: false,
      command: (whole) => ({ do: "chooseSound", part: id, ...whole, evenWithMusic: true }),
      has: () => this.stage.state.parts.get(id)?.sound,
      sounds: Boolean(part.vamp),
    });
  }

  /** The sound to which a part turns where one of its clips enters. */
  openForClip(part, clip) {
    this.#open({
      title: `Sound of ${part.name} ${clip.letter}, from its entry on`,
      part,
      now: clip.sound ?? null,
      whole: (one) => (clip.sound?.outside ? { ...one, outside: clip.sound.outside } : one),
      music: false,
      command: (whole) => ({ do: "setClipSound", part: part.id, clip: clip.id, ...whole }),
      has: () => this.stage.state.clips.get(clip.id)?.sound,
      sounds: part.vamp?.clip === clip.id,
    });
  }

  /** @param {Aim} aim */
  #open(aim) {
    this.aim = aim;
    /** @type {One | null} */
    this.chosen = null;
    this.toPlay = null;
    document.getElementById("sounds-title").textContent = aim.title;
    this.words.textContent = "Press one to hear it, or go through them by arrows; play it with your hands.";
    this.keep.disabled = true;
    field("sound-favourite").disabled = true;
    this.search.value = "";
    this.#drawAll();
    this.#drawBanks();
    openDrawer(this.dialog);
    this.dialog.querySelector('[aria-current="true"]')?.scrollIntoView({ block: "center" });
    this.search.focus();
  }

  #drawAll() {
    this.#drawOwn();
    this.#find();
    for (const choice of this.#choices()) {
      const now = this.aim.now !== null && same(soundOf(choice), this.aim.now);
      choice.setAttribute("aria-pressed", "false");
      choice.setAttribute("aria-current", String(now));
    }
  }

  /** @returns {HTMLElement[]} as they stand on the page */
  #choices() {
    return [...this.families.querySelectorAll(".soundchoice")];
  }

  // banks

  async #drawBanks() {
    const there = await banks();
    render(
      there.map((bank) => this.#bank(bank)),
      this.banks,
    );
    this.#drawAll();
  }

  #bank({ bank, file, presets }) {
    const own = ({ number, name }) => JSON.stringify({ bank, file, number, name });
    return html`<section class="family">
      <h3>
        ${file}
        <button
          class="btn small"
          aria-label="delete ${file}"
          @click=${({ target }) => this.#delete(bank, file, target)}
        >
          delete
        </button>
      </h3>
      ${presets.map(
        (preset) =>
          html`<button
            class="soundchoice"
            data-drums=${String(preset.drums)}
            data-program=${preset.program}
            data-own=${own(preset)}
            data-family=${file}
            aria-pressed="false"
          >
            ${preset.name}
          </button>`,
      )}
    </section>`;
  }

  async #bring(input) {
    const [file] = input.files;
    input.value = "";
    if (!file) {
      return;
    }
    this.words.textContent = `${file.name} comes in …`;
    const { bank, why } = await bringBank(file);
    this.words.textContent = bank ? `${bank.file} is here: ${bank.presets.length} sounds.` : why;
    await this.#drawBanks();
    if (bank) {
      this.search.value = "";
      this.banks.scrollIntoView({ block: "start" });
    }
  }

  /** By a second press: shows may have sounds of it. */
  async #delete(bank, file, button) {
    if (this.sure?.bank !== bank || performance.now() > this.sure.until) {
      this.sure = { bank, until: performance.now() + SURE_WITHIN };
      button.textContent = "delete it: press again";
      this.words.textContent = `What shows have of ${file} will be played by other sounds.`;
      return;
    }
    await deleteBank(bank);
    this.words.textContent = `${file} is deleted.`;
    await this.#drawBanks();
  }

  // favourites

  /** Favourites first, then the sounds that the show has: the same sound again is one press. */
  #drawOwn() {
    this.own.querySelectorAll(".soundchoice").forEach((old) => old.remove());
    const all = this.#choices();
    const names = [...this.favourites].reverse();
    const inShow = this.stage.state.staves.map(({ sound }) => nameOf(sound));
    const wanted = [...new Set([...names, ...inShow])];
    const found = wanted.map((name) => all.find((choice) => nameOf(soundOf(choice)) === name));
    const again = found.filter(Boolean).map((choice) => {
      const copy = /** @type {HTMLElement} */ (choice.cloneNode(true));
      copy.dataset.mark = names.includes(nameOf(soundOf(choice))) ? "favourite" : "in this show";
      return copy;
    });
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

  // hearing and choosing

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
    this.chosenName = choice.textContent.trim();
    const { hub, sound, state } = this.stage;
    const { part, whole, now, music } = this.aim;
    hub.preview = PREVIEW;
    sound.choose(PREVIEW, whole(this.chosen));
    const sounds = state.transport.rolling && this.aim.sounds;
    if (sounds) {
      sound.tries({ part: part.id, sound: whole(this.chosen) });
    } else {
      this.toPlay = this.chosen;
      this.#play();
    }
    const replaces = music && !(now && same(this.chosen, now));
    this.keep.disabled = false;
    this.#drawFavourite();
    this.keep.textContent = replaces ? `Replace the sound of ${part.name}` : "Choose it";
    this.words.textContent = sounds
      ? `${part.name} goes on with ${this.chosenName} for now.`
      : replaces
        ? `${part.name} already has music: it will sound with ${this.chosenName}.`
        : this.chosenName;
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
    const { part, command, whole } = this.aim;
    this.stage.connection.do(command(whole(this.chosen)));
    // the loop keeps it until the house has it
    this.awaits = part.id;
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
    const now = this.awaits && this.aim.has();
    const wanted = this.chosen && this.aim.whole(this.chosen);
    return (
      now && same(now, wanted) && JSON.stringify(bare(now.second)) === JSON.stringify(bare(wanted.second))
    );
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

/**
 * @param {HTMLElement} choice
 * @returns {One}
 */
function soundOf(choice) {
  const { drums, program, own } = choice.dataset;
  const one = { drums: drums === "true", program: Number(program) };
  return own ? { ...one, own: JSON.parse(own) } : one;
}

function same(a, b) {
  return nameOf(a) === nameOf(b);
}
