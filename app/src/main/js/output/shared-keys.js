/**
 * Parts that sound on one channel of one device share its keys: what one lets go of sounds on as long as
 * another holds it. The same goes for the sustain pedal.
 *
 * @typedef {import("../player/voices.js").Action} Action
 */

const SUSTAIN = 64;
const DOWN = 64;

export class SharedKeys {
  constructor() {
    /** @type {Map<string, Map<number | "pedal", Set<number>>>} by channel: for each key the parts that hold it */
    this.channels = new Map();
  }

  /**
   * What the device is to be told where a part does something.
   *
   * @param {{device: string, channel: number}} output where the part sounds
   * @param {Action} action
   * @returns {Action[]} nothing, it, or the key's end before it
   */
  told({ device, channel }, action) {
    const { kind, part, pitch, velocity } = action;
    if (kind === "control" && pitch === SUSTAIN) {
      const holders = this.#holders(device, channel, "pedal");
      return hold(holders, part, velocity >= DOWN) ? [action] : [];
    }
    if (kind !== "on" && kind !== "off") {
      return [action];
    }
    const holders = this.#holders(device, channel, pitch);
    const others = [...holders].some((holder) => holder !== part);
    const free = hold(holders, part, kind === "on");
    if (kind === "off") {
      return free ? [action] : [];
    }
    return others ? [{ ...action, kind: "off", velocity: 0 }, action] : [action];
  }

  /**
   * What the device is to be told where a part goes from a channel on which others stay.
   *
   * @returns {Action[]} the ends of what it alone holds
   */
  left({ device, channel }, part, micros) {
    const keys = [...(this.channels.get(`${device} ${channel}`) ?? [])];
    return keys
      .filter(([, holders]) => holders.has(part) && hold(holders, part, false))
      .map(([key]) =>
        key === "pedal"
          ? { kind: "control", part, pitch: SUSTAIN, velocity: 0, micros }
          : { kind: "off", part, pitch: key, velocity: 0, micros },
      );
  }

  /** Nothing is held on a channel any more. */
  clear({ device, channel }) {
    this.channels.delete(`${device} ${channel}`);
  }

  #holders(device, channel, key) {
    const name = `${device} ${channel}`;
    if (!this.channels.has(name)) {
      this.channels.set(name, new Map());
    }
    const keys = this.channels.get(name);
    if (!keys.has(key)) {
      keys.set(key, new Set());
    }
    return keys.get(key);
  }
}

/** Takes a part among those that hold, or away; whether the others neither hold it. */
function hold(holders, part, holds) {
  const others = [...holders].some((holder) => holder !== part);
  if (holds) {
    holders.add(part);
  } else {
    holders.delete(part);
  }
  return !others;
}
