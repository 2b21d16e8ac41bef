package ancora.core.note;

import ancora.core.Refusal;
import ancora.core.time.Meter;
import ancora.core.time.Ticks;
import io.soabase.recordbuilder.core.RecordBuilder;

/**
 * How a part's playing is moved to a grid as it comes in. Never destructive: notes keep the onset
 * that was played beside the one that was meant.
 *
 * @param grid the lines
 * @param strength how far notes are moved towards the nearest line, 0 to 100 %
 * @param swing place of the second line in each pair, 50 (straight) to 75 %
 * @param endsToo whether the ends of notes are moved as well, at least one step from the start
 */
@RecordBuilder
public record InputGrid(Grid grid, int strength, double swing, boolean endsToo)
    implements InputGridBuilder.With {

  /** Sixteenths, all the way, straight. */
  public static final InputGrid SIXTEENTHS = of(Grid.SIXTEENTH);

  /** Notes stay where they are played. */
  public static final InputGrid OFF = of(Grid.OFF);

  public InputGrid {
    Refusal.unless(
        strength >= 0 && strength <= 100,
        "A strength of %s %% is out of reach: use 0 to 100 %%.",
        strength);
    Refusal.unless(
        swing >= 50 && swing <= 75, "A swing of %s %% is out of reach: use 50 to 75 %%.", swing);
  }

  /** A grid at full strength without swing. */
  public static InputGrid of(Grid grid) {
    return new InputGrid(grid, 100, 50, false);
  }

  /** The meant tick of a played one: t + round(strength × (nearest line − t)). */
  public long meant(long tick, Meter meter) {
    long line = grid.nearestLine(tick, meter, swing);
    return tick + Ticks.round(strength / 100.0 * (line - tick));
  }

  /**
   * The length of a note once it is released.
   *
   * @param playedOn tick of the key going down
   * @param playedOff tick of the key coming up
   * @param meantOn the onset that was meant
   */
  public long length(long playedOn, long playedOff, long meantOn, Meter meter) {
    if (endsToo && grid != Grid.OFF) {
      return Math.max(grid.step(), meant(playedOff, meter) - meantOn);
    }
    return Math.max(Note.SHORTEST, playedOff - playedOn);
  }
}
