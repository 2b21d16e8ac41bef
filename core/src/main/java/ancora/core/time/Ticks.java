package ancora.core.time;

/** Arithmetic on ticks, the unit of musical place: {@value #PER_QUARTER} to the quarter note. */
public final class Ticks {

  /** Ticks in a quarter note (PPQ). */
  public static final long PER_QUARTER = 960;

  /** Ticks in a whole note. */
  public static final long PER_WHOLE = 4 * PER_QUARTER;

  /** A tick after all others: the end of what has no end yet. */
  public static final long OPEN = Long.MAX_VALUE;

  private Ticks() {}

  /** Whether a number is no further from 0 than another; that of the farthest has no absolute. */
  public static boolean isWithin(long number, long most) {
    return number >= -most && number <= most;
  }

  /** Rounds to a whole number, halves upwards: floor(x + ½). */
  public static long round(double x) {
    return (long) Math.floor(x + 0.5);
  }

  /** The greatest multiple of {@code unit} that is no greater than {@code tick}. */
  public static long floor(long tick, long unit) {
    return Math.floorDiv(tick, unit) * unit;
  }

  /** The least multiple of {@code unit} that is no less than {@code tick}. */
  public static long ceil(long tick, long unit) {
    return -floor(-tick, unit);
  }

  /** The multiple of {@code unit} nearest to {@code tick}; halfway goes to the later one. */
  public static long nearest(long tick, long unit) {
    return floor(2 * tick + unit, 2 * unit) / 2;
  }
}
