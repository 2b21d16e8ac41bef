package ancora.core.analysis;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.ToDoubleFunction;

/**
 * Beats that may go through what was played: at each frequency combs of phases are held against the
 * onsets, as in a periodogram (Schuster, "On the investigation of hidden periodicities", 1898);
 * where one fits, it is tried with tempi that drift. Of those that fit the one is the likeliest
 * whose bars are alike: three sixteenths fit what lies on sixteenths as a beat does, but what is
 * played comes again one or two bars later. Of much that was played they are held against what lies
 * before it, too: there it comes again four or eight bars later.
 */
final class Beats {

  private static final double SLOWEST = 50 / 60.0;
  private static final double FASTEST = 200 / 60.0;

  /** Beats a second that are usual, and how far one goes from it, in octaves. */
  private static final double USUAL = 115 / 60.0;

  private static final double PREFERENCE = 1.0;

  /** How much it counts that what is struck alike comes again beat by beat. */
  private static final double AGAIN = 0.372;

  /** How much it counts that what is struck comes again bars of three beats later. */
  private static final double OF_THREE = 0.85;

  /** It comes again as near as this, in seconds: two strokes of a hand stray so far. */
  private static final double NEAR = 0.035;

  /** So many strokes and more tell whether they come again. */
  private static final int LEAST_TO_COME_AGAIN = 8;

  /** How much more what stands out counts for the beat itself than for its divisions. */
  private static final double STRESS = 1.47;

  /** From one frequency to the next, parts of one over the span. */
  private static final double STEP = 0.12;

  /** So many onsets of one pitch can come again. */
  private static final int OFTEN = 3;

  private static final int MOST_FREQUENCIES = 4000;
  private static final int TRIED = 8;
  private static final int DRIFTS = 4;
  private static final double DRIFT = 0.01;
  private static final double LEAST_TO_DRIFT = 6;

  private final double[] seconds;
  private final double[] weights;
  private final double[] stresses;
  private final double sum;
  private final double span;

  /** Of what is struck often alike, one train of onsets for each pitch: how many it has. */
  private final int[] many;

  private final int trains;

  /** In which of them each moment is. */
  private final int[][] trainsOf;

  private final int struck;

  /** Beats that a bar may have. */
  private final int[] bars;

  /**
   * @param moments at least two, in time
   * @param zero the instant of second 0, in microseconds
   * @param bars beats that a bar may have
   */
  Beats(List<Struck> moments, double zero, int... bars) {
    this.bars = bars;
    int count = moments.size();
    seconds = moments.stream().mapToDouble(m -> (m.micros() - zero) / 1e6).toArray();
    weights = moments.stream().mapToDouble(Struck::weight).toArray();
    sum = moments.stream().mapToDouble(Struck::weight).sum();
    double[] stress =
        moments.stream().mapToDouble(m -> StrictMath.pow(m.stress(), STRESS)).toArray();
    double all = 0;
    for (double one : stress) {
      all += one;
    }
    stresses = new double[count];
    for (int i = 0; i < count; i++) {
      stresses[i] = stress[i] * sum / all;
    }
    span = Math.max(1, seconds[count - 1] - seconds[0]);
    Map<Integer, Integer> struckSo = new TreeMap<>();
    moments.forEach(
        moment -> {
          for (int pitch : moment.pitches()) {
            struckSo.merge(pitch, 1, Integer::sum);
          }
        });
    struck = struckSo.values().stream().mapToInt(Integer::intValue).sum();
    List<Integer> often =
        struckSo.keySet().stream().filter(pitch -> struckSo.get(pitch) >= OFTEN).toList();
    trains = often.size();
    many = often.stream().mapToInt(struckSo::get).toArray();
    trainsOf =
        moments.stream()
            .map(
                moment ->
                    Arrays.stream(moment.pitches())
                        .map(often::indexOf)
                        .filter(train -> train >= 0)
                        .toArray())
            .toArray(int[][]::new);
  }

  /** The likeliest, by this alone. */
  Beat best() {
    return best(this::withBars);
  }

  /** The likeliest of what is newest, by what comes again in all of it, too. */
  Beat best(Beats all) {
    return best(beat -> withBars(beat) + all.comesAgain(beat, 1, 2) + all.comesAgain(beat, 4, 8));
  }

  private Beat best(ToDoubleFunction<Beat> likely) {
    int count = (int) Math.min(MOST_FREQUENCIES - 1, (FASTEST - SLOWEST) * span / STEP) + 2;
    double step = (FASTEST - SLOWEST) / (count - 1);
    Beat[] steady = steady(step, count);
    List<Beat> peaks = new ArrayList<>();
    for (int k = 0; k < count; k++) {
      boolean rises = k == 0 || steady[k].score() >= steady[k - 1].score();
      boolean falls = k == count - 1 || steady[k].score() > steady[k + 1].score();
      if (rises && falls) {
        peaks.add(steady[k]);
      }
    }
    peaks.sort(Comparator.comparingDouble(beat -> -beat.score()));
    return peaks.stream()
        .limit(TRIED)
        .map(beat -> drifting(beat, step))
        .max(Comparator.comparingDouble(likely))
        .orElseThrow();
  }

