package ancora.core.note;

import ancora.core.Refusal;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.stream.Stream;

/**
 * How held keys are sounded again on every line of a grid.
 *
 * @param grid the lines
 * @param swing place of the second line in each pair, 50 (straight) to 75 %
 */
public record NoteRepeat(Grid grid, double swing) {

  /** Without swing. */
  public static final double STRAIGHT = 50;

  /** The grids on which keys can be repeated, in the order of their numbers, from 1. */
  public static final List<Grid> GRIDS =
      Stream.of(Grid.values()).filter(grid -> grid != Grid.OFF).toList();

  /** A press this soon after a line counts for it, in microseconds. */
  public static final long SOON = 60_000;

  public NoteRepeat {
    Refusal.unless(grid != Grid.OFF, "Choose a grid for the repeat: 1/4 to 1/64, or triplets.");
    Refusal.unless(
        swing >= 50 && swing <= 75, "A swing of %s %% is out of reach: use 50 to 75 %%.", swing);
  }

  /** Half a step: how long a repeated note lasts, in ticks. */
  public long length() {
    return grid.step() / 2;
  }

  /** The first line at a tick or after it. */
  public long lineFrom(long tick, Meter meter) {
    return grid.lineFrom(tick, meter, swing);
  }

  /**
   * The first line that a key pressed at a tick counts for: the one just gone by, if the press
   * comes no more than half a step and 60 ms after it, else the next.
   */
  public long firstLine(long pressed, Meter meter, TempoMap map) {
    long soon = Math.min(grid.step() / 2, map.ticksBefore(pressed, SOON));
    return lineFrom(pressed - soon, meter);
  }
}
