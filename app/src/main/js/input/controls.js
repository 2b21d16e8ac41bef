/**
 * Controls that stand for commands: pedals, pads, keys and knobs of outside devices, and keys of the computer. What
 * is assigned is neither heard nor recorded. A press counts from the moment at which the foot came down, also where
 * a long or double press has to be waited for. Where being late would be heard nothing is waited for: the short
 * press is done at once, and the engine takes it back if it turns out to be another gesture.
 *
 * Events: "taught" (detail: the control that was moved while teaching); "moved" (detail: a control that was moved).
 *
 * @typedef {{device: string, kind: "NOTE" | "CONTROL_CHANGE" | "PROGRAM_CHANGE" | "KEY", channel: number,
 *   number: number, key: string}} Control
 * @typedef {"SHORT" | "LONG" | "DOUBLE" | "RELEASE" | "EACH"} Gesture
 * @typedef {{control: Control, gesture: Gesture, command: import("./commands.js").Command}} Assignment
 * @typedef {{words: string, hold: "PRESSED" | "WHILE_HELD" | "TURNED", atOnce: boolean}} Meaning
 */

/** A press as long as this is a long one, in ms. */
const LONG_AFTER = 500;

/** A second press this soon makes a double one, in ms. */
const DOUBLE_WITHIN = 320;

const DOWN_FROM = 64;

/** The computer's keyboard as a device. */
export const COMPUTER = "computer keyboard";

/** @returns {Control} a key of the computer */
export function keyControl(key) {
  return { device: COMPUTER, kind: "KEY", channel: 0, number: 0, key };
}

export class Controls extends EventTarget {
  /** @param {import("./commands.js").Commands} commands */
  constructor(commands) {
    super();
    this.commands = commands;
    /** @type {{control: Control, gestures: any[]}[] | undefined} the pedals as they are shown, as the house orders them */
    this.pedals = undefined;
    /** @type {Map<string, Map<Gesture, Assignment & Meaning>>} for each control what each gesture does */
    this.assigned = new Map();
    /** what is known of each control that is or was held */
    this.presses = new Map();
    this.teaching = false;
  }

  /** @param {{map: {name: string, assignments: Assignment[], lamps?: Record<string, number>}, meanings: Meaning[]}} told */
  set({ map, meanings }) {
    this.releaseAll(performance.now());
    this.map = map;
    this.assigned.clear();
    map.assignments.forEach((assignment, i) => {
      const key = keyOf(assignment.control);
      if (!this.assigned.has(key)) {
        this.assigned.set(key, new Map());
      }
      this.assigned.get(key).set(assignment.gesture, { ...assignment, ...meanings[i] });
    });
  }

  /** @returns {(Assignment & Meaning)[]} what a control stands for */
  of(control) {
    return [...(this.assigned.get(keyOf(control))?.values() ?? [])];
  }

  /** @returns {string | undefined} the key of the computer that stands for a command */
  keyFor(command) {
    const wanted = JSON.stringify(command);
    return this.map?.assignments.find(
      (a) => a.control.kind === "KEY" && a.gesture === "SHORT" && JSON.stringify(a.command) === wanted,
    )?.control.key;
  }

  /**
   * @param {string} device
   * @param {number[]} message a channel message of MIDI 1.0
   * @param {number} own when it happened: the page's own time in ms
   * @returns {boolean} whether it was for a control, and goes no further
   */
  take(device, [status, data1, data2], own) {
    const kind = { 0x80: "NOTE", 0x90: "NOTE", 0xb0: "CONTROL_CHANGE", 0xc0: "PROGRAM_CHANGE" }[
      status & 0xf0
    ];
    if (!kind) {
      return false;
    }
    const control = { device, kind, channel: status & 0x0f, number: data1, key: "" };
    const off = (status & 0xf0) === 0x80;
    const value = kind === "PROGRAM_CHANGE" ? 127 : off ? 0 : data2;
    if (value > 0 && this.#isTaught(control)) {
      return true;
    }
    const gestures = this.assigned.get(keyOf(control));
    if (!gestures) {
      return false;
    }
    const plain = gestures.get("SHORT");
    if (plain?.hold === "TURNED") {
      this.commands.turn(plain.command, value / 127, keyOf(control), own);
    } else {
      this.#press(keyOf(control), gestures, kind === "NOTE" ? value > 0 : value >= DOWN_FROM, own);
    }
    if (kind === "PROGRAM_CHANGE") {
      this.#press(keyOf(control), gestures, false, own);
    }
    return true;
  }

  /**
   * @param {string} key of the computer, with Shift, Alt or Ctrl before it
   * @returns {boolean} whether it stands for something
   */
  takeKey(key, down, own) {
    const control = keyControl(key);
    if (down && this.#isTaught(control)) {
      return true;
    }
    const gestures = this.assigned.get(keyOf(control));
    if (gestures) {
      this.#press(keyOf(control), gestures, down, own);
    }
    return gestures !== undefined;
  }

  /** All that is held ends: the page is left, or the controls are others. */
  releaseAll(own) {
    for (const [key, press] of this.presses) {
      const gestures = this.assigned.get(key);
      if (press.down && gestures) {
        this.#press(key, gestures, false, own);
      }
    }
  }

  #isTaught(control) {
    this.dispatchEvent(new CustomEvent("moved", { detail: control }));
    if (this.teaching) {
      this.teaching = false;
      this.dispatchEvent(new CustomEvent("taught", { detail: control }));
      return true;
    }
    return false;
  }

  #press(key, gestures, down, own) {
    const press = this.presses.get(key) ?? { down: false, waiting: 0, long: 0, done: 0 };
    this.presses.set(key, press);
    if (press.down === down) {
      return;
    }
    press.down = down;
    const plain = gestures.get("SHORT");
    if (gestures.has("EACH")) {
      this.commands.do(gestures.get("EACH").command, own);
    } else if (plain?.hold === "WHILE_HELD") {
      this.commands.hold(plain.command, down, own);
    } else if (down) {
      this.#goesDown(press, gestures, own);
    } else {
      this.#comesUp(press, gestures);
      this.commands.do(gestures.get("RELEASE")?.command, own);
    }
  }

  #goesDown(press, gestures, own) {
    if (press.waiting) {
      clearTimeout(press.waiting);
      press.waiting = 0;
      this.commands.do(gestures.get("DOUBLE").command, own, press.done);
      press.since = null;
      return;
    }
    const plain = gestures.get("SHORT");
    const others = gestures.has("LONG") || gestures.has("DOUBLE");
    press.since = own;
    press.atOnce = !others || Boolean(plain?.atOnce);
    press.done = press.atOnce ? this.commands.do(plain?.command, own) : 0;
    if (gestures.has("LONG")) {
      press.long = setTimeout(() => {
        press.since = null;
        this.commands.do(gestures.get("LONG").command, own, press.done);
      }, LONG_AFTER);
    }
  }

  #comesUp(press, gestures) {
    clearTimeout(press.long);
    const { since, atOnce } = press;
    if (since === null || since === undefined) {
      return;
    }
    press.since = null;
    const late = () => !atOnce && this.commands.do(gestures.get("SHORT")?.command, since);
    if (gestures.has("DOUBLE")) {
      press.waiting = setTimeout(() => {
        press.waiting = 0;
        late();
      }, DOUBLE_WITHIN);
    } else {
      late();
    }
  }
}

/** @param {Control} control */
export function keyOf({ device, kind, channel, number, key = "" }) {
  return `${device} ${kind} ${channel} ${number}${key && ` ${key}`}`;
}
