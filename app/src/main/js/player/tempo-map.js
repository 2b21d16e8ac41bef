/** Two instants no further apart are one, in microseconds: less than any two of a clock. */
const SAME_MICROS = 0.5;

/**
 * Which tick is heard when. The page only reads the map that the engine made.
 */
export class TempoMap {
  /**
   * @param {number[][]} anchors [tick, microseconds of server time, microseconds per tick], by rising tick
   */
  constructor(anchors) {
    this.anchors = anchors;
  }

  /**
   * @param {number} tick
   * @returns {number} microseconds of server time at which it is heard
   */
  microsOf(tick) {
    let i = this.anchors.length - 1;
    while (i > 0 && this.anchors[i][0] > tick) {
      i--;
    }
    const [at, micros, perTick] = this.anchors[i];
    return micros + (tick - at) * perTick;
  }

  /**
   * @param {number} micros microseconds of server time
   * @returns {number} the place heard then, with its fraction
   */
  tickAt(micros) {
    let i = this.anchors.length - 1;
    while (i > 0 && this.anchors[i][1] > micros) {
      i--;
    }
    const [at, from, perTick] = this.anchors[i];
    return at + (micros - from) / perTick;
  }

  /**
   * Whether this is of another time that the music goes: a map of the same time begins on a tick which
   * the map before heard at the same instant, however often the tempo has changed since.
   *
   * @param {TempoMap} before
   * @returns {boolean}
   */
  isAnewAfter(before) {
    const [tick, micros] = this.anchors[0];
    return Math.abs(before.microsOf(tick) - micros) > SAME_MICROS;
  }

  /**
   * @param {number} micros microseconds of server time
   * @returns {number} the last whole tick heard before that instant
   */
  lastTickBefore(micros) {
    let i = this.anchors.length - 1;
    while (i > 0 && this.anchors[i][1] > micros) {
      i--;
    }
    const anchor = this.anchors[i];
    let tick = Math.ceil(anchor[0] + (micros - anchor[1]) / anchor[2]);
    while (!this.isBefore(tick, micros)) {
      tick--;
    }
    while (this.isBefore(tick + 1, micros)) {
      tick++;
    }
    return tick;
  }

  /**
   * @param {number} tick
   * @param {number} micros microseconds of server time
   * @returns {boolean} whether the tick is heard before that instant
   */
  isBefore(tick, micros) {
    let i = this.anchors.length - 1;
    while (i > 0 && this.anchors[i][0] > tick) {
      i--;
    }
    const anchor = this.anchors[i];
    return anchor[1] + (tick - anchor[0]) * anchor[2] < micros;
  }
}
