package ancora.core.standin;

import ancora.core.analysis.FoundTempo;
import ancora.core.analysis.Onset;
import ancora.core.analysis.TempoFinder;
import java.util.List;
import java.util.OptionalInt;
import java.util.Random;

/** How often the tempo of what is played without a click is found. */
public final class TempoTrials {

  private static final double SLOWEST = 60;
  private static final double FASTEST = 180;
  private static final double NEAR = 0.01;
  private static final double DOWNBEAT = 40_000;

  private TempoTrials() {}

  /**
   * What came of trials.
   *
   * @param trials so many
   * @param right of them within 1 % of the mean tempo
   * @param halfOrDouble of them within 1 % of half or double of it
   * @param downbeats of those that are right, with the bar within 40 ms
   */
  public record Hits(int trials, int right, int halfOrDouble, int downbeats) {

    /** Right, half and double excused, parts of a hundred. */
    public double tempo() {
      return 100.0 * (right + halfOrDouble) / trials;
    }

    /** Parts of a hundred of those that are right. */
    public double bars() {
      return right == 0 ? 0 : 100.0 * downbeats / right;
    }
  }

  /**
   * Trials of one kind, at tempi from 60 to 180.
   *
   * @param developed whether of the patterns with which finding was developed
   * @param hand how steady it is; its tempo is not looked at
   */
  public static Hits of(AdLib kind, boolean developed, AdLib.Hand hand, int trials, long seed) {
    Random random = new Random(seed);
    int right = 0;
    int halfOrDouble = 0;
    int downbeats = 0;
    for (int i = 0; i < trials; i++) {
      double bpm = SLOWEST + random.nextDouble() * (FASTEST - SLOWEST);
      double drift = random.nextBoolean() ? hand.drift() : -hand.drift();
      AdLib.Hand now = new AdLib.Hand(bpm, hand.spread(), drift, hand.wrong());
      List<Onset> onsets = kind.played(developed, now, random);
      FoundTempo found = TempoFinder.find(onsets, OptionalInt.empty()).orElseThrow();
      double ratio = found.bpm() / bpm;
      if (Math.abs(ratio - 1) < NEAR) {
        right++;
        downbeats += isOnTheBar(found, bpm) ? 1 : 0;
      } else if (Math.abs(ratio / 2 - 1) < NEAR || Math.abs(ratio * 2 - 1) < NEAR) {
        halfOrDouble++;
      }
    }
    return new Hits(trials, right, halfOrDouble, downbeats);
  }

  private static boolean isOnTheBar(FoundTempo found, double bpm) {
    double bar = 4 * 60e6 / bpm;
    double away = (found.downbeat() - 1e6) % bar;
    double off = Math.min(Math.abs(away), bar - Math.abs(away));
    return off < DOWNBEAT;
  }
}
