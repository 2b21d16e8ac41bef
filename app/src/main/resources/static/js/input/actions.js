/**
 * What a control asks for, as a command: which clip, section or part a number means is looked up in what the
 * page has been told.
 */

/** A knob takes hold of a value when it comes this close to it, so that nothing jumps. */
const CLOSE = 0.04;

const SIMPLE = {
  MAIN: "mainPress",
  RECORD_ANEW: "recordAnew",
  PEEL: "peel",
  RESTORE: "restore",
  UNDO: "undo",
  REDO: "redo",
  HAND_OFF: "handOff",
  STOP_ALL: "stopAll",
  PANIC: "panic",
  NEXT_SECTION: "cueNext",
  PREVIOUS_SECTION: "cuePrevious",
  TAP: "tapTempo",
};

const GRIDS = ["1/4", "1/8", "1/16", "1/32", "1/64", "1/4T", "1/8T", "1/16T", "1/32T"];

/** Where a knob's values lie: from, to, and their steps. */
const RANGES = {
  TEMPO: [40, 240, 1],
  LEVEL: [-60, 6, 0.5],
  ECHO: [0, 100, 1],
  ROOM: [0, 100, 1],
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

  /** @param {import("./controls.js").Assignment | undefined} assignment */
  act(assignment, own) {
    const command = assignment && this.#command(assignment);
    if (assignment?.action === "PANIC") {
      this.sound.panic();
    }
    if (command) {
      this.connection.do(command, own);
    }
  }

  /** Lasts as long as the control is held. */
  hold({ action }, on, own) {
    this.connection.do({ do: action === "ERASE" ? "eraseHeld" : "replace", on }, own);
  }

  /** @param {number} turned 0 to 1 */
  turn({ action, number }, turned, knob) {
    const part = this.#part(number);
    if (action !== "TEMPO" && !part) {
      return;
    }
    const [low, high, step] = RANGES[action];
    const field = action.toLowerCase();
    const now = action === "TEMPO" ? this.state.show.bpm : part.balance[field];
    if (!this.#hasHold(knob, turned, (now - low) / (high - low))) {
      return;
    }
    const value = Math.round((low + turned * (high - low)) / step) * step;
    this.connection.do(
      action === "TEMPO"
        ? { do: "setTempo", bpm: value }
        : { do: "setBalance", part: part.id, ...part.balance, [field]: value },
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

  #part(number) {
    return number ? this.state.staves[number - 1] : this.state.armedPart;
  }

  #command({ action, number }) {
    const { state } = this;
    const part = this.#part(number);
    if (action in SIMPLE) {
      return { do: SIMPLE[action] };
    }
    switch (action) {
      case "START_STOP":
        return { do: state.transport.rolling || state.transport.awaiting ? "stop" : "start" };
      case "KEEP":
        return { do: "keep", ofLoopLength: false, cue: false };
      case "PUNCH":
        return { do: state.armedPart?.overdub?.mode === "punch" ? "punchOff" : "punchHere" };
      case "BREATHER": {
        const { recording } = state.show;
        return { do: "setRecording", ...recording, breatherBars: recording.breatherBars ? 0 : 1 };
      }
      case "LOUDER":
      case "SOFTER":
        return { do: "trimAll", decibels: action === "LOUDER" ? 1 : -1 };
      case "REPEAT_GRID":
        return { do: "repeatNotes", grid: GRIDS[Math.max(1, number) - 1] ?? "1/16", swing: 50 };
      case "TAKES":
        return { do: "takes", on: state.armedPart?.overdub?.mode !== "takes" };
      case "NOTE_REPEAT":
        return state.hands.repeat ? { do: "repeatOff" } : { do: "repeatNotes", grid: "1/16", swing: 50 };
      case "CLICK":
        return { do: "setClick", ...state.show.click, on: !state.show.click.on };
      case "CUE_SECTION":
        return sectionCue(state.form.sections[Math.max(1, number) - 1]);
      case "ARM_NEXT":
      case "ARM_PREVIOUS":
        return arm(state.staves[state.staves.indexOf(state.armedPart) + (action === "ARM_NEXT" ? 1 : -1)]);
      default:
        return part && this.#ofPart(action, number, part);
    }
  }

  #ofPart(action, number, part) {
    const { armedPart } = this.state;
    const clip = armedPart?.shelf[Math.max(1, number) - 1];
    const sounding = armedPart?.vamp?.clip ?? armedPart?.ready;
    const next = armedPart?.shelf[armedPart.shelf.indexOf(armedPart.cue?.clip ?? sounding) + 1];
    const beat = this.state.show?.meter.beatTicks;
    const reshape = (reshaping) =>
      sounding !== undefined && { do: "reshape", part: armedPart.id, clip: sounding, reshaping };
    return {
      CUE_NEXT_CLIP: next !== undefined && { do: "cueClip", part: armedPart.id, clip: next },
      HALVE: reshape({ by: "halve" }),
      DOUBLE: reshape({ by: "twice" }),
      SHIFT_EARLIER: reshape({ by: "shift", ticks: -beat }),
      SHIFT_LATER: reshape({ by: "shift", ticks: beat }),
      TACET: { do: "cueTacet", part: armedPart.id },
      CUT: { do: "cut", part: armedPart.id },
      CUE_CLIP: clip !== undefined && { do: "cueClip", part: armedPart.id, clip },
      ARM: arm(part),
      MUTE: { do: "setBalance", part: part.id, ...part.balance, muted: !part.balance.muted },
      SOLO: { do: "setBalance", part: part.id, ...part.balance, solo: !part.balance.solo },
    }[action];
  }
}

function arm(part) {
  return part && { do: "arm", part: part.id };
}

function sectionCue(section) {
  return section && { do: "cueSection", section: section.id };
}
