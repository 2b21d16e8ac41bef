/**
 * Controls that can light are told what their command would find, as the performer has set it for the map: a velocity
 * for a note, a value for a control change. What is cued blinks on the beat. Off when the page goes.
 */

const NOTE_ON = 0x90;
const CONTROL_CHANGE = 0xb0;

export class Lamps {
  /**
   * @param {import("../input/midi.js").Midi} midi
   * @param {import("../house/state.js").State} state
   * @param {import("../input/controls.js").Controls} controls
   */
  constructor(midi, state, controls) {
    this.midi = midi;
    this.state = state;
    this.controls = controls;
    /** @type {Map<string, number>} what each lamp was sent last */
    this.sent = new Map();
    addEventListener("pagehide", () => this.off());
    midi.addEventListener("devices", () => this.sent.clear());
  }

  /** Lamps are told what has changed; what is cued is lit in the first half of a beat. */
  draw() {}

  /** @param {number} tick */
  tick(tick) {
    const { rolling } = this.state.transport ?? {};
    const beat = this.state.show?.meter.beatTicks ?? 1;
    const onBeat = !rolling || (((tick % beat) + beat) % beat) * 2 < beat;
    const lamps = this.controls.map?.lamps;
    if (!lamps || !this.midi.outputs.size) {
      return;
    }
    for (const [control, lit] of Object.entries(this.state.lit)) {
      const value = lit === "CUED" && !onBeat ? lamps.ready : lamps[lit.toLowerCase()];
      if (this.sent.get(control) !== value) {
        this.sent.set(control, value);
        this.#send(control, value);
      }
    }
  }

  /** All lamps go out. */
  off() {
    [...this.sent.keys()].forEach((control) => this.#send(control, 0));
    this.sent.clear();
  }

  #send(control, value) {
    const [, device, kind, channel, number] = /^(.*) (NOTE|CONTROL_CHANGE) (\d+) (\d+)$/.exec(control) ?? [];
    const status = (kind === "NOTE" ? NOTE_ON : CONTROL_CHANGE) | Number(channel);
    this.midi.outputs.get(device)?.send([status, Number(number), value]);
  }
}
