import { html, nothing, render, repeat } from "../house/lit.js";
import { bare, firstOf } from "../player/sounds.js";
import { Drawer } from "./drawer.js";
import { field, on, put } from "./fields.js";
import { count } from "./time.js";

/** The drawer with all that can be done to one clip. */
export class ClipDialog extends Drawer {
  constructor(stage, chooser) {
    super(stage, "clip-dialog");
    on("clip-turns", "click", () => {
      const part = this.stage.state.parts.get(this.part);
      this.close();
      chooser.openForClip(part, this.thing);
    });
    on("clip-bank", "change", () => this.#setOutside());
    on("clip-program", "change", () => this.#setOutside());
    on("clip-turns-as-part", "click", () => this.#do({ do: "clipSoundAsPart" }));
    on("clip-name", "change", ({ target }) => this.#do({ do: "renameClip", name: target.value }));
    on("clip-enters-on", "change", ({ target }) => this.#setManner({ entersOn: target.value || null }));
    on("clip-comes-in", "change", ({ target }) => this.#setManner({ comesIn: target.value }));
    on("clip-pickup", "change", ({ target }) => this.#setManner({ pickup: Number(target.value) }));
    on("clip-ring", "change", ({ target }) => this.#setManner({ ring: target.checked }));
    on("clip-under-way", "change", ({ target }) => this.#setManner({ underWay: target.checked }));
    on("clip-duplicate", "click", () => this.#do({ do: "duplicateClip" }));
    on("clip-thin", "click", () => this.#do({ do: "thinClip" }));
    on("clip-workshop", "click", () => {
      this.close();
      this.stage.workshop.open(this.part, this.clip);
    });
    on("clip-sound", "click", () => {
      const what = document.getElementById("clip-title").textContent.split(":")[0];
      this.close();
      this.stage.soundSheet.open(`${this.#address}.rendering.json`, what);
    });
    on("clip-left", "click", () => this.#move(-1));
    on("clip-right", "click", () => this.#move(1));
    on("clip-split", "click", () => this.#split());
    on("clip-delete", "click", () => {
      this.#do({ do: "deleteClip" });
      this.close();
    });
    for (const button of this.dialog.querySelectorAll("[data-reshape]")) {
      button.addEventListener("click", () => this.#reshape(button.dataset.reshape));
    }
  }

  open(part, clip) {
    this.part = part;
    this.clip = clip;
    this.show();
  }

  get #address() {
    return `/shows/${this.stage.show}/clips/${this.clip}`;
  }

  get thing() {
    return this.stage.state.clips.get(this.clip);
  }

  fill(clip) {
    const { parts, show } = this.stage.state;
    const { barTicks, beatTicks } = show.meter;
    const bars = clip.length / barTicks;
    const notes = clip.layers.reduce((sum, layer) => sum + layer.notes.length, 0);
    const long = Number.isInteger(bars) ? count(bars, "bar") : count(clip.length / beatTicks, "beat");
    document.getElementById("clip-title").textContent =
      `${parts.get(this.part).name} ${clip.letter}: ${long}, ${count(clip.layers.length, "layer")}, ${count(notes, "note")}`;
    const midi = /** @type {HTMLAnchorElement} */ (document.getElementById("clip-midi"));
    midi.href = `${this.#address}.mid`;
    midi.dataset.file = `${show.title} - ${parts.get(this.part).name} ${clip.letter}.mid`;
    put("clip-name", clip.name);
    put("clip-enters-on", clip.manner.entersOn ?? "");
    put("clip-comes-in", clip.manner.comesIn);
    const beats = Array.from({ length: barTicks / beatTicks + 1 }, (_, i) => i);
    document
      .getElementById("clip-pickup")
      .replaceChildren(...beats.map((n) => new Option(n ? count(n, "beat") : "none", String(n * beatTicks))));
    put("clip-pickup", clip.manner.pickup);
    document.getElementById("clip-turns").textContent = clip.sound?.name ?? "choose …";
    document.getElementById("clip-turns-as-part").hidden = !clip.sound;
    document.getElementById("clip-outside").hidden = !parts.get(this.part).output;
    put("clip-bank", clip.sound?.outside?.bank ?? "");
    put("clip-program", clip.sound?.outside ? clip.sound.outside.program + 1 : "");
    field("clip-ring").checked = clip.manner.ring;
    field("clip-under-way").checked = clip.manner.underWay;
    const takes = repeat(
      clip.takes,
      ({ number }) => `${this.clip} ${number}`,
      (take) => this.#take(clip, take),
    );
    render(takes, document.getElementById("takes"));
  }

  #take(clip, { number, name, partial }) {
    const heard = number === clip.take;
    const { state } = this.stage;
    const notes = state.notesOfTake(state.parts.get(this.part), clip, number).length;
    const called = [`take ${number}`, name, partial && "(partial)"].filter(Boolean).join(" ");
    const button = (words, command) =>
      html`<button class="btn small" @click=${() => this.#do(command)}>${words}</button>`;
    const several = clip.takes.length > 1;
    return html`<li>
      <span>${called}, ${count(notes, "note")}</span
      ><input
        class="entry takename"
        maxlength="60"
        placeholder="name it"
        aria-label="name of take ${number}"
        .value=${name}
        @change=${({ target }) => this.#do({ do: "renameTake", take: number, name: target.value })}
      />
      ${heard ? html`<b>${several ? "heard" : "the only take"}</b>` : nothing}
      ${
        heard
          ? nothing
          : [
              button("hear", { do: "hearTake", take: number, atOnce: false }),
              button("delete", { do: "deleteTake", take: number }),
            ]
      }
      ${
        heard && several
          ? [
              button("keep only this", { do: "cropTakes" }),
              button("spread to clips", { do: "spreadTakes" }),
              button("in a row", { do: "layTakesInRow" }),
            ]
          : nothing
      }
    </li>`;
  }

  #do(command) {
    this.stage.connection.do({ part: this.part, clip: this.clip, ...command });
  }

  /** What the part's outside device chooses where the clip enters; without a program nothing. */
  #setOutside() {
    const number = (id) => (field(id).value === "" ? null : Number(field(id).value));
    const program = number("clip-program");
    const { sound } = this.stage.state.parts.get(this.part);
    const now = this.thing.sound ?? sound;
    const whole = now.second ? { ...firstOf(now), second: bare(now.second) } : firstOf(now);
    if (program !== null) {
      const outside = { bank: number("clip-bank"), program: program - 1 };
      this.#do({ do: "setClipSound", ...whole, outside });
    } else if (this.thing.sound?.outside) {
      this.#do({ do: "setClipSound", ...whole });
    }
  }

  #setManner(change) {
    this.#do({ do: "setManner", manner: { ...this.thing.manner, ...change } });
  }

  #reshape(how) {
    const beat = this.stage.state.show.meter.beatTicks;
    const reshaping = {
      halve: { by: "halve" },
      twice: { by: "twice" },
      earlier: { by: "shift", ticks: -beat },
      later: { by: "shift", ticks: beat },
    }[how];
    this.#do({ do: "reshape", reshaping });
  }

  #move(by) {
    const place = this.stage.state.parts.get(this.part).shelf.indexOf(this.clip) + by;
    this.#do({ do: "moveClip", place });
  }

  /** The lower half of the pitches that are there. */
  #split() {
    const pitches = this.thing.layers.flatMap((layer) => layer.notes.map(([, pitch]) => pitch));
    const sorted = [...new Set(pitches)].sort((a, b) => a - b);
    this.#do({ do: "splitClip", pitches: sorted.slice(0, Math.max(1, Math.floor(sorted.length / 2))) });
  }
}
