package ancora.core.search;

/**
 * From where random searches begin, and how far they go. In {@code ./ancora test} each draws the
 * same samples on every run and machine. {@code ./ancora test --long} draws others, says the seed,
 * and goes further; {@code -Dancora.seed=N} draws those of a seed again. What a search finds
 * becomes a sample by name in the test that found it.
 */
public final class Search {

  /** What all searches begin from. */
  public static final long SEED = Long.getLong("ancora.seed", 1);

  /** Samples for each that a short search draws. */
  private static final double TIMES = Double.parseDouble(System.getProperty("ancora.search", "1"));

  private Search() {}

  /**
   * How many samples are drawn.
   *
   * @param few where the search is short, at least 1
   */
  public static int samples(int few) {
    return (int) Math.max(1, Math.min(Integer.MAX_VALUE, Math.round(few * TIMES)));
  }
}
