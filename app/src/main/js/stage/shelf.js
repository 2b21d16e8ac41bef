import { html, nothing, render, repeat } from "../house/lit.js";
import { outline } from "./notation.js";
import { tapOrHold } from "./tap-or-hold.js";

/** The clips of one part: each a letter with an outline of its notes. A tap cues, a hold opens its drawer. */
export class Shelf {
  constructor(stage, clipDialog, id) {
    this.stage = stage;
    this.id = id;
    this.element = document.createElement("div");
    this.element.className = "shelf";
    this.element.setAttribute("role", "group");
    this.drawn = [];
    /** @type {WeakMap<import("../house/state.js").Clip, SVGElement>} outlines, of clips as they are */
    this.outlines = new WeakMap();
    const { connection } = stage;
    tapOrHold(this.element, "[data-clip]", {
      tap: ({ clip }, own) => connection.do({ do: "cueClip", part: id, clip: Number(clip) }, own),
      hold: ({ clip }) => clipDialog.open(id, Number(clip)),
    });
    this.element.addEventListener("click", (/** @type {any} */ { target, timeStamp: own }) => {
      if (target.closest(".rest")) {
        connection.do({ do: "cueTacet", part: id }, own);
      } else if (target.closest(".anew")) {
        connection.do({ do: "recordAnew" }, own);
      }
    });
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
    const tacetNext = part.cue && part.cue.clip === undefined;
    render(
      html`<button
          class="clip rest ${tacetNext ? "next" : ""}"
          title="tacet: silent from the next entry point"
          aria-label="tacet"
        >
          <span class="restsign"></span></button
        >${repeat(
          clips,
          ({ id }) => id,
          (clip) => this.#clip(part, clip),
        )}${part.first ? html`<span class="clip rec"><u>${part.first.letter}</u></span>` : nothing}${
          state.isArmed(part.id) && !part.first
            ? html`<button class="clip anew" title="record into a new clip">+</button>`
            : nothing
        }`,
      this.element,
    );
  }

  #clip(part, clip) {
    const { rolling } = this.stage.state.transport;
    const is = rolling ? part.vamp?.clip === clip.id : part.ready === clip.id;
    const now = is ? (rolling ? "now" : "ready") : "";
    const next = rolling && part.cue?.clip === clip.id ? "next" : "";
    const title = `${clip.letter}${clip.name ? `: ${clip.name}` : ""} (hold for more)`;
    const takes = clip.takes.length;
    return html`<button class="clip ${now} ${next}" title=${title} data-clip=${clip.id}>
      <u>${clip.letter}</u>${this.#outline(part, clip)}${
        takes > 1 ? html`<i title="${takes} takes">${takes}</i>` : nothing
      }
    </button>`;
  }

  #outline(part, clip) {
    const known = this.outlines.get(clip);
    if (known?.dataset.drums === String(part.sound.drums)) {
      return known;
    }
    const drawn = outline(clip, part.sound.drums);
    drawn.dataset.drums = String(part.sound.drums);
    this.outlines.set(clip, drawn);
    return drawn;
  }
}
