package ancora.core.analysis;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.DoubleUnaryOperator;
import java.util.stream.IntStream;

/**
 * Finds tempo, beat and bar in what was played without a click. The likeliest {@link Beat} of the
 * newest onsets is followed back through those before; bars are where what stands out, and what
 * comes again, puts them.
 */
public final class TempoFinder {

  /** Fewer moments than these tell nothing. */
  public static final int LEAST = 5;

  /** The beat is looked for in so many moments, the newest. */
  private static final int WINDOW = 96;

  /** What is likely there is held against so many, and fewer if there are no more. */
  private static final int BEFORE = 1500;

  /** Bars this near to the middle one, as a part of it, are of one tempo. */
  private static final double ONE_TEMPO = 0.05;

  private static final double PHASE_FOLLOWS = 0.2;
  private static final double PERIOD_FOLLOWS = 0.04;

  /** Scores of a guess, and of what is plain to hear. */
  private static final double GUESS = 0.25;

  private static final double PLAIN = 0.95;

  private TempoFinder() {}

  /**
   * The tempo; empty if too little was played to find one in.
   *
   * @param onsets in any order
   * @param beats of a bar, if they are known; else 4 or 3 are found
   */
  public static Optional<FoundTempo> find(List<Onset> onsets, OptionalInt beats) {
    List<Struck> moments = Struck.of(onsets);
    if (moments.size() < LEAST) {
      return Optional.empty();
    }
    List<Struck> newest = newest(moments, WINDOW);
    double zero = (newest.get(0).micros() + newest.get(newest.size() - 1).micros()) / 2;
    Beats likely = new Beats(newest, zero, Bars.sizes(beats));
    Beat beat =
        moments.size() == newest.size()
            ? likely.best()
            : likely.best(new Beats(newest(moments, BEFORE), zero, Bars.sizes(beats)));
    double[] beatsAt = followed(moments, newest.size(), beat, zero);
    if (beatsAt[0] == beatsAt[beatsAt.length - 1]) {
      return Optional.empty();
    }
    Line line = new Line(moments, beatsAt);
    Bars bars = Bars.of(moments, line.beats(), beats);
    double sureness = Math.max(0, Math.min(1, (beat.score() - GUESS) / (PLAIN - GUESS)));
    return Optional.of(found(line, bars, sureness));
  }

  private static List<Struck> newest(List<Struck> moments, int most) {
    return moments.subList(Math.max(0, moments.size() - most), moments.size());
  }

  /** The beats at which moments lie, on lines of the division. */
  private static double[] followed(List<Struck> moments, int newest, Beat beat, double zero) {
    int lines = beat.division().lines();
    double[] beats = new double[moments.size()];
    int first = moments.size() - newest;
    for (int i = moments.size() - 1; i >= first; i--) {
      beats[i] = Math.rint(beat.at((moments.get(i).micros() - zero) / 1e6) * lines) / lines;
    }
    double period = 1e6 / beat.hertz();
    double at = moments.get(first).micros();
    double here = beat.at((at - zero) / 1e6);
    for (int i = first - 1; i >= 0; i--) {
      double exact = here - (at - moments.get(i).micros()) / period;
      beats[i] = Math.rint(exact * lines) / lines;
      double error = beats[i] - exact;
      period += PERIOD_FOLLOWS * error * period / Math.max(1, here - exact);
      here = exact + PHASE_FOLLOWS * error;
      at = moments.get(i).micros();
    }
    return beats;
  }

  private static FoundTempo found(Line line, Bars bars, double sureness) {
    List<Double> lines = lines(bars, line, line::microsOf);
    if (!areAlike(lines, bars.beats() * line.period())) {
      lines = lines(bars, line, line::steadyMicrosOf);
    }
    int many = lines.size() - 1;
    double first = lines.get(1) - lines.get(0);
    double last = lines.get(many) - lines.get(many - 1);
    double bpm = 60e6 * bars.beats() / lasting(lines);
    return new FoundTempo(
        Math.round(bpm * 100) / 100.0, bars.beats(), lines, first / last - 1, sureness);
  }

  /**
   * The length of bars whose tempo lasts longest: where one follows another it is not between them.
   */
  private static double lasting(List<Double> lines) {
    double[] lengths =
        IntStream.range(1, lines.size())
            .mapToDouble(i -> lines.get(i) - lines.get(i - 1))
            .toArray();
    double[] sorted = Arrays.stream(lengths).sorted().toArray();
    double median = sorted[sorted.length / 2];
    return Arrays.stream(lengths)
        .filter(length -> Math.abs(length / median - 1) < ONE_TEMPO)
        .average()
        .orElseThrow();
  }

  private static List<Double> lines(Bars bars, Line line, DoubleUnaryOperator microsOf) {
    List<Double> lines = new ArrayList<>();
    for (double beat = bars.first(); ; beat += bars.beats()) {
      lines.add((double) Math.round(microsOf.applyAsDouble(beat)));
      if (beat > line.last()) {
        return lines;
      }
    }
  }

  /**
   * Whether bars are as long as each other, more or less: no tempo that hands play doubles in one.
   */
  private static boolean areAlike(List<Double> lines, double bar) {
    for (int i = 1; i < lines.size(); i++) {
      double length = lines.get(i) - lines.get(i - 1);
      if (length < bar / 2 || length > bar * 2) {
        return false;
      }
    }
    return true;
  }
}
