package ancora.core.analysis;

import java.util.List;

/** Where beats fall: by the moments around them, each of which says where its own beat fell. */
final class Line {

  /** Moments so many beats away tell little of where a beat falls. */
  private static final double NEAR = 9;

  /** What lies farther, by so many times that, tells nothing. */
  private static final double FAR = 4;

  private static final int LEAST = 5;

  /** Beats whose squares spread by a smaller part of themselves are one beat, but for rounding. */
  private static final double ONE_BEAT = 1e-9;

  private final List<Struck> moments;
  private final double[] beats;
  private final double period;

  /**
   * @param moments in time
   * @param beats at which they lie, by rising beat, not all on one
   */
  Line(List<Struck> moments, double[] beats) {
    this.moments = moments;
    this.beats = beats;
    this.period = fitted(0, Double.POSITIVE_INFINITY)[1];
  }

  double[] beats() {
    return beats;
  }

  double last() {
    return beats[beats.length - 1];
  }

  /** The mean of the microseconds from beat to beat, by least squares. */
  double period() {
    return period;
  }

  /** The instant of a beat, if beats were as far apart everywhere. */
  double steadyMicrosOf(double beat) {
    return fitted(beat, Double.POSITIVE_INFINITY)[0];
  }

  /** The instant of a beat: by least squares of what lies near it. */
  double microsOf(double beat) {
    double[] fitted = fitted(beat, NEAR);
    return fitted[0];
  }

  /** The first moment at a beat or after it. */
  private int first(double beat) {
    int low = 0;
    int high = beats.length;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (beats[middle] < beat) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  /** Instant and slope at a beat, of a straight line through the moments near it. */
  private double[] fitted(double at, double near) {
    double zero = moments.get(0).micros();
    double sum = 0;
    double sumBeat = 0;
    double sumTime = 0;
    double sumSquare = 0;
    double sumBoth = 0;
    int from = Double.isInfinite(near) ? 0 : first(at - FAR * near);
    int until = Double.isInfinite(near) ? beats.length : first(at + FAR * near);
    // where nothing is near, what is nearest tells
    from = Math.max(0, Math.min(from, beats.length - LEAST));
    until = Math.min(beats.length, Math.max(until, from + LEAST));
    for (int i = from; i < until; i++) {
      double away = beats[i] - at;
      double weight =
          moments.get(i).weight() * (StrictMath.exp(-away * away / (2 * near * near)) + 1e-6);
      double time = moments.get(i).micros() - zero;
      sum += weight;
      sumBeat += weight * away;
      sumTime += weight * time;
      sumSquare += weight * away * away;
      sumBoth += weight * away * time;
    }
    double spread = sum * sumSquare - sumBeat * sumBeat;
    // what lies on one beat does not tell how far beats are apart there
    double slope =
        spread > ONE_BEAT * sum * sumSquare ? (sum * sumBoth - sumBeat * sumTime) / spread : period;
    return new double[] {zero + (sumTime - slope * sumBeat) / sum, slope};
  }
}
