package ancora.core.analysis;

/**
 * A hypothesis: a beat that may go through what was played.
 *
 * @param hertz beats a second, at second 0
 * @param drift by what part of itself the frequency grows each second
 * @param division how it is divided
 * @param phase beats at second 0, 0 to 1, negative
 * @param score the more the likelier
 */
record Beat(double hertz, double drift, Division division, double phase, double score) {

  Beat withScore(double otherwise) {
    return new Beat(hertz, drift, division, phase, otherwise);
  }

  /** Beats, from some beat on, at a second. */
  double at(double seconds) {
    return hertz * (seconds + drift * seconds * seconds / 2) - phase;
  }
}
