package ancora.core.time;

/** The boundary on which cues and recordings take effect. */
public enum EntryUnit {
  NOW("now"),
  BEAT("beat"),
  HALF_BAR("half bar"),
  BAR("bar"),
  TWO_BARS("2 bars"),
  FOUR_BARS("4 bars");

  private final String words;

  EntryUnit(String words) {
    this.words = words;
  }

  /** As the performer reads it. */
  public String words() {
    return words;
  }

  /**
   * The length of the unit in ticks. "Now" is one tick; half a bar of an odd number of beats is a
   * whole bar, since it has no middle beat.
   */
  public long ticks(Meter meter) {
    return switch (this) {
      case NOW -> 1;
      case BEAT -> meter.beatTicks();
      case HALF_BAR -> meter.beats() % 2 == 0 ? meter.barTicks() / 2 : meter.barTicks();
      case BAR -> meter.barTicks();
      case TWO_BARS -> 2 * meter.barTicks();
      case FOUR_BARS -> 4 * meter.barTicks();
    };
  }
}
