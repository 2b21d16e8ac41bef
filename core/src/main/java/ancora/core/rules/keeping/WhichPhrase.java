package ancora.core.rules.keeping;

/**
 * Which phrase is kept.
 *
 * @param more how many phrases before it are taken as well; negative for how many are let go of
 * @param until it ends before this instant, in microseconds
 */
record WhichPhrase(int more, double until) {

  /** The one that was played last. */
  static final WhichPhrase LAST = new WhichPhrase(0, Double.POSITIVE_INFINITY);
}
