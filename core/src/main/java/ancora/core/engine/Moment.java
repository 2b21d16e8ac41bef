package ancora.core.engine;

import ancora.core.time.TempoMap;

/**
 * When a command is judged, and from when on it may be heard.
 *
 * @param stamp instant at which hand or foot acted, in microseconds of server time
 * @param audible first instant at which what follows from it can sound: stamp + D, and not before
 *     it has arrived
 */
record Moment(long stamp, long audible) {

  static Moment of(Stage stage, long stamp, long now) {
    return new Moment(stamp, Math.max(now, stamp + stage.delayMicros()));
  }

  long tick(TempoMap map) {
    return map.tickAt(stamp);
  }
}
