package ancora.core.time;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Taps of a foot or finger on the beats of the click, from which a tempo is read: the median of the
 * last four intervals. A pause of over 3.5 s starts afresh.
 *
 * @param stamps instants of the latest taps in microseconds, at most five
 */
public record Taps(List<Long> stamps) {

  /** No tap yet. */
  public static final Taps NONE = new Taps(List.of());

  /** An interval longer than this starts afresh, in microseconds. */
  public static final long LONGEST_INTERVAL = 3_500_000;

  private static final int MOST_INTERVALS = 4;

  public Taps {
    stamps = List.copyOf(stamps);
  }

  /** These taps and one more; one that is not later than the last starts afresh. */
  public Taps with(long stampMicros) {
    if (!stamps.isEmpty()) {
      long interval = stampMicros - stamps.get(stamps.size() - 1);
      if (interval <= 0 || interval > LONGEST_INTERVAL) {
        return new Taps(List.of(stampMicros));
      }
    }
    List<Long> next = new ArrayList<>(stamps);
    next.add(stampMicros);
    return new Taps(next.subList(Math.max(0, next.size() - MOST_INTERVALS - 1), next.size()));
  }

  /**
   * The tempo tapped; empty before the second tap. A tempo out of reach gives the nearest allowed.
   *
   * @param clickTicks ticks between two beats of the click
   */
  public Optional<Tempo> tempo(long clickTicks) {
    if (stamps.size() < 2) {
      return Optional.empty();
    }
    long[] intervals = new long[stamps.size() - 1];
    for (int i = 0; i < intervals.length; i++) {
      intervals[i] = stamps.get(i + 1) - stamps.get(i);
    }
    double microsPerClick = Median.of(intervals);
    return Optional.of(Tempo.nearest(60e6 * clickTicks / Ticks.PER_QUARTER / microsPerClick));
  }
}
