package ancora.core.time;

import java.util.Arrays;

/** The middle of a set of numbers. */
public final class Median {

  private Median() {}

  /** The middle value, or the mean of the two middle ones; refuses an empty set. */
  public static double of(long... values) {
    if (values.length == 0) {
      throw new IllegalArgumentException("no values");
    }
    long[] sorted = values.clone();
    Arrays.sort(sorted);
    int middle = sorted.length / 2;
    return sorted.length % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2.0;
  }
}
