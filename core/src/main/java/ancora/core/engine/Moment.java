package ancora.core.engine;

import ancora.core.time.TempoMap;

/**
 * When a command is judged, and from when on it may be heard.
 *
 * @param stamp instant at which hand or foot acted, in microseconds of server time
 * @param audible first instant at which what follows from it can sound: stamp + D
 */
record Moment(long stamp, long audible) {

  static Moment of(Stage stage, long stamp) {
    return new Moment(stamp, stamp + stage.delayMicros());
  }

  long tick(TempoMap map) {
    return map.tickAt(stamp);
  }
}
