/**
 * The one way in for all that is played: screen, computer keyboard, stand-in, MIDI. Each gives the
 * bytes of a MIDI message and the page's own time at which it happened; they sound at once, and go to
 * the engine with that time.
 *
 * Event: "played" (detail: {pitch, velocity}, velocity 0 for a release), for activity lamps and drawn keys.
 */

import { PREVIEW } from "../house/sound.js";

const NOTE_OFF = 0x80;
const NOTE_ON = 0x90;

export class InputHub extends EventTarget {
  /**
   * @param {import("../house/connection.js").Connection} connection
   * @param {import("../house/sound.js").Sound} sound
   * @param {import("../house/state.js").State} state
   */
  constructor(connection, sound, state) {
    super();
    this.connection = connection;
    this.sound = sound;
    this.state = state;
    /** @type {Map<string, {device: string, channel: number, pitch: number, part: number}>} keys that are
     * down, and the part that each sounds on */
    this.down = new Map();
    /** @type {number | null} keys sound on this part number instead, while a sound is chosen */
    this.preview = null;
  }

  /**
   * @param {string} device its name
   * @param {number[]} message the bytes of a channel message of MIDI 1.0
   * @param {number} own when it happened: the page's own time in ms
   */
  receive(device, [status, data1, data2], own) {
    const channel = status & 0x0f;
    const kind = status & 0xf0;
    const key = `${device} ${channel} ${data1}`;
    if (kind === NOTE_ON && data2 > 0) {
      this.#press(device, channel, data1, data2, key, own);
    } else if (kind === NOTE_OFF || kind === NOTE_ON) {
      this.#release(key, own);
    }
  }

  /** All keys of a device come up. */
  gone(device) {
    for (const [key, held] of [...this.down]) {
      if (held.device === device) {
        this.#release(key, performance.now());
      }
    }
  }

  #press(device, channel, pitch, velocity, key, own) {
    const part = this.preview ?? this.state.armedPart?.id;
    if (part === undefined) {
      return;
    }
    if (this.down.has(key)) {
      this.sound.up(this.down.get(key).part, pitch);
    }
    this.down.set(key, { device, channel, pitch, part });
    this.sound.down(part, pitch, velocity);
    if (part !== PREVIEW) {
      this.connection.do({ do: "keyDown", device, channel, pitch, velocity }, own);
    }
    this.#tell(pitch, velocity);
  }

  #release(key, own) {
    const held = this.down.get(key);
    if (!held) {
      return;
    }
    const { device, channel, pitch, part } = held;
    this.down.delete(key);
    this.sound.up(part, pitch);
    if (part !== PREVIEW) {
      this.connection.do({ do: "keyUp", device, channel, pitch }, own);
    }
    this.#tell(pitch, 0);
  }

  #tell(pitch, velocity) {
    this.dispatchEvent(new CustomEvent("played", { detail: { pitch, velocity } }));
  }
}
