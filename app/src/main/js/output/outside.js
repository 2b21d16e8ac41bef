import { built } from "../house/built.js";
import { planWith } from "../player/changes.js";
import { Player } from "../player/player.js";
import { TempoMap } from "../player/tempo-map.js";
import { MidiClock } from "./midi-clock.js";
import { balance, choice, messageOf, silence } from "./midi-out.js";
import { SharedKeys } from "./shared-keys.js";

/**
 * Parts that sound on outside devices, and MIDI clock for them. It plays the same plan as the audio thread, a
 * little ahead: each message carries the time at which it is due, and the browser sends it then. A timer that is
 * late makes nothing late that is less late than the lead.
 */

/** Messages are handed over this long before they are due, in microseconds: what is cued later than that comes late. */
const AHEAD = 30_000;

/** From one handing over to the next, in ms. */
const EVERY = 8;

export class Outside {
  /**
   * @param {import("../house/server-clock.js").ServerClock} clock
   * @param {import("../input/midi.js").Midi} midi
   */
  constructor(clock, midi) {
    /** @type {(() => void) | null} stops the clock by which it sends */
    this.stopTicking = null;
    this.clock = clock;
    this.midi = midi;
    this.player = new Player();
    /** whether this page is the one that sounds */
    this.on = false;
    /** what has been handed over ends here, in microseconds of server time */
    this.until = 0;
    /** the last that was handed over is due then; between it and `until` nothing was */
    this.lastDue = 0;
    /** @type {Map<number, import("./midi-out.js").Output>} where each part sounds, of those that do so outside */
    this.outputs = new Map();
    /** @type {Map<string, MidiClock>} for each device that is sent clock */
    this.clocks = new Map();
    /** @type {Record<string, any> | null} what is to sound, as far as it is known */
    this.plan = null;
    /** @type {TempoMap | null} */
    this.map = null;
    /** @type {Map<number, {choice?: string, balance?: string}>} what each part's device has been told */
    this.told = new Map();
    this.keys = new SharedKeys();
    midi.addEventListener("devices", () => this.#look());
  }

  /** @param {import("../house/state.js").Part[]} parts as they stand */
  setParts(parts) {
    const next = new Map(parts.filter(({ output }) => output).map(({ id, output }) => [id, output]));
    for (const [part, output] of this.outputs) {
      const now = next.get(part);
      if (!now || now.device !== output.device || now.channel !== output.channel) {
        this.#leave(part, output, [...next.values()]);
        this.told.delete(part);
      }
    }
    this.outputs = next;
    this.#look();
  }

  /** @param {string[]} devices that are sent MIDI clock */
  setClockTo(devices) {
    for (const device of [...this.clocks.keys()].filter((name) => !devices.includes(name))) {
      this.clocks.delete(device);
    }
    for (const device of devices) {
      if (!this.clocks.has(device)) {
        this.clocks.set(device, new MidiClock());
      }
    }
    this.#look();
  }

  /**
   * @param {{output?: import("./midi-out.js").Output}} part
   * @returns {boolean} whether a part's own sound is silent, as it sounds on a device that is there
   */
  replaces({ output }) {
    return Boolean(output?.alone && this.midi.outputs.has(output.device));
  }

  /** @param {boolean} on whether this page is the one that sounds */
  setOn(on) {
    if (this.on && !on) {
      this.outputs.forEach((output) => this.#silence(output));
    }
    this.on = on;
    this.told.clear();
    this.#look();
  }

  /** @param {Record<string, any>} message what the audio thread is told, as `house/sound.js` has it */
  receive(message) {
    let byHand = false;
    if (message.plan || message.wholePlan) {
      if (!this.map) {
        // of a stage that stood still nothing is on its way but how it stopped: it need not wait for that
        this.until = this.lastDue;
      }
      const now = this.#present();
      this.plan = message.wholePlan ? planWith(null, message.wholePlan) : planWith(this.plan, message.plan);
      this.map = this.plan.rolling ? new TempoMap(this.plan.anchors) : null;
      this.player.setPlan(this.plan, now);
    } else if (message.panic) {
      this.player.panic(this.#present());
      this.outputs.forEach((output) => this.#silence(output));
    } else {
      const now = this.#present();
      byHand = this.player.takeHands(
        /** @type {import("../player/player.js").OfHands} */ (message),
        now,
        message.at ?? now,
      );
    }
    this.#send(this.player.pending.splice(0), byHand);
    this.#schedule();
    if (message.plan || message.wholePlan) {
      // what begins at once does not wait for the timer
      this.pump();
    }
  }

  /** Hands over what is due soon. */
  pump() {
    if (!this.#isWanted() || !this.clock.isSet) {
      return;
    }
    const from = this.#present();
    const until = Math.max(from, this.clock.now() + AHEAD);
    this.until = until;
    this.#turn(from, until);
    this.#send(this.player.advance(from, until), false);
    for (const [device, pulses] of this.clocks) {
      const port = this.midi.outputs.get(device);
      if (port) {
        pulses.follow(this.map);
        pulses.advance(from, until).forEach(({ micros, bytes }) => this.#sendAt(port, bytes, micros));
      }
    }
  }

  /** A part's device is told to choose what its clip has for it, where that enters. */
  #turn(from, until) {
    for (const [part, output] of this.outputs) {
      const port = this.midi.outputs.get(output.device);
      const told = this.told.get(part);
      if (port && told) {
        const next = choice(this.#chosen(part, until));
        const text = JSON.stringify(next);
        if (told.choice !== text) {
          told.choice = text;
          const at = Math.max(from, this.#turnsAt(part, until));
          next.forEach((message) => this.#sendAt(port, message, at));
        }
      }
    }
  }

  /** @returns {any[][]} [instant, sound] of each change of a part's sound before some instant */
  #changes(part, before) {
    const { sounds = [] } = this.plan?.parts.find((one) => one.part === part) ?? {};
    const { map } = this;
    return map
      ? sounds.map(([tick, sound]) => [map.microsOf(tick), sound]).filter(([at]) => at < before)
      : [];
  }

  #turnsAt(part, before) {
    return this.#changes(part, before).at(-1)?.[0] ?? 0;
  }

  /** Where a part sounds, and what is chosen there at an instant. */
  #chosen(part, before) {
    const sound = this.#changes(part, before).at(-1)?.[1];
    return { ...this.outputs.get(part), ...sound?.outside };
  }

  /** The instant from which on nothing has been handed over yet. */
  #present() {
    return Math.max(this.until, this.clock.now());
  }

  #isWanted() {
    const { outputs } = this.midi;
    const there = (device) => outputs.has(device);
    return (
      this.on &&
      ([...this.outputs.values()].some(({ device }) => there(device)) || [...this.clocks.keys()].some(there))
    );
  }

  /** The timer runs only while something outside wants it. */
  #schedule() {
    const wanted = this.#isWanted();
    if (wanted && !this.stopTicking) {
      this.stopTicking = ticks(() => this.pump());
    } else if (!wanted && this.stopTicking) {
      this.stopTicking();
      this.stopTicking = null;
    }
  }

  /** Devices may have come or gone, or may be wanted otherwise. */
  #look() {
    for (const [device, pulses] of this.clocks) {
      if (!this.midi.outputs.has(device)) {
        pulses.begin();
      }
    }
    for (const [part, output] of this.outputs) {
      const port = this.midi.outputs.get(output.device);
      if (!port) {
        this.told.delete(part);
      } else if (this.on) {
        /** @type {{choice?: string, balance?: string}} */
        const told = this.told.get(part) ?? {};
        this.told.set(part, told);
        tell(port, told, "choice", choice(this.#chosen(part, this.#present())));
        tell(port, told, "balance", balance(output));
      }
    }
    this.#schedule();
  }

  /** A part goes from a channel: what it sounds there ends, but not what others do that stay. */
  #leave(part, output, staying) {
    const shared = staying.some(
      ({ device, channel }) => device === output.device && channel === output.channel,
    );
    const port = this.midi.outputs.get(output.device);
    if (!shared) {
      this.#silence(output);
    } else if (this.on && port) {
      const at = this.#present();
      const ends = this.keys.left(output, part, at).map((action) => messageOf(action, output));
      ends.forEach((message) => this.#sendAt(port, message, at));
    }
  }

  #silence({ device, channel }) {
    const port = this.midi.outputs.get(device);
    this.keys.clear({ device, channel });
    if (this.on && port) {
      // at once, and again after what is on its way already
      silence(channel).forEach((message) => port.send(message));
      const at = this.#present();
      silence(channel).forEach((message) => this.#sendAt(port, message, at));
    }
  }

  /** Hands are heard at once; all else after what is on its way already. */
  #send(actions, atOnce) {
    if (!this.on) {
      return;
    }
    for (const action of actions) {
      const output = this.outputs.get(action.part);
      const port = output && this.midi.outputs.get(output.device);
      for (const told of port ? this.keys.told(output, action) : []) {
        const message = messageOf(told, output);
        if (atOnce) {
          port.send(message);
        } else {
          this.#sendAt(port, message, told.micros);
        }
      }
    }
  }

  #sendAt(port, bytes, micros) {
    this.lastDue = Math.max(this.lastDue, micros);
    port.send(bytes, this.clock.own(micros));
  }
}

/** A device is told only what is otherwise than it was told before. */
function tell(port, told, what, messages) {
  const text = JSON.stringify(messages);
  if (told[what] !== text) {
    told[what] = text;
    messages.forEach((message) => port.send(message));
  }
}

/** Does something again and again, also while the page is not seen. @returns {() => void} stops it */
function ticks(act) {
  if (typeof Worker === "undefined") {
    const timer = setInterval(act, EVERY);
    return () => clearInterval(timer);
  }
  const ticker = new Worker(built("ticker"));
  ticker.onmessage = act;
  ticker.postMessage(EVERY);
  return () => ticker.terminate();
}
