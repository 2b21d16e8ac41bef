/**
 * Controls of outside devices that stand for actions: pedals, pads, keys, knobs. What is assigned is neither
 * heard nor recorded. A press counts from the moment at which the foot came down, also where a long or double
 * press has to be waited for. Where being late would be heard nothing is waited for: the short press is done at
 * once, and the engine takes it back if it turns out to be another gesture.
 *
 * Events: "taught" (detail: the control that was moved while teaching).
 *
 * @typedef {{device: string, kind: "NOTE" | "CONTROL_CHANGE" | "PROGRAM_CHANGE", channel: number, number: number}} Control
 * @typedef {{control: Control, gesture: "SHORT" | "LONG" | "DOUBLE" | "RELEASE" | "EACH", action: string, number: number}} Assignment
 */

import { Actions } from "./actions.js";

/** A press as long as this is a long one, in ms. */
const LONG_AFTER = 500;

/** A second press this soon makes a double one, in ms. */
const DOUBLE_WITHIN = 320;

const DOWN_FROM = 64;

export class Controls extends EventTarget {
  /** @param {import("./actions.js").Actions} actions */
  constructor(actions) {
    super();
    this.actions = actions;
    /** @type {Map<string, Map<string, Assignment>>} for each control what each gesture does */
    this.assigned = new Map();
    /** what is known of each control that is or was held */
    this.presses = new Map();
    /** @type {Set<string>} the actions that are done when the foot comes down, as the house tells them */
    this.atOnce = new Set();
    this.teaching = false;
  }

  /** @param {{name: string, assignments: Assignment[]}} map */
  set(map) {
    this.map = map;
    this.assigned.clear();
    for (const assignment of map.assignments) {
      const key = keyOf(assignment.control);
      if (!this.assigned.has(key)) {
        this.assigned.set(key, new Map());
      }
      this.assigned.get(key).set(assignment.gesture, assignment);
    }
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
    const control = { device, kind, channel: status & 0x0f, number: data1 };
    const off = (status & 0xf0) === 0x80;
    const value = kind === "PROGRAM_CHANGE" ? 127 : off ? 0 : data2;
    if (this.teaching && value > 0) {
      this.teaching = false;
      this.dispatchEvent(new CustomEvent("taught", { detail: control }));
      return true;
    }
    const gestures = this.assigned.get(keyOf(control));
    if (!gestures) {
      return false;
    }
    const plain = gestures.get("SHORT");
    if (plain && Actions.isTurned(plain.action)) {
      this.actions.turn(plain, value / 127, keyOf(control));
    } else {
      this.#press(keyOf(control), gestures, kind === "NOTE" ? value > 0 : value >= DOWN_FROM, own);
    }
    if (kind === "PROGRAM_CHANGE") {
      this.#press(keyOf(control), gestures, false, own);
    }
    return true;
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
      this.actions.act(gestures.get("EACH"), own);
    } else if (plain && Actions.isHeld(plain.action)) {
      this.actions.hold(plain, down, own);
    } else if (down) {
      this.#goesDown(press, gestures, own);
    } else {
      this.#comesUp(press, gestures);
      this.actions.act(gestures.get("RELEASE"), own);
    }
  }

  #goesDown(press, gestures, own) {
    if (press.waiting) {
      clearTimeout(press.waiting);
      press.waiting = 0;
      this.actions.act(gestures.get("DOUBLE"), own, false, press.done);
      press.since = null;
      return;
    }
    const plain = gestures.get("SHORT");
    const others = gestures.has("LONG") || gestures.has("DOUBLE");
    press.since = own;
    press.atOnce = !others || Boolean(plain && this.atOnce.has(plain.action));
    press.done = press.atOnce ? this.actions.act(plain, own) : 0;
    if (gestures.has("LONG")) {
      press.long = setTimeout(() => {
        press.since = null;
        this.actions.act(gestures.get("LONG"), own, true, press.done);
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
    const late = () => !atOnce && this.actions.act(gestures.get("SHORT"), since);
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

function keyOf({ device, kind, channel, number }) {
  return `${device} ${kind} ${channel} ${number}`;
}
