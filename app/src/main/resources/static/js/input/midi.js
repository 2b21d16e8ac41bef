import { MidiBytes } from "./midi-bytes.js";

/**
 * Outside devices, through Web MIDI: what they send goes the one way in. They may come and go in the middle of
 * a song; a device that goes leaves no key down.
 *
 * Events: "devices" (detail: names of the inputs that are there), "failed" (detail: a sentence, once).
 */
export class Midi extends EventTarget {
  /** @param {import("./hub.js").InputHub} hub */
  constructor(hub) {
    super();
    this.hub = hub;
    /** @type {Map<string, {name: string, input: object}>} */
    this.inputs = new Map();
    this.asked = false;
  }

  /** Asks for the devices. Where there are none to be had, that is said once, and all else works. */
  async open() {
    if (this.asked) {
      return;
    }
    this.asked = true;
    if (!navigator.requestMIDIAccess) {
      this.#fail("No MIDI devices here: play on screen and on this keyboard, or use another browser.");
      return;
    }
    try {
      const access = await navigator.requestMIDIAccess({ sysex: false });
      access.addEventListener("statechange", () => this.#look(access));
      this.#look(access);
    } catch {
      this.#fail("No MIDI devices: allow them in the browser, then reload.");
    }
  }

  #look(access) {
    const there = new Map();
    for (const input of access.inputs.values()) {
      if (input.state !== "disconnected") {
        there.set(input.id, input);
      }
    }
    for (const [id, { name }] of this.inputs) {
      if (!there.has(id)) {
        this.inputs.delete(id);
        this.hub.gone(name);
        this.hub.connection.do({ do: "deviceGone", device: name });
      }
    }
    for (const [id, input] of there) {
      if (!this.inputs.has(id)) {
        this.#listen(id, input);
      }
    }
    const names = [...this.inputs.values()].map(({ name }) => name);
    this.dispatchEvent(new CustomEvent("devices", { detail: names }));
  }

  /** Two devices of one name are told apart. */
  #listen(id, input) {
    const taken = new Set([...this.inputs.values()].map(({ name }) => name));
    const given = (input.name || "MIDI input").slice(0, 70);
    let name = given;
    for (let i = 2; taken.has(name); i++) {
      name = `${given} ${i}`;
    }
    this.inputs.set(id, { name, input });
    let at = 0;
    const bytes = new MidiBytes((message) => this.hub.receive(name, message, at));
    input.onmidimessage = ({ data, timeStamp }) => {
      at = timeStamp || performance.now();
      bytes.take(data);
    };
  }

  #fail(sentence) {
    this.dispatchEvent(new CustomEvent("failed", { detail: sentence }));
  }
}