  private double withBars(Beat beat) {
    return beat.score() + comesAgain(beat, 1, 2);
  }

  /** How much of what is struck often alike is struck again after one number of bars or another. */
  private double comesAgain(Beat beat, int some, int more) {
    double best = 0;
    for (int beats : bars) {
      double bar = beats / beat.hertz();
      double again = Math.max(comesAgain(some * bar), comesAgain(more * bar));
      best = Math.max(best, (beats == 3 ? OF_THREE : 1) * again);
    }
    return best;
  }

  /**
   * Of what is struck often alike, and could come again so many seconds later, the part that does.
   */
  private double comesAgain(double later) {
    int[] next = new int[trains];
    double last = seconds[seconds.length - 1];
    int could = 0;
    int does = 0;
    int from = 0;
    for (int i = 0; i < seconds.length && seconds[i] + later <= last + NEAR; i++) {
      while (from < seconds.length && seconds[from] < seconds[i] + later - NEAR) {
        from++;
      }
      for (int j = from; j < seconds.length && seconds[j] <= seconds[i] + later + NEAR; j++) {
        for (int train : trainsOf[j]) {
          next[train] = i + 1;
        }
      }
      for (int train : trainsOf[i]) {
        could++;
        does += next[train] == i + 1 ? 1 : 0;
      }
    }
    return could < LEAST_TO_COME_AGAIN ? 0 : (double) does / could;
  }

  /** For each frequency the likeliest beat that does not drift. */
  private Beat[] steady(double step, int count) {
    Phasors[] phasors = new Phasors[count];
    for (int k = 0; k < count; k++) {
      phasors[k] = new Phasors();
    }
    double[][] re = new double[trains][count];
    double[][] im = new double[trains][count];
    for (int i = 0; i < seconds.length; i++) {
      // from one frequency to the next its phase is turned on by the same angle
      double cos = StrictMath.cos(2 * Math.PI * SLOWEST * seconds[i]);
      double sin = StrictMath.sin(2 * Math.PI * SLOWEST * seconds[i]);
      double turnCos = StrictMath.cos(2 * Math.PI * step * seconds[i]);
      double turnSin = StrictMath.sin(2 * Math.PI * step * seconds[i]);
      for (int k = 0; k < count; k++) {
        phasors[k].add(cos, -sin, weights[i], stresses[i]);
        for (int train : trainsOf[i]) {
          re[train][k] += cos;
          im[train][k] += sin;
        }
        double turned = cos * turnCos - sin * turnSin;
        sin = cos * turnSin + sin * turnCos;
        cos = turned;
      }
    }
    Beat[] beats = new Beat[count];
    for (int k = 0; k < count; k++) {
      double again = 0;
      for (int train = 0; train < trains; train++) {
        again += beyondChance(many[train], re[train][k], im[train][k]) / struck;
      }
      beats[k] = likelier(SLOWEST + k * step, 0, phasors[k], again);
    }
    return beats;
  }

  /** The likeliest near one, of tempi that grow or fall by some hundredths over the whole. */
  private Beat drifting(Beat beat, double step) {
    Beat best = beat;
    int drifts = span > LEAST_TO_DRIFT ? DRIFTS : 0;
    for (int d = -drifts; d <= drifts; d++) {
      for (int beside = -1; beside <= 1; beside++) {
        Beat tried = tried(beat.hertz() + beside * step / 2, d * DRIFT / span);
        double score = tried.score() * (1 - DRIFT * Math.abs(d));
        if (score > best.score()) {
          best = tried.withScore(score);
        }
      }
    }
    return best;
  }

  private Beat tried(double hertz, double drift) {
    Phasors phasors = new Phasors();
    double[] re = new double[trains];
    double[] im = new double[trains];
    for (int i = 0; i < seconds.length; i++) {
      double angle = 2 * Math.PI * hertz * (seconds[i] + drift * seconds[i] * seconds[i] / 2);
      double cos = StrictMath.cos(angle);
      double sin = StrictMath.sin(angle);
      phasors.add(cos, -sin, weights[i], stresses[i]);
      for (int train : trainsOf[i]) {
        re[train] += cos;
        im[train] += sin;
      }
    }
    double again = 0;
    for (int train = 0; train < trains; train++) {
      again += beyondChance(many[train], re[train], im[train]) / struck;
    }
    return likelier(hertz, drift, phasors, again);
  }

  private Beat likelier(double hertz, double drift, Phasors phasors, double again) {
    double octaves = StrictMath.log(hertz / USUAL) / StrictMath.log(2);
    double usual = StrictMath.exp(-octaves * octaves / (2 * PREFERENCE * PREFERENCE));
    Beat best = null;
    for (Division division : Division.values()) {
      Division.Fit fit = division.best(hertz, phasors.re, phasors.im, sum);
      double score = (fit.fits() + AGAIN * again) * usual;
      if (best == null || score > best.score()) {
        best = new Beat(hertz, drift, division, fit.phase(), score);
      }
    }
    return best;
  }

  /** 0 where phases are as by chance, so many where they are one. */
  private static double beyondChance(int many, double re, double im) {
    return many * Math.max(0, (re * re + im * im - many) / ((double) many * many - many));
  }
}
