import { MidiBytes } from "./midi-bytes.js";

/**
 * Outside devices, through Web MIDI: what they send goes the one way in. They may come and go in the middle of
 * a song; a device that goes leaves no key down.
 *
 * Events: "devices" (what is there has changed), "failed" (detail: a sentence, once).
 */
export class Midi extends EventTarget {
  /** @param {import("./hub.js").InputHub} hub */
  constructor(hub) {
    super();
    this.hub = hub;
    /** @type {Map<string, {name: string, input: object}>} */
    this.inputs = new Map();
    /** @type {Map<string, MIDIOutput>} devices that can be sent to, by name */
    this.outputs = new Map();
    this.asked = false;
  }

  /** Asks for the devices. Where there are none to be had, that is said once, and all else works. */
  async open() {
    if (this.asked) {
      return;
    }
    this.asked = true;
    if (!navigator.requestMIDIAccess) {
      this.#fail(
        globalThis.isSecureContext
          ? "No MIDI devices here: play on screen and on this keyboard, or use another browser."
          : "No MIDI devices by plain http: play on screen and on this keyboard, or open this page by https.",
      );
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
    this.outputs.clear();
    for (const output of access.outputs.values()) {
      if (output.state !== "disconnected") {
        this.outputs.set(unlike(output.name || "MIDI output", [...this.outputs.keys()]), output);
      }
    }
    this.dispatchEvent(new CustomEvent("devices"));
  }

  /** @returns {string[]} names of the devices that send */
  get names() {
    return [...this.inputs.values()].map(({ name }) => name);
  }

  #listen(id, input) {
    const name = unlike(input.name || "MIDI input", this.names);
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

/** Two devices of one name are told apart. */
function unlike(given, taken) {
  const stem = given.slice(0, 70);
  let name = stem;
  for (let i = 2; taken.includes(name); i++) {
    name = `${stem} ${i}`;
  }
  return name;
}
