package ancora.core.analysis;

/** Sums of phases over onsets, for one frequency of the beat. */
final class Phasors {

  /** Of each harmonic, by the weights of the moments; of the first one, by their stress. */
  final double[] re = new double[Division.MOST + 1];

  final double[] im = new double[Division.MOST + 1];

  /** An onset, whose phase in the beat is a point of the unit circle, (cos, −sin). */
  void add(double cos, double sin, double weight, double stress) {
    double cos2 = cos * cos - sin * sin;
    double sin2 = 2 * cos * sin;
    re[1] += stress * cos;
    im[1] += stress * sin;
    re[2] += weight * cos2;
    im[2] += weight * sin2;
    re[3] += weight * (cos2 * cos - sin2 * sin);
    im[3] += weight * (cos2 * sin + sin2 * cos);
    re[4] += weight * (cos2 * cos2 - sin2 * sin2);
    im[4] += weight * 2 * cos2 * sin2;
  }
}
