/**
 * Server time on this page: microseconds, from the round trips of pings. The fastest of the last
 * round trips is believed; the estimate is slewed to it, so that time never runs backwards.
 */

const REMEMBERED = 12;

/** The estimate moves towards the measurement by this part of the error each time. */
const SLEW = 0.25;

/** Beyond this the error is made good at once: the machine has slept. Microseconds. */
const STEP = 200_000;

export class ServerClock {
  constructor() {
    /** @type {{trip: number, offset: number}[]} */
    this.trips = [];
    /** @type {number | null} microseconds to add to the page's own time */
    this.offset = null;
  }

  /**
   * A ping has come back.
   *
   * @param {number} sent the page's own time when it left, in ms, as `performance.now()` gives it
   * @param {number} received the same, when it came back
   * @param {number} server server time in microseconds when it was answered
   */
  pong(sent, received, server) {
    const offset = server - ((sent + received) / 2) * 1000;
    this.trips = [...this.trips, { trip: received - sent, offset }].slice(-REMEMBERED);
    const best = this.trips.reduce((a, b) => (b.trip < a.trip ? b : a));
    const error = best.offset - (this.offset ?? NaN);
    const first = this.trips.length <= 4;
    this.offset = first || !(Math.abs(error) < STEP) ? best.offset : this.offset + error * SLEW;
  }

  /** @returns {boolean} whether it knows the time well enough to go by it */
  get isSet() {
    return this.trips.length >= 3;
  }

  /** @returns {number} half the fastest round trip, in microseconds */
  get delivery() {
    return this.trips.length ? Math.min(...this.trips.map(({ trip }) => trip)) * 500 : 0;
  }

  /**
   * @param {number} own the page's own time in ms, as events carry it
   * @returns {number} whole microseconds of server time
   */
  at(own) {
    return Math.round(own * 1000 + (this.offset ?? 0));
  }

  /** @returns {number} the present instant in microseconds of server time */
  now() {
    return this.at(performance.now());
  }

  /**
   * @param {number} micros server time
   * @returns {number} the page's own time in ms
   */
  own(micros) {
    return (micros - (this.offset ?? 0)) / 1000;
  }
}
