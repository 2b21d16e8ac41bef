/**
 * The stand-in plays a whole piece: the server has worked out what it does on which tick. It asks for each
 * thing as a performer's foot would, on its time; a timer that is late does no harm.
 */
export class Concert extends EventTarget {
  /**
   * @param {import("../house/connection.js").Connection} connection
   * @param {import("../house/state.js").State} state
   * @param {import("../house/server-clock.js").ServerClock} clock
   */
  constructor(connection, state, clock) {
    super();
    this.connection = connection;
    this.state = state;
    this.clock = clock;
    /** @type {[number, object][]} what is still to be done, by rising tick */
    this.steps = [];
    this.timer = 0;
  }

  get isOn() {
    return this.steps.length > 0;
  }

  /** Begins, or breaks off. */
  toggle() {
    if (this.isOn) {
      this.stop();
      this.connection.do({ do: "stop" });
    } else {
      this.connection.ask({ concert: true });
    }
  }

  /** @param {[number, object][]} steps tick and command */
  play(steps) {
    this.steps = [...steps];
    this.begun = false;
    this.#go();
    this.#tell();
  }

  /** Leaves the stage to the performer. */
  stop() {
    clearTimeout(this.timer);
    this.steps = [];
    this.#tell();
  }

  /** The transport stands still again: somebody has stopped it. */
  look() {
    const { rolling } = this.state.transport;
    this.begun ||= rolling;
    if (this.isOn && this.begun && !rolling) {
      this.stop();
    }
  }

  #go() {
    clearTimeout(this.timer);
    while (this.steps.length && this.#isDue(this.steps[0][0])) {
      const [tick, command] = this.steps.shift();
      const own = tick < 0 ? performance.now() : this.clock.own(this.state.map.microsOf(tick));
      this.connection.do(command, own);
    }
    if (this.steps.length) {
      this.timer = setTimeout(() => this.#go(), 50);
    } else {
      this.#tell();
    }
  }

  #isDue(tick) {
    return tick < 0 || (this.state.map !== null && this.state.map.tickAt(this.clock.now()) >= tick);
  }

  #tell() {
    this.dispatchEvent(new Event("change"));
  }
}
