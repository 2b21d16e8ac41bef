package ancora.core.analysis;

import java.util.List;

/**
 * A beat that was found in what was played.
 *
 * @param bpm beats a minute, the mean of the bars whose tempo lasts longest
 * @param beatsInBar 3, 4, or what was asked for
 * @param lines the instants of the bar lines, from the one at or before the first onset to the one
 *     after the last, in microseconds: as far apart as it was played
 * @param drift by what part of itself the tempo changed from the first bar to the last
 * @param sureness 0 for a guess, to 1
 */
public record FoundTempo(
    double bpm, int beatsInBar, List<Double> lines, double drift, double sureness) {

  private static final double MINUTE = 60e6;
  private static final double PLAIN = 0.7;
  private static final double FAIR = 0.35;

  public FoundTempo {
    lines = List.copyOf(lines);
    boolean rise = lines.size() > 1;
    for (int i = 1; i < lines.size(); i++) {
      rise &= lines.get(i) > lines.get(i - 1);
    }
    if (!rise || !(bpm > 0) || !Double.isFinite(drift)) {
      throw new IllegalArgumentException("no tempo: " + bpm + " bpm, bars at " + lines);
    }
  }

  /** How sure a tempo is, in a word. */
  public static String inAWord(double sureness) {
    return sureness >= PLAIN ? "surely" : sureness >= FAIR ? "probably" : "perhaps";
  }

  /** Microseconds from beat to beat, the mean. */
  public double beat() {
    return MINUTE / bpm;
  }

  /** The instant of the first bar line. */
  public double downbeat() {
    return lines.get(0);
  }
}
