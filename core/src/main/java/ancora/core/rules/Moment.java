package ancora.core.rules;

import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;

/**
 * When a command is judged, and from when on it may be heard.
 *
 * @param stamp instant at which hand or foot acted, in microseconds of server time
 * @param audible first instant at which what follows from it can sound: stamp + D, and not before
 *     it has arrived
 * @param now the instant at which it has arrived
 */
public record Moment(long stamp, long audible, long now) {

  public static Moment of(Stage stage, long stamp, long now) {
    return new Moment(stamp, Math.max(now, stamp + stage.delayMicros()), now);
  }

  /** The tick at which it is judged. */
  public long tick(TempoMap map) {
    return map.tickAt(stamp);
  }

  /** The last tick that is over. */
  public long over(TempoMap map) {
    return map.lastTickBy(now);
  }
}
