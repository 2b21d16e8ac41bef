/**
 * Where the click and each part go: with all, to a pair of outputs of their own where the sound card has more than two,
 * or to another sound device, on which a second audio thread plays the same plan by its own measurement of when it is
 * heard: so it is in time however late that device is. It is a matter of this machine, and kept by the browser.
 *
 * What goes to a device that is not there is heard nowhere: the click is not for the audience.
 *
 * Events: "change", "word" (detail: a sentence).
 */

import { kept } from "./kept.js";
import { CLICK } from "./mixer.js";
import { Sound } from "./sound.js";

export { CLICK };

const WITH_ALL = "";

export class Outputs extends EventTarget {
  /**
   * @param {import("./server-clock.js").ServerClock} clock
   * @param {Sound} sound
   * @param {string | number} show
   */
  constructor(clock, sound, show) {
    super();
    this.clock = clock;
    this.sound = sound;
    this.key = `ancora-outputs-${show}`;
    /** @type {Record<string, string>} by part, or {@link CLICK}: "pair N" or "device ID" */
    this.places = JSON.parse(kept.get(this.key) ?? "{}");
    /** @type {{id: string, name: string}[]} the devices that the browser tells of */
    this.devices = [];
    /** @type {Map<string, {sound: Sound, stop: () => void}>} the sound on each other device that something goes to */
    this.asides = new Map();
    navigator.mediaDevices?.addEventListener?.("devicechange", () => this.look());
    sound.addEventListener("began", () => this.#apply());
    sound.addEventListener("hushed", () => [...this.asides.keys()].forEach((id) => this.#end(id)));
    this.look();
  }

  /** @returns {{value: string, words: string}[]} all there is to choose from */
  get choices() {
    const pairs = Array.from({ length: this.pairCount - 1 }, (_, i) => ({
      value: `pair ${i + 1}`,
      words: `outputs ${2 * i + 3} and ${2 * i + 4}`,
    }));
    const devices = this.devices.map(({ id, name }) => ({ value: `device ${id}`, words: name }));
    const all = [{ value: WITH_ALL, words: "with all" }, ...pairs, ...devices];
    const gone = [...new Set(Object.values(this.places))].filter(
      (place) => !all.some(({ value }) => value === place),
    );
    return [...all, ...gone.map((value) => ({ value, words: "an output that is not there" }))];
  }

  get pairCount() {
    return this.sound.mixer?.pairCount ?? 1;
  }

  /** @returns {string} what there is, in a sentence */
  get words() {
    if (!this.sound.mixer) {
      return "Touch the page, or press a key, for sound: then the outputs are known.";
    }
    const several = this.pairCount > 1;
    const here = several
      ? `This sound card has ${2 * this.pairCount} outputs.`
      : "This sound card has two outputs: something of its own needs another device.";
    const { breaks } = this.sound;
    const times = breaks === 1 ? "once" : `${breaks} times`;
    const broken = breaks ? ` This machine has broken the sound off ${times}: end other programs on it.` : "";
    return `${here}${this.devices.length ? "" : " Other devices have not been looked for."}${broken}`;
  }

  /** @param {number} of a part, or {@link CLICK} @returns {string} */
  placeOf(of) {
    return this.places[of] ?? WITH_ALL;
  }

  /**
   * @param {number} of a part, or {@link CLICK}
   * @param {string} place one of the choices
   */
  set(of, place) {
    if (place === WITH_ALL) {
      delete this.places[of];
    } else {
      this.places[of] = place;
    }
    kept.set(this.key, JSON.stringify(this.places));
    this.#apply();
  }

  /** Asks the browser which devices there are; it names them to who may hear, or may choose. */
  async find() {
    try {
      const heard = await navigator.mediaDevices.getUserMedia({ audio: true });
      heard.getTracks().forEach((track) => track.stop());
    } catch {
      this.#say("The browser does not name its sound devices: allow it to, then look again.");
    }
    await this.look();
  }

  /** Devices may have come or gone. */
  async look() {
    const all = await Promise.resolve(navigator.mediaDevices?.enumerateDevices?.()).catch(() => []);
    const before = this.devices;
    this.devices = (all ?? [])
      .filter(({ kind, deviceId }) => kind === "audiooutput" && deviceId && deviceId !== "default")
      .map(({ deviceId, label }, i) => ({ id: deviceId, name: label || `device ${i + 1}` }));
    for (const { id, name } of before) {
      if (!this.#isThere(id) && Object.values(this.places).includes(`device ${id}`)) {
        this.#say(`${name} has gone: what went there is silent until it is back, or is sent elsewhere.`);
      }
    }
    this.#apply();
  }

  /** @param {Parameters<Sound["setBalance"]>} balance as it is set on all devices */
  setBalance(...balance) {
    this.balance = balance;
    for (const [id, { sound }] of this.asides) {
      sound.setBalance(...balance);
      sound.route(this.#routes(id));
    }
  }

  #isThere(device) {
    return this.devices.some(({ id }) => id === device);
  }

  #apply() {
    this.sound.route(this.#routes(""));
    const wanted = new Set(
      Object.values(this.places)
        .filter((place) => place.startsWith("device "))
        .map((place) => place.slice("device ".length)),
    );
    for (const id of [...this.asides.keys()]) {
      if (!wanted.has(id) || !this.#isThere(id)) {
        this.#end(id);
      }
    }
    for (const id of wanted) {
      if (this.balance && this.#isThere(id) && this.sound.isOn && !this.asides.has(id)) {
        this.#begin(id);
      }
      this.asides.get(id)?.sound.route(this.#routes(id));
    }
    this.dispatchEvent(new CustomEvent("change"));
  }

  /** @param {string} device "" for that of the machine @returns {Map<number, import("./mixer.js").Route>} */
  #routes(device) {
    const routes = new Map();
    const parts = this.balance?.[0].map(({ id }) => id) ?? [];
    for (const of of device ? [CLICK, ...parts] : Object.keys(this.places).map(Number)) {
      const place = this.placeOf(of);
      const here = device ? place === `device ${device}` : place.startsWith("pair ");
      if (!here) {
        routes.set(of, "nowhere");
      } else if (!device) {
        routes.set(of, Number(place.slice("pair ".length)));
      }
    }
    return routes;
  }

  /** A second audio thread plays what goes to another device. */
  async #begin(id) {
    const aside = new Sound(this.clock, id);
    const stop = this.sound.tellAlso((message) => aside.relay(message));
    this.asides.set(id, { sound: aside, stop });
    aside.addEventListener("failed", ({ detail }) => {
      this.#end(id);
      this.#say(detail);
    });
    aside.setBalance(...this.balance);
    aside.route(this.#routes(id));
    if (this.sound.plan) {
      aside.takeWholePlan(this.sound.plan);
    }
    await aside.start();
  }

  #end(id) {
    const { sound, stop } = this.asides.get(id);
    this.asides.delete(id);
    stop();
    sound.end();
  }

  #say(sentence) {
    this.dispatchEvent(new CustomEvent("word", { detail: sentence }));
  }
}
