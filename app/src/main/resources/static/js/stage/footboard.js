import { Actions } from "../input/actions.js";

/** Keys of the computer's keyboard that do the same. */
const KEYS = {
  MAIN: "Enter",
  PEEL: "⌫",
  RESTORE: "Shift ⌫",
  CLEAR: "Del",
  UNDO: "u",
  REDO: "Shift u",
  HAND_OFF: "y",
  KEEP: "g",
  RECORD_ANEW: "+",
  REPLACE: "F2",
  TAKES: "F3",
  ERASE: "F4",
  NOTE_REPEAT: "F6",
  PUNCH: "F7",
  START_STOP: "Space",
  STOP_ALL: ".",
  TACET: "0",
  PANIC: "Esc",
  NEXT_SECTION: "n",
  PREVIOUS_SECTION: "b",
  TAP: "t",
  CLICK: "k",
  MUTE: "m",
  SOLO: "j",
  ARM_NEXT: "Page ↓",
  ARM_PREVIOUS: "Page ↑",
};

/** Words of more letters than this are written smaller. */
const LONG = 27;

const GESTURES = { SHORT: "", LONG: "long: ", DOUBLE: "twice: ", RELEASE: "let go: ", EACH: "" };

/**
 * The pedals, as they are assigned, and what each will do next, in the engine's words. A finger on one does at
 * once what a short press of the pedal does.
 *
 * @typedef {{gesture: "SHORT" | "LONG" | "DOUBLE" | "RELEASE" | "EACH", action: string, number: number, words: string}} Gesture
 */
export class Footboard {
  constructor(stage) {
    this.stage = stage;
    this.feet = document.getElementById("footboard");
    /** @type {{element: HTMLElement, key: string, prefix: string}[]} where the engine's words go */
    this.words = [];
  }

  draw() {
    const { controls, state } = this.stage;
    if (controls.pedals && controls.pedals !== this.drawn) {
      this.drawn = controls.pedals;
      this.words = [];
      this.feet.replaceChildren(...controls.pedals.map((pedal, i) => this.#pedal(pedal, i)));
    }
    for (const { element, key, prefix } of this.words) {
      const text = prefix + (state.press[key] ?? "");
      if (element.textContent !== text) {
        element.textContent = text;
        element.classList.toggle("long", text.length > LONG);
      }
    }
  }

  /** @param {{control: object, gestures: Gesture[]}} pedal */
  #pedal({ gestures }, place) {
    const pedal = document.createElement("button");
    const [first] = gestures;
    pedal.className = first.action === "MAIN" ? "pedal main" : "pedal";
    pedal.dataset.action = first.action;
    const label = document.createElement("span");
    label.append(`${place + 1} · ${first.words}`);
    if (KEYS[first.action]) {
      const key = document.createElement("kbd");
      key.textContent = KEYS[first.action];
      label.append(" ", key);
    }
    pedal.append(label, this.#said("b", first));
    const others = gestures.slice(1).map((gesture) => this.#said("small", gesture));
    pedal.append(...others);
    this.#wire(pedal, first);
    return pedal;
  }

  #said(tag, { gesture, action, number }) {
    const element = document.createElement(tag);
    const key = number ? `${action} ${number}` : action;
    this.words.push({ element, key, prefix: GESTURES[gesture] });
    return element;
  }

  #wire(pedal, what) {
    const { actions } = this.stage;
    const held = Actions.isHeld(what.action);
    const press = (own) => (held ? actions.hold(what, true, own) : actions.act(what, own));
    const lift = (own) => held && actions.hold(what, false, own);
    pedal.addEventListener("pointerdown", (event) => {
      if (event.button === 0) {
        pedal.setPointerCapture(event.pointerId);
        press(event.timeStamp);
      }
    });
    pedal.addEventListener("lostpointercapture", (event) => lift(event.timeStamp));
    const isPress = ({ key }) => key === "Enter" || key === " ";
    pedal.addEventListener("keydown", (event) => {
      if (!event.repeat && isPress(event)) {
        event.preventDefault();
        event.stopPropagation();
        press(event.timeStamp);
      }
    });
    pedal.addEventListener("keyup", (event) => isPress(event) && lift(event.timeStamp));
  }
}
