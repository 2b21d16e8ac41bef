package ancora.core.record;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * How late what is played arrives, from taps with the click (rule 15): sixteen taps, of which the
 * last twelve count.
 *
 * @param taps how many taps there were
 * @param offset ms that taps came after the click, in the median, to a tenth; negative before it
 * @param spread ms from the lower quartile to the upper one
 */
public record OffsetMeasure(int taps, double offset, int spread) {

  /** So many taps are asked for. */
  public static final int TAPS = 16;

  /** So many of them count, the last ones. */
  public static final int COUNTED = 12;

  /** A wider spread tells nothing, in ms. */
  public static final int WIDEST = 40;

  /**
   * What some taps tell; empty while there are fewer than asked for.
   *
   * @param late for each tap, microseconds since the click nearest to it
   */
  public static Optional<OffsetMeasure> of(List<Double> late) {
    if (late.size() < TAPS) {
      return Optional.empty();
    }
    double[] last =
        late.subList(late.size() - COUNTED, late.size()).stream()
            .mapToDouble(Double::doubleValue)
            .toArray();
    Arrays.sort(last);
    double median = (last[COUNTED / 2 - 1] + last[COUNTED / 2]) / 2;
    double spread = last[COUNTED * 3 / 4] - last[COUNTED / 4];
    return Optional.of(
        new OffsetMeasure(
            late.size(), Math.round(median / 100) / 10.0, (int) Math.round(spread / 1000)));
  }

  /** Whether the taps agree well enough for the offset to be proposed. */
  public boolean isClear() {
    return spread <= WIDEST;
  }
}
