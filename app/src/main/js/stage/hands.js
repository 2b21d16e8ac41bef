/** The drawer with pads and keys for mouse, touch and the computer's keyboard, and the stand-in player. */

import { drumNames } from "../house/drum-names.js";
import { html, render } from "../house/lit.js";
import { COMPUTER } from "../input/controls.js";
import { Keyboard } from "../input/keyboard.js";
import { labelOf } from "../input/layout.js";
import { noteName } from "./note-names.js";
import { field } from "./fields.js";

const PADS = "pads";
const KEYS = "keys";

/** Keys of the percussion map on the pads, from the top row down: kick and snare, hats at the bottom. */
const DRUM_PADS = [54, 56, 70, 53, 41, 45, 48, 51, 37, 39, 44, 49, 36, 38, 42, 46];

/** Up to so many parts the drawer is open at first. */
const FEW_PARTS = 2;

const LOWEST_PAD = 48;
const LOWEST_KEY = 36;
const KEY_COUNT = 25;
const BLACK = [1, 3, 6, 8, 10];
const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
/** How hard the computer's keys play. */
/** How hard a key is struck by a press that has no hardness, and how long it is down, in ms. */
const BY_CLICK = 90;
const CLICKED_FOR = 200;
const STRENGTHS = [60, 100, 124];
const STRENGTH_WORDS = ["softly", "as usual", "hard"];

/** How hard a pad or key plays that is touched at its top, and how much harder at its bottom. */
const SOFTEST = 40;
const HARDER = 87;

export class Hands {
  constructor(stage) {
    this.stage = stage;
    this.pads = document.getElementById("pads");
    this.keys = document.getElementById("keys");
    this.drums = {};
    this.pitches = [];
    this.drawn = "";
    drumNames().then((names) => {
      this.drums = names;
      this.drawn = "";
      this.draw();
    });
    this.#drawKeys();
    this.#wireTouch(this.pads, PADS);
    this.#wireTouch(this.keys, KEYS);
    this.strength = 1;
    this.#drawStrength();
    this.#wireStandIn();
    this.#wireDrawer();
    stage.hub.addEventListener("played", ({ detail }) => this.#light(detail));
  }

  /** Pads have the drums' names on a drum part, else rising notes. */
  draw() {
    const part = this.stage.state.armedPart;
    this.#openForFew();
    const kind = part?.sound.drums ? "drums" : "notes";
    if (kind === this.drawn) {
      return;
    }
    this.drawn = kind;
    this.pitches = DRUM_PADS.map((_, i) =>
      kind === "drums" ? DRUM_PADS[i] : LOWEST_PAD + (3 - Math.floor(i / 4)) * 4 + (i % 4),
    );
    // the pads stay, whatever lies on them: a finger on one is not left there
    const named = (pitch) => (kind === "drums" ? (this.drums[pitch] ?? pitch) : noteName(pitch));
    const pads = this.pitches.map(
      (pitch, i) =>
        html`<button class="pad" data-pitch=${pitch}>
          ${named(pitch)}<i>${labelOf(Keyboard.placeOf(i))}</i>
        </button>`,
    );
    render(pads, this.pads);
  }

  /** With few parts there is room for the drawer from the start; with a band it is opened when wanted. */
  #openForFew() {
    const { order } = this.stage.state;
    if (!this.opened && order.length) {
      this.opened = true;
      const open = order.length <= FEW_PARTS;
      document.getElementById("hands").hidden = !open;
      document.getElementById("hands-toggle").setAttribute("aria-expanded", String(open));
    }
  }

