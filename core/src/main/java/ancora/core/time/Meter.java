package ancora.core.time;

import ancora.core.Refusal;

/**
 * A meter such as 4/4 or 7/8.
 *
 * @param beats beats in a bar, 1 to 32
 * @param unit the note value of a beat as a fraction of a whole note: 1, 2, 4, 8, 16 or 32
 */
public record Meter(int beats, int unit) {

  /** Four quarter notes to the bar. */
  public static final Meter COMMON = new Meter(4, 4);

  public Meter {
    boolean powerOfTwo = unit > 0 && unit <= 32 && Integer.bitCount(unit) == 1;
    Refusal.unless(
        beats >= 1 && beats <= 32 && powerOfTwo,
        "%s/%s is not a meter: use 1 to 32 beats of a 1, 2, 4, 8, 16 or 32.",
        beats,
        unit);
  }

  public static Meter of(int beats, int unit) {
    return new Meter(beats, unit);
  }

  /** Ticks in a beat: 3840/d for a meter n/d. */
  public long beatTicks() {
    return Ticks.PER_WHOLE / unit;
  }

  /** Ticks in a bar. */
  public long barTicks() {
    return beats * beatTicks();
  }

  /** Whether beats are commonly felt in threes: 6/8, 9/8 and 12/8. */
  public boolean isCompound() {
    return unit == 8 && (beats == 6 || beats == 9 || beats == 12);
  }

  @Override
  public String toString() {
    return beats + "/" + unit;
  }
}
