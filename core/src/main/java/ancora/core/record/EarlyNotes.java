package ancora.core.record;

import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;

/**
 * How early a note may be and still belong to the boundary that follows it: with a grid half the
 * way from the last grid line before the boundary to it, swing included; without one 80 ms. What
 * counts is the stamp, however late a note is delivered.
 */
public final class EarlyNotes {

  /** Without a grid, before a first recording and before a take, in microseconds. */
  public static final long MICROS = 80_000;

  /** The same elsewhere; but never more than half a sixteenth. */
  private static final long MICROS_ONTO = 40_000;

  private static final long MOST_ONTO = Ticks.PER_QUARTER / 8;

  private EarlyNotes() {}

  /**
   * The tolerance before a boundary, in ticks.
   *
   * @param boundary the tick that notes may come early for
   */
  public static long tolerance(InputGrid grid, long boundary, Meter meter, TempoMap map) {
    return tolerance(grid.grid(), grid.swing(), boundary, meter, map);
  }

  /**
   * The tolerance before a line at which something begins to be recorded onto a loop that sounds,
   * but for takes.
   */
  public static long toleranceOnto(InputGrid grid, long line, Meter meter, TempoMap map) {
    return grid.grid() == Grid.OFF
        ? Math.min(MOST_ONTO, map.ticksBefore(line, MICROS_ONTO))
        : tolerance(grid, line, meter, map);
  }

  /**
   * The tolerance at a recording's own start, where nothing before it sounds: the grid counts as no
   * finer than sixteenths there.
   */
  public static long toleranceAtStart(InputGrid grid, long start, Meter meter, TempoMap map) {
    Grid coarse =
        switch (grid.grid()) {
          case THIRTY_SECOND, SIXTY_FOURTH -> Grid.SIXTEENTH;
          case THIRTY_SECOND_TRIPLET -> Grid.SIXTEENTH_TRIPLET;
          default -> grid.grid();
        };
    return tolerance(coarse, grid.swing(), start, meter, map);
  }

  private static long tolerance(Grid grid, double swing, long boundary, Meter meter, TempoMap map) {
    return grid == Grid.OFF
        ? map.ticksBefore(boundary, MICROS)
        : (boundary - grid.lineBefore(boundary, meter, swing)) / 2;
  }
}
