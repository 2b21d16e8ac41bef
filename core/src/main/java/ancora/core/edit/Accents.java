package ancora.core.edit;

import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.time.Meter;
import ancora.core.time.Ticks;

/** How loud a place of the bar is by itself (common practice): the downbeat most. */
public final class Accents {

  /** The first beat of a bar. */
  public static final int DOWNBEAT = 112;

  /** The other beats of the meter. */
  public static final int BEAT = 96;

  /** Halves of beats. */
  public static final int HALF = 80;

  /** What lies between. */
  public static final int BETWEEN = 72;

  private static final long SIXTEENTH = Ticks.PER_QUARTER / 4;

  private Accents() {}

  /**
   * The velocity of a note at a place, by the nearest sixteenth; halfway goes to the later one.
   *
   * @param place tick on the material's axis, whose tick 0 is a bar line
   * @param grid a line that swings counts as its straight one
   */
  public static int at(long place, Meter meter, InputGrid grid) {
    long straight = straight(place, meter, grid);
    long sixteenth = Math.floorMod(Ticks.nearest(straight, SIXTEENTH), meter.barTicks());
    if (sixteenth == 0) {
      return DOWNBEAT;
    }
    if (sixteenth % meter.beatTicks() == 0) {
      return BEAT;
    }
    return 2 * sixteenth % meter.beatTicks() == 0 ? HALF : BETWEEN;
  }

  /** Where a place of a swung pair would lie without swing: both halves are stretched alike. */
  private static long straight(long place, Meter meter, InputGrid grid) {
    if (grid.grid() == Grid.OFF || grid.swing() == 50) {
      return place;
    }
    long bar = Ticks.floor(place, meter.barTicks());
    long step = grid.grid().step();
    long pair = Ticks.floor(place - bar, 2 * step);
    double second = grid.grid().linePlace(1, grid.swing());
    double in = place - bar - pair;
    double unswung =
        in <= second ? in * step / second : step + (in - second) * step / (2 * step - second);
    return bar + pair + Ticks.round(unswung);
  }
}
