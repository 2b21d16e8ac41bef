package ancora.core.record;

import ancora.core.note.InputGrid;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;

/**
 * How early a note may be and still belong to the boundary that follows it: half a grid step, or 80
 * ms if that is more. The 80 ms never reach further than two thirds of a step, so that at a fast
 * tempo the last sixteenth of a bar is not taken for the next downbeat.
 */
public final class EarlyNotes {

  /** At least this early, in microseconds. */
  public static final long LEAST_MICROS = 80_000;

  private EarlyNotes() {}

  /**
   * The tolerance before a boundary, in ticks.
   *
   * @param boundary the tick that notes may come early for
   */
  public static long tolerance(InputGrid grid, long boundary, TempoMap map) {
    long least = map.ticksBefore(boundary, LEAST_MICROS);
    long step = grid.grid().step();
    return step == 0 ? least : Math.max(step / 2, Math.min(least, Ticks.round(step * 2 / 3.0)));
  }
}
