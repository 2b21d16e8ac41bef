/**
 * The stand-in player: sends the messages that the server worked out, each at its time, as a device
 * would. A timer that is late does no harm: a message carries the time at which it happened.
 */
export class StandIn {
  /**
   * @param {import("./hub.js").InputHub} hub
   * @param {import("../house/server-clock.js").ServerClock} clock
   */
  constructor(hub, clock) {
    this.hub = hub;
    this.clock = clock;
    this.round = 0;
  }

  /** @param {number[][]} messages [microseconds of server time, status, data 1, data 2] */
  play(messages) {
    const round = ++this.round;
    const next = (i) => {
      if (i === messages.length || round !== this.round) {
        return;
      }
      const [micros, ...bytes] = messages[i];
      const own = this.clock.own(micros);
      setTimeout(
        () => {
          if (round === this.round) {
            this.hub.receive(DEVICE, bytes, own);
            next(i + 1);
          }
        },
        Math.max(0, own - performance.now()),
      );
    };
    next(0);
  }

  /** Takes its hands off the keys. */
  stop() {
    this.round++;
    this.hub.gone(DEVICE);
  }
}

const DEVICE = "stand-in player";
