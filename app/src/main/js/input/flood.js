/**
 * Keeps out the attacks of a broken device that sends more than hands and feet ever do. Releases are let in
 * whatever happens, so that nothing hangs; moves of controllers too, since the hub thins them and the value
 * arrived at is not to be lost.
 */

/** Messages of one device in a second: ten fingers, two feet and four knobs do not get there. */
const MOST = 600;

const SECOND = 1000;

export class Flood {
  /** @param {(device: string) => void} begins is told when a device begins to send too much */
  constructor(begins) {
    this.begins = begins;
    /** @type {Map<string, {since: number, count: number, flooding: boolean}>} */
    this.devices = new Map();
  }

  /**
   * @param {string} device
   * @param {number[]} message a channel message of MIDI 1.0
   * @param {number} own when it happened: the page's own time in ms
   * @returns {boolean} whether it is let in
   */
  admits(device, [status, , value], own) {
    const known = this.devices.get(device) ?? { since: own, count: 0, flooding: false };
    this.devices.set(device, known);
    if (own - known.since >= SECOND) {
      known.flooding &&= known.count > MOST;
      known.since = own;
      known.count = 0;
    }
    known.count++;
    if (known.count > MOST && !known.flooding) {
      known.flooding = true;
      this.begins(device);
    }
    const kind = status & 0xf0;
    const attack = (kind === 0x90 && value > 0) || kind === 0xa0;
    return known.count <= MOST || !attack;
  }
}
