/**
 * What a control asks for. What is pressed is named to the engine, which looks up what it means; what is turned
 * becomes a value here, since only here it is known where the knob stands.
 */

/** A knob takes hold of a value when it comes this close to it, so that nothing jumps. */
const CLOSE = 0.04;

/** Where a knob's values lie: from, to, and their steps. */
const RANGES = {
  TEMPO: [40, 240, 1],
  MASTER: [-60, 6, 0.5],
  LEVEL: [-60, 6, 0.5],
  ECHO: [0, 100, 1],
  ROOM: [0, 100, 1],
};

/** What begins and ends with the foot, as commands. */
const HELD = {
  ERASE: (on) => ({ do: "eraseHeld", on }),
  REPLACE: (on) => ({ do: "replace", on }),
  NOTE_REPEAT_HELD: (on, number) =>
    on ? { do: "act", action: "NOTE_REPEAT_HELD", number } : { do: "repeatOff" },
};

export class Actions {
  /**
   * @param {import("../house/connection.js").Connection} connection
   * @param {import("../house/state.js").State} state
   * @param {import("../house/sound.js").Sound} sound
   */
  constructor(connection, state, sound) {
    this.connection = connection;
    this.state = state;
    this.sound = sound;
    /** @type {Map<string, {at: number, holds: boolean}>} where each knob was last, and whether it has hold */
    this.knobs = new Map();
  }

  /**
   * @param {{action: string, number: number} | undefined} what nothing, if a gesture stands for nothing
   * @param {boolean} sure whether it was a long press: what silences a loop does so at once
   * @param {number} press the number of a command that was done at once, and has not been; 0 if none was
   * @returns {number} the command's number
   */
  act(what, own, sure = false, press = 0) {
    if (!what) {
      return 0;
    }
    if (what.action === "PANIC") {
      this.sound.panic();
    }
    const command = { do: "act", action: what.action, number: what.number, ...(sure && { sure }) };
    return this.connection.do(press ? { do: "instead", press, command } : command, own);
  }

  /** Lasts as long as the control is held. */
  hold({ action, number }, on, own) {
    this.connection.do(HELD[action](on, number), own);
  }

  /** @returns {boolean} whether an action lasts as long as its control is held */
  static isHeld(action) {
    return action in HELD;
  }

  /** @returns {boolean} whether an action is for a control that turns */
  static isTurned(action) {
    return action in RANGES;
  }

  /** @param {number} turned 0 to 1 */
  turn({ action, number }, turned, knob) {
    const setting = this.#setting(action, number);
    if (!setting) {
      return;
    }
    const [low, high, step] = RANGES[action];
    if (!this.#hasHold(knob, turned, (setting.now - low) / (high - low))) {
      return;
    }
    this.connection.do(setting.to(Math.round((low + turned * (high - low)) / step) * step));
  }

  /** What a knob turns: how it stands now, and the command that sets it; nothing if its part is not there. */
  #setting(action, number) {
    const { show, staves, armedPart } = this.state;
    if (action === "TEMPO") {
      return { now: show.bpm, to: (bpm) => ({ do: "setTempo", bpm }) };
    }
    if (action === "MASTER") {
      return { now: show.master.level, to: (level) => ({ do: "setMaster", level }) };
    }
    const part = number ? staves[number - 1] : armedPart;
    const field = action.toLowerCase();
    return (
      part && {
        now: part.balance[field],
        to: (value) => ({ do: "setBalance", part: part.id, [field]: value }),
      }
    );
  }

  /** Soft take-over: once it has come past the value that is there, the knob has hold of it. */
  #hasHold(knob, turned, there) {
    const before = this.knobs.get(knob);
    const passed = before && (before.at - there) * (turned - there) <= 0;
    const holds = before?.holds || passed || Math.abs(turned - there) <= CLOSE;
    this.knobs.set(knob, { at: turned, holds });
    return holds;
  }
}