  #drawKeys() {
    const keys = Array.from({ length: KEY_COUNT }, (_, i) => LOWEST_KEY + i).map((pitch) => {
      const black = BLACK.includes(pitch % 12);
      const label = pitch % 12 === 0 ? noteName(pitch) : "";
      return html`<button
        class=${black ? "key black" : "key"}
        data-pitch=${pitch}
        aria-label=${noteName(pitch)}
        tabindex="-1"
      >
        ${label}
      </button>`;
    });
    render(keys, this.keys);
  }

  /** Fingers on pads or keys: each lets go of what it came down on, wherever it is lifted, or taken away. */
  #wireTouch(box, device) {
    /** @type {Map<number, number>} the pitch under each finger */
    const under = new Map();
    box.addEventListener("pointerdown", (event) => {
      const button = event.target.closest("[data-pitch]");
      if (!button) {
        return;
      }
      box.setPointerCapture(event.pointerId);
      under.set(event.pointerId, Number(button.dataset.pitch));
      this.#send(device, Number(button.dataset.pitch), hardness(event, button), event.timeStamp);
    });
    for (const kind of ["pointerup", "pointercancel", "lostpointercapture"]) {
      box.addEventListener(kind, ({ pointerId, timeStamp }) => {
        if (under.has(pointerId)) {
          this.#send(device, under.get(pointerId), 0, timeStamp);
          under.delete(pointerId);
        }
      });
    }
    box.addEventListener("contextmenu", (event) => event.preventDefault());
    this.#wireKeys(box, device);
  }

  /** One that the Tab key has led to sounds while Enter or the space bar is held; a click without a finger, shortly. */
  #wireKeys(box, device) {
    let held = 0;
    let byFinger = false;
    const presses = ({ key }) => key === "Enter" || key === " ";
    const pitchOf = ({ target }) => Number(target.closest("[data-pitch]")?.dataset.pitch ?? 0);
    const lift = ({ timeStamp }) => {
      if (held) {
        this.#send(device, held, 0, timeStamp);
        held = 0;
      }
    };
    box.addEventListener("keydown", (event) => {
      if (presses(event)) {
        event.preventDefault();
        if (!event.repeat && !held) {
          held = pitchOf(event);
          this.#send(device, held, BY_CLICK, event.timeStamp);
        }
      }
    });
    box.addEventListener("keyup", lift);
    box.addEventListener("focusout", lift);
    box.addEventListener("pointerdown", () => (byFinger = true));
    box.addEventListener("click", (event) => {
      const pitch = pitchOf(event);
      if (!byFinger && pitch) {
        this.#send(device, pitch, BY_CLICK, event.timeStamp);
        setTimeout(() => this.#send(device, pitch, 0, performance.now()), CLICKED_FOR);
      }
      byFinger = false;
    });
  }

  #send(device, pitch, velocity, own) {
    const message = velocity ? [NOTE_ON, pitch, velocity] : [NOTE_OFF, pitch, 0];
    this.stage.hub.receive(device, message, own);
  }

  /** What the computer's keyboard does with pads; it plays them also while a sound is chosen. */
  get byKeys() {
    const held = new Map();
    return {
      down: (pad, own) => {
        held.set(pad, this.pitches[pad]);
        this.#send(COMPUTER, this.pitches[pad], STRENGTHS[this.strength], own);
      },
      up: (pad, own) => {
        this.#send(COMPUTER, held.get(pad) ?? this.pitches[pad], 0, own);
        held.delete(pad);
      },
      gone: () => {
        held.clear();
        this.stage.hub.gone(COMPUTER);
      },
    };
  }

  /** The computer's keys play at one of three strengths. */
  strengthBy(step) {
    this.strength = Math.max(0, Math.min(STRENGTHS.length - 1, this.strength + step));
    this.#drawStrength();
    this.stage.words.say(`The computer's keys play ${STRENGTH_WORDS[this.strength]}.`);
  }

  /** What is printed on the keys is known by now. */
  relabel() {
    this.drawn = "";
    if (this.stage.state.order.length) {
      this.draw();
    }
  }

  #drawStrength() {
    document.getElementById("key-strength").textContent = `keys play ${STRENGTH_WORDS[this.strength]}`;
  }

  #wireStandIn() {
    const value = (id) => field(id).value;
    document.getElementById("standin-play").addEventListener("click", () => {
      const [spread, earlyDownbeat] = value("timing").split(" ").map(Number);
      const pattern = value("pattern");
      const times = Number(value("times"));
      const velocitySpread = spread ? 8 : 0;
      this.stage.connection.ask({
        standIn: { pattern, times, seed: 7, spread, earlyDownbeat, velocitySpread },
      });
    });
    document.getElementById("standin-stop").addEventListener("click", () => this.stage.standIn.stop());
  }

  #wireDrawer() {
    const toggle = document.getElementById("hands-toggle");
    toggle.addEventListener("click", () => this.toggle());
  }

  /** Opens the drawer, or closes it. */
  toggle() {
    const drawer = document.getElementById("hands");
    drawer.hidden = !drawer.hidden;
    this.opened = true;
    document.getElementById("hands-toggle").setAttribute("aria-expanded", String(!drawer.hidden));
  }

  #light({ pitch, velocity }) {
    for (const button of document.querySelectorAll(
      `.pad[data-pitch="${pitch}"], .key[data-pitch="${pitch}"]`,
    )) {
      button.classList.toggle("down", velocity > 0);
    }
  }
}

/** How far down a pad or key is touched, as a velocity. */
function hardness({ clientY }, button) {
  const { top, height } = button.getBoundingClientRect();
  return Math.max(1, Math.min(127, Math.round(SOFTEST + ((clientY - top) / height) * HARDER)));
}
