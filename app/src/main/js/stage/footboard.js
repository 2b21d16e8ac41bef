import { keyOf } from "../input/controls.js";
import { labelOf } from "../input/layout.js";

/** Words of more letters than this are written smaller. */
const LONG = 27;

/** No more pedals have room. */
const MOST = 12;

/** The stand-in's pedals give way to one's own. */
const STAND_IN = "stand-in footboard";

/** What starts the music ends a run that is heard. */
const STARTS = ["start", "startOrStop", "mainPress"];

const GESTURES = { SHORT: "", LONG: "long: ", DOUBLE: "twice: ", RELEASE: "let go: ", EACH: "" };

/**
 * The pedals, as they are assigned, and what each will do next, in the engine's words. A finger on one does at
 * once what a short press of the pedal does.
 *
 * @typedef {{gesture: import("../input/controls.js").Gesture, command: import("../input/commands.js").Command,
 *   key: string, hold: "PRESSED" | "WHILE_HELD" | "TURNED", words: string}} Gesture
 */
export class Footboard {
  constructor(stage) {
    this.stage = stage;
    this.feet = document.getElementById("footboard");
    /** @type {{element: HTMLElement, key: string, prefix: string, does: string}[]} where the engine's words go */
    this.words = [];
  }

  draw() {
    const { controls, state } = this.stage;
    const pedals = this.#here();
    const drawn = JSON.stringify(pedals);
    if (controls.pedals && drawn !== this.drawn) {
      this.drawn = drawn;
      this.words = [];
      this.feet.replaceChildren(...pedals.map((pedal, i) => this.#pedal(pedal, i)));
    }
    const heard = Boolean(this.stage.runs.hearing);
    for (const { element, key, prefix, does } of this.words) {
      const ends = heard && STARTS.includes(does) ? "end the run, then " : "";
      const text = prefix + ends + (state.press[key] ?? "");
      if (element.textContent !== text) {
        element.textContent = text;
        element.classList.toggle("long", text.length > LONG);
      }
    }
    for (const pedal of this.feet.querySelectorAll(".pedal")) {
      pedal.dataset.lit = state.lit[pedal.dataset.control] ?? "";
    }
  }

  /** The pedals of the devices that are here, one's own before the stand-in's; where none is, all that are taught. */
  #here() {
    const { controls, hub, midi } = this.stage;
    const pedals = controls.pedals ?? [];
    const isHere = ({ device }) => hub.devices.has(device) || midi.names.includes(device);
    const own = pedals.filter(({ control }) => control.device !== STAND_IN && isHere(control));
    const standIn = pedals.filter(({ control }) => control.device === STAND_IN);
    const shown = own.length ? own : standIn.length ? standIn : pedals;
    return shown.slice(0, MOST);
  }

  /** @param {{control: import("../input/controls.js").Control, gestures: Gesture[]}} pedal */
  #pedal({ control, gestures }, place) {
    const pedal = document.createElement("button");
    const [first] = gestures;
    pedal.className = first.command.do === "mainPress" ? "pedal main" : "pedal";
    pedal.dataset.does = first.command.do;
    pedal.dataset.control = keyOf(control);
    const label = document.createElement("span");
    label.append(`${place + 1} · ${first.words}`);
    const key = this.stage.controls.keyFor(first.command);
    if (key) {
      const printed = document.createElement("kbd");
      printed.textContent = labelOf(key);
      label.append(" ", printed);
    }
    pedal.append(label, this.#said("b", first));
    const others = gestures.slice(1).map((gesture) => this.#said("small", gesture));
    pedal.append(...others);
    this.#wire(pedal, first);
    return pedal;
  }

  #said(tag, { gesture, key, command }) {
    const element = document.createElement(tag);
    this.words.push({ element, key, prefix: GESTURES[gesture], does: command.do });
    return element;
  }

  #wire(pedal, { command, hold }) {
    const { commands } = this.stage;
    const held = hold === "WHILE_HELD";
    const press = (own) => (held ? commands.hold(command, true, own) : commands.do(command, own));
    const lift = (own) => held && commands.hold(command, false, own);
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
