package ancora.core.record;

import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;

/** Where a recording begins that is asked for while the transport runs. */
public final class EntryPoint {

  private EntryPoint() {}

  /**
   * The tick at which what is asked for takes effect: the boundary just gone by if the press is
   * forgiven, else the next one. Nothing begins before tick 0, where the count-in ends.
   *
   * @param stampMicros instant of the press
   */
  public static long of(
      long stampMicros, EntryUnit unit, Forgiveness forgiveness, Meter meter, TempoMap map) {
    long press = map.tickAt(stampMicros);
    long ticks = unit.ticks(meter);
    long boundary = Ticks.floor(press, ticks);
    boolean counts =
        boundary == press
            || unit == EntryUnit.NOW
            || forgiveness.covers(boundary, stampMicros, ticks, map);
    return Math.max(0, counts ? boundary : boundary + ticks);
  }
}
