package ancora.core.analysis;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * Notes that were struck together, or one by itself.
 *
 * @param micros when: their middle, the louder counting for more
 * @param weight how much it counts for the beat, more than 0
 * @param stress how much it stands out: loud ones, and low ones, more
 * @param pitches what was struck
 */
record Struck(double micros, double weight, double stress, int[] pitches) {

  /** Onsets this close are one, in microseconds. */
  private static final double TOGETHER = 40_000;

  private static final int PITCHES = 128;
  private static final double LOUDEST = 127;
  private static final double LEAST = 0.3;
  private static final double HEAVIEST = 2;
  private static final double LOW_FOR_BEAT = 0.5;
  private static final double LOW_FOR_STRESS = 1.2;

  /** The moments of onsets in any order, in time. */
  static List<Struck> of(List<Onset> onsets) {
    List<Onset> sorted = new ArrayList<>(onsets);
    sorted.sort(Comparator.comparingDouble(Onset::micros));
    int[] upTo = new int[PITCHES + 1];
    sorted.forEach(onset -> upTo[onset.pitch() + 1]++);
    Arrays.parallelPrefix(upTo, Integer::sum);
    List<Struck> moments = new ArrayList<>();
    int from = 0;
    while (from < sorted.size()) {
      int until = from;
      while (until < sorted.size()
          && sorted.get(until).micros() - sorted.get(from).micros() < TOGETHER) {
        until++;
      }
      moments.add(struck(sorted.subList(from, until), upTo));
      from = until;
    }
    return moments;
  }

  private static Struck struck(List<Onset> together, int[] upTo) {
    double loudness = 0;
    double middle = 0;
    double weight = 0;
    double stress = 0;
    for (Onset onset : together) {
      double loud = onset.velocity() / LOUDEST;
      double counts = LEAST + (1 - LEAST) * loud;
      double low = 1 - rank(onset.pitch(), upTo);
      loudness += counts;
      middle += counts * onset.micros();
      weight += counts * (1 + LOW_FOR_BEAT * low);
      stress += loud * loud * (1 + LOW_FOR_STRESS * low);
    }
    return new Struck(
        middle / loudness,
        Math.min(HEAVIEST, Math.sqrt(weight)),
        stress,
        together.stream().mapToInt(Onset::pitch).toArray());
  }

  /**
   * How high a pitch lies among all: 0 below them, 1 above.
   *
   * @param upTo for each pitch how many lie below it
   */
  private static double rank(int pitch, int[] upTo) {
    return (upTo[pitch] + upTo[pitch + 1]) / 2.0 / upTo[PITCHES];
  }
}
