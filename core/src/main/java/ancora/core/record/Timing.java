package ancora.core.record;

import ancora.core.note.InputGrid;
import ancora.core.time.Forgiveness;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;

/**
 * How what was played lies in time: what of it counts, and on which bars.
 *
 * @param since the instant from which on it counts, in microseconds; what is early for tick 0
 *     counts too
 * @param until the instant before which it counts
 * @param now the present tick, or the last: keys that are down sound until then
 */
public record Timing(
    InputGrid grid,
    Forgiveness forgiveness,
    Meter meter,
    TempoMap map,
    double since,
    double until,
    long now) {

  /** The same, of what was played before an instant. */
  public Timing endedBy(double instant) {
    return new Timing(grid, forgiveness, meter, map, since, Math.min(until, instant), now);
  }

  long tick(Played played) {
    return map.tickAt(played.onMicros());
  }

  /** How early a note may come that is meant for a line. */
  long early(long line) {
    return EarlyNotes.toleranceAtStart(grid, line, meter, map);
  }
}
