/**
 * The one way in for all that is played: screen, computer keyboard, stand-in, MIDI. Each gives the
 * bytes of a MIDI message and the page's own time at which it happened; they sound at once, and go to
 * the engine with that time.
 *
 * Events: "played" (detail: {pitch, velocity}, velocity 0 for a release), for drawn keys; "heard" (detail: the
 * name of the device that has sent something), for lamps; "flood" (detail: the name of one that sends too much);
 * "elsewhere" when something is played here while another page has the sound.
 */

import { PREVIEW } from "../house/sound.js";
import { PEDAL } from "../player/voices.js";
import { Flood } from "./flood.js";

const NOTE_OFF = 0x80;
const NOTE_ON = 0x90;
const KEY_PRESSURE = 0xa0;
const CONTROL_CHANGE = 0xb0;
const CHANNEL_PRESSURE = 0xd0;
const PITCH_BEND = 0xe0;

const SUSTAIN = 64;
const FIRST_CHANNEL_MODE = 120;
const BANK_SELECT = [0, 32];

/** Moves of a controller that come closer than this are thinned, in ms: a broken device floods. */
const THINNED = 4;

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
    /** @type {Map<string, {device: string, channel: number, pitch: number, sounds: number[][], told: boolean}>}
     * keys that are down, and the parts and pitches that each sounds on */
    this.down = new Map();
    /** @type {number | null} keys sound on this part number instead, while a sound is chosen */
    this.preview = null;
    /** @type {import("./controls.js").Controls | null} what is assigned to an action goes no further */
    this.controls = null;
    /** @type {Map<string, {at: number, timer: number}>} when each controller was told of last */
    this.moved = new Map();
    /** @type {Set<string>} devices that have sent something, and have not gone since */
    this.devices = new Set();
    /** whether what is played here counts: on one page alone, else each press would be two */
    this.live = false;
    this.flood = new Flood((device) => this.dispatchEvent(new CustomEvent("flood", { detail: device })));
  }

  /**
   * @param {string} device its name
   * @param {number[]} message the bytes of a channel message of MIDI 1.0
   * @param {number} own when it happened: the page's own time in ms
   */
  receive(device, [status, data1, data2], own) {
    if (!this.flood.admits(device, [status, data1, data2], own)) {
      return;
    }
    this.devices.add(device);
    this.dispatchEvent(new CustomEvent("heard", { detail: device }));
    if (!this.live) {
      this.dispatchEvent(new CustomEvent("elsewhere"));
      return;
    }
    if (this.controls?.take(device, [status, data1, data2], own)) {
      return;
    }
    const channel = status & 0x0f;
    const kind = status & 0xf0;
    if (kind === NOTE_ON && data2 > 0) {
      this.#press(device, channel, data1, data2, own);
    } else if (kind === NOTE_OFF || kind === NOTE_ON) {
      this.#release(keyOf(device, channel, data1), own);
    } else if (kind === CONTROL_CHANGE && data1 === SUSTAIN) {
      this.#foot(device, channel, data2, own);
    } else if (kind === CONTROL_CHANGE && data1 < FIRST_CHANNEL_MODE && !BANK_SELECT.includes(data1)) {
      this.#move(device, channel, 0, data1, data2, own);
    } else if (kind === PITCH_BEND) {
      this.#move(device, channel, 1, 0, data1 + 128 * data2, own);
    } else if (kind === CHANNEL_PRESSURE) {
      this.#move(device, channel, 2, 0, data1, own);
    } else if (kind === KEY_PRESSURE) {
      this.#pressure(device, channel, data1, data2, own);
    }
  }

  /** @param {boolean} live whether what is played here counts from now on; what is held is let go where not */
  setLive(live) {
    if (!live) {
      [...this.down.keys()].forEach((key) => this.#release(key, performance.now()));
    }
    this.live = live;
  }

  /** All keys of a device come up. */
  gone(device) {
    this.devices.delete(device);
    for (const [key, held] of [...this.down]) {
      if (held.device === device) {
        this.#release(key, performance.now());
      }
    }
  }

  /** The parts on which what comes from there is heard now: on which hands are, the host says. */
  #hearing(device, channel) {
    return this.state.hears.filter((heard) => listens(heard, device, channel));
  }

  #press(device, channel, pitch, velocity, own) {
    const key = keyOf(device, channel, pitch);
    this.#release(key, own);
    const preview = this.preview !== null;
    const sounds = preview ? [[PREVIEW, pitch, velocity]] : this.#soundsOf(device, channel, pitch, velocity);
    const told = !preview && this.state.armedPart !== undefined;
    this.down.set(key, { device, channel, pitch, sounds, told });
    for (const [part, sounded, loud, offset = 0] of sounds) {
      this.sound.down(part, sounded, loud, this.connection.clock.at(own) - offset * 1000);
    }
    if (told) {
      this.connection.do({ do: "keyDown", device, channel, pitch, velocity }, own);
    }
    this.#tell(pitch, velocity);
  }

  /** What a key sounds as on each part: the part's own transposition and velocity. */
  #soundsOf(device, channel, pitch, velocity) {
    return this.#hearing(device, channel)
      .filter((heard) => heard.keys && takes(heard, pitch))
      .map((heard) => [heard.part, pitch + heard.transpose, heard.velocity ?? velocity, heard.offset])
      .filter(([, sounded]) => sounded >= 0 && sounded <= 127);
  }

  #release(key, own) {
    const held = this.down.get(key);
    if (!held) {
      return;
    }
    const { device, channel, pitch, sounds, told } = held;
    this.down.delete(key);
    sounds.forEach(([part, sounded]) => this.sound.up(part, sounded));
    if (told) {
      this.connection.do(
        pitch === PEDAL
          ? { do: "sustain", device, channel, value: 0 }
          : { do: "keyUp", device, channel, pitch },
        own,
      );
    }
    this.#tell(pitch, 0);
  }

  #foot(device, channel, value, own) {
    const key = keyOf(device, channel, PEDAL);
    if (value < SUSTAIN) {
      this.#release(key, own);
    } else if (!this.down.has(key)) {
      const sounds = this.#hearing(device, channel).map(({ part }) => [part, PEDAL]);
      this.down.set(key, { device, channel, pitch: PEDAL, sounds, told: true });
      sounds.forEach(([part]) => this.sound.down(part, PEDAL, 127));
      this.connection.do({ do: "sustain", device, channel, value }, own);
    }
  }

  #pressure(device, channel, pitch, value, own) {
    const held = this.down.get(keyOf(device, channel, pitch));
    if (held && value > 0) {
      held.sounds.forEach(([part, sounded]) => this.sound.press(part, sounded, value));
      this.connection.do({ do: "keyPressure", device, channel, pitch, value }, own);
    }
  }

  /** What is thinned out is told a moment later, so that the value arrived at is not lost. */
  #move(device, channel, kind, number, value, own) {
    const name = `${device} ${channel} ${kind} ${number}`;
    const before = this.moved.get(name);
    clearTimeout(before?.timer);
    const wait = before ? before.at + THINNED - performance.now() : 0;
    if (wait > 0) {
      const timer = setTimeout(() => this.#move(device, channel, kind, number, value, own), wait);
      this.moved.set(name, { at: before.at, timer });
      return;
    }
    this.moved.set(name, { at: performance.now(), timer: 0 });
    this.#hearing(device, channel).forEach(({ part }) => this.sound.move(part, kind, number, value));
    const controller = ["", "bend", "pressure"][kind] || String(number);
    this.connection.do({ do: "moveController", device, channel, controller, value }, own);
  }

  #tell(pitch, velocity) {
    this.dispatchEvent(new CustomEvent("played", { detail: { pitch, velocity } }));
  }
}

/** Whether a part takes what comes from a device on a channel; of keys, those in its range. */
function listens({ devices, channels }, device, channel) {
  return (
    (devices.length === 0 || devices.includes(device)) &&
    (channels.length === 0 || channels.includes(channel))
  );
}

function takes({ lowest, highest }, pitch) {
  return pitch >= lowest && pitch <= highest;
}

function keyOf(device, channel, pitch) {
  return `${device} ${channel} ${pitch}`;
}
