package ancora.core.analysis;

import java.util.Arrays;
import java.util.List;
import java.util.OptionalInt;

/**
 * Where bars begin: by what stands out, and by what comes again.
 *
 * @param beats of a bar
 * @param first the beat of the first bar line, at the first moment or before it
 */
record Bars(int beats, double first) {

  /** Places of a beat at which moments are looked at. */
  private static final int PARTS = 4;

  /** How much the first moment counts as a downbeat, and how much what comes again. */
  private static final double BEGINS = 0.25;

  private static final double AGAIN = 0.9;

  /** Four beats are the likelier, where nothing tells. */
  private static final double USUAL = 0.15;

  /** Beats that a bar may have: those that are known, else 4 or 3. */
  static int[] sizes(OptionalInt known) {
    return known.isPresent() ? new int[] {known.getAsInt()} : new int[] {4, 3};
  }

  static Bars of(List<Struck> moments, double[] at, OptionalInt known) {
    int[] sizes = sizes(known);
    long from = (long) Math.floor(at[0]);
    int slots = (int) ((Math.ceil(at[at.length - 1]) - from + 1) * PARTS) + 1;
    double[] stress = new double[slots];
    for (int i = 0; i < at.length; i++) {
      int slot = (int) Math.rint((at[i] - from) * PARTS);
      if (slot >= 0 && slot < slots) {
        stress[slot] += moments.get(i).stress();
      }
    }
    int begins = (int) Math.rint((at[0] - from) * PARTS);
    double best = Double.NEGATIVE_INFINITY;
    Bars found = null;
    for (int size : sizes) {
      double again = AGAIN * comesAgain(stress, size * PARTS) + (size == 4 ? USUAL : 0);
      for (int offset = 0; offset < size; offset++) {
        double begin = Math.floorMod(begins - offset * PARTS, size * PARTS) == 0 ? BEGINS : 0;
        double score = standsOut(stress, size, offset) + begin + again;
        if (score > best) {
          best = score;
          found = new Bars(size, from + offset);
        }
      }
    }
    double first = found.first();
    // a first note that came just before its line is meant for it
    while (first > at[0] + 1.0 / PARTS / 2) {
      first -= found.beats();
    }
    while (first + found.beats() <= at[0]) {
      first += found.beats();
    }
    return new Bars(found.beats(), first);
  }

  /** How much more lies on the first beats of bars than on the other beats, as a part of those. */
  private static double standsOut(double[] stress, int size, int offset) {
    double on = 0;
    double all = 0;
    int bars = 0;
    int beats = 0;
    int sounds = stress.length;
    while (stress[sounds - 1] == 0) {
      sounds--;
    }
    for (int slot = 0; slot < sounds; slot += PARTS) {
      all += stress[slot];
      beats++;
      if (Math.floorMod(slot / PARTS - offset, size) == 0) {
        on += stress[slot];
        bars++;
      }
    }
    double mean = all / beats;
    return bars == 0 || mean == 0 ? 0 : on / bars / mean - 1;
  }

  /** How alike it is to itself so many places later, 0 to 1. */
  private static double comesAgain(double[] stress, int later) {
    if (later >= stress.length) {
      return 0;
    }
    double both = 0;
    for (int i = 0; i + later < stress.length; i++) {
      both += stress[i] * stress[i + later];
    }
    double before = squares(stress, 0, stress.length - later);
    double after = squares(stress, later, stress.length);
    return before == 0 || after == 0 ? 0 : both / Math.sqrt(before * after);
  }

  private static double squares(double[] stress, int from, int until) {
    return Arrays.stream(stress, from, until).map(x -> x * x).sum();
  }
}
