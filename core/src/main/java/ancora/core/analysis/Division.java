package ancora.core.analysis;

/**
 * How a beat is divided, as a comb that is held against what was played: a sum of cosines of the
 * beat's phase, by their harmonic. The numbers were found by search over seeded trials.
 */
enum Division {
  /** Into halves and quarters. */
  DUPLE(new int[] {1, 2, 4}, new double[] {0.566, 0.566, 0.258}, 1),
  /** Into thirds. */
  TRIPLE(new int[] {1, 3}, new double[] {0.589, 1.616}, 0.615);

  /** The highest harmonic. */
  static final int MOST = 4;

  /** Phases that are tried, parts of a beat. */
  private static final int PHASES = 20;

  /** How far a steady hand strays, in seconds: fine divisions of a fast beat tell less. */
  private static final double STRAYS = 0.016;

  private static final double[][] COSINES = new double[MOST + 1][PHASES];
  private static final double[][] SINES = new double[MOST + 1][PHASES];

  static {
    for (int h = 1; h <= MOST; h++) {
      for (int phase = 0; phase < PHASES; phase++) {
        COSINES[h][phase] = StrictMath.cos(2 * Math.PI * h * phase / PHASES);
        SINES[h][phase] = StrictMath.sin(2 * Math.PI * h * phase / PHASES);
      }
    }
  }

  private final int[] harmonics;
  private final double[] amplitudes;
  private final double usual;

  Division(int[] harmonics, double[] amplitudes, double usual) {
    this.harmonics = harmonics;
    this.amplitudes = amplitudes;
    this.usual = usual;
  }

  /** So many lines a beat has. */
  int lines() {
    return harmonics[harmonics.length - 1];
  }

  /**
   * A comb that fits.
   *
   * @param phase where in the beat its first line lies, 0 to 1
   * @param fits how well: 0 as chance does, to about 1.5
   */
  record Fit(double phase, double fits) {}

  /**
   * The phase at which the comb fits best.
   *
   * @param hertz beats a second
   * @param re for each harmonic the sum of the moments' weights by the cosine of their phase
   * @param im the same, by the sine, negative
   * @param sum of the weights
   */
  Fit best(double hertz, double[] re, double[] im, double sum) {
    double[] amplitude = new double[harmonics.length];
    double energy = 0;
    for (int j = 0; j < harmonics.length; j++) {
      double blur = Math.PI * harmonics[j] * hertz * STRAYS;
      amplitude[j] = amplitudes[j] * StrictMath.exp(-2 * blur * blur);
      energy += amplitude[j] * amplitude[j];
    }
    double best = Double.NEGATIVE_INFINITY;
    int at = 0;
    for (int phase = 0; phase < PHASES; phase++) {
      double fits = 0;
      for (int j = 0; j < harmonics.length; j++) {
        int h = harmonics[j];
        fits += amplitude[j] * (re[h] * COSINES[h][phase] - im[h] * SINES[h][phase]);
      }
      if (fits > best) {
        best = fits;
        at = phase;
      }
    }
    return new Fit((double) at / PHASES, usual * best / sum / Math.sqrt(energy));
  }
}
