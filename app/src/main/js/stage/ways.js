import { field, on, onPress } from "./fields.js";

/** What the last phrase would be kept as is known by its command. */
const KEEP = JSON.stringify({ do: "keep", ofLoopLength: false, cue: false });

/**
 * Ways of recording that change what is there: replace, takes, held erase; note repeat; and keeping what
 * was played. Each shows whether it is on.
 */
export class Ways {
  constructor(stage) {
    this.stage = stage;
    onPress("way-replace", (event) => this.#turn("replace", event.timeStamp));
    onPress("way-takes", (event) => this.#turn("takes", event.timeStamp));
    onPress("way-punch", (event) => this.#turn("punchBar", event.timeStamp));
    onPress("way-repeat", (event) => this.repeat(event.timeStamp));
    onPress("way-keep", (event) => this.keep(event.timeStamp));
    on("keep-what", "change", () => this.draw());
    on("keep-onto", "change", () => this.draw());
    // held by a finger; the keyboard, or a screen reader, switches it over
    onPress("way-erase", (event) => {
      const held = event.pointerId !== undefined && event.type === "pointerdown";
      if (held) {
        event.target.setPointerCapture(event.pointerId);
      }
      this.erase(held || this.stage.state.hands.erase === undefined, event.timeStamp);
    });
    for (const kind of ["pointerup", "pointercancel"]) {
      on("way-erase", kind, (event) => this.erase(false, event.timeStamp));
    }
    on("repeat-grid", "change", () => this.stage.state.hands.repeat && this.#repeatOn());
  }

  draw() {
    const { state } = this.stage;
    const mode = state.armedPart?.onto?.mode;
    const { erase, repeat } = state.hands;
    const pressed = {
      replace: mode === "replace",
      takes: mode === "takes",
      punch: mode === "punch",
      erase: erase !== undefined,
      repeat: repeat !== undefined && repeat !== null,
    };
    for (const [name, is] of Object.entries(pressed)) {
      document.getElementById(`way-${name}`).setAttribute("aria-pressed", String(is));
    }
    this.#drawOnto();
    // said before the press is what the pedal does: the last phrase, on its part
    const asPedal = field("keep-what").value === "phrase" && !this.#onto;
    document.getElementById("keep-words").textContent = asPedal ? (state.press[KEEP] ?? "") : "";
    const grid = field("repeat-grid");
    if (repeat && document.activeElement !== grid) {
      grid.value = repeat.grid;
    }
  }

  /** On or off, as the engine finds it. */
  #turn(way, own) {
    this.stage.connection.do({ do: way, on: "toggle" }, own);
  }

  /** The part on which it is kept; none for that on which it was played. */
  get #onto() {
    return Number(field("keep-onto").value) || undefined;
  }

  /** The last phrase, as the pedal keeps it; or as long as the loop; or so many bars: on any part. */
  keep(own) {
    const { connection, state } = this.stage;
    const what = field("keep-what").value;
    const onto = this.#onto;
    if (what === "phrase" || what === "loop") {
      const like = { ofLoopLength: what === "loop", cue: false };
      connection.do(onto ? { do: "keepOnto", onto, ...like } : { do: "keep", ...like }, own);
    } else if (state.armedPart) {
      const part = state.armedPart.id;
      connection.do({ do: "keepBars", part, onto: onto ?? part, bars: Number(what), cue: false }, own);
    }
  }

  #drawOnto() {
    const { staves } = this.stage.state;
    const onto = field("keep-onto");
    onto.hidden = staves.length < 2;
    const names = staves.map(({ id, name }) => `${id} ${name}`).join("\n");
    if (names !== this.drawnOnto) {
      this.drawnOnto = names;
      const { value } = onto;
      onto.replaceChildren(
        new Option("on its part", "0"),
        ...staves.map(({ id, name }) => new Option(`on ${name}`, String(id))),
      );
      onto.value = staves.some(({ id }) => String(id) === value) ? value : "0";
    }
  }

  repeat(own) {
    if (this.stage.state.hands.repeat) {
      this.stage.connection.do({ do: "repeatOff" }, own);
    } else {
      this.#repeatOn(own);
    }
  }

  erase(on, own) {
    const is = this.stage.state.hands.erase !== undefined;
    if (on !== is || !on) {
      this.stage.connection.do({ do: "eraseHeld", on }, own);
    }
  }

  #repeatOn(own) {
    const grid = field("repeat-grid").value;
    const swing = this.stage.state.armedPart?.inputGrid.swing ?? 50;
    this.stage.connection.do({ do: "repeatNotes", grid, swing }, own);
  }
}
