package ancora.core.sound;

import ancora.core.Refusal;

/**
 * A sound under the same hand as another: piano and strings as one part.
 *
 * @param sound what it is; it has no second one itself
 * @param level dB against the first, −60 to +6
 * @param transpose semitones by which it is higher, −36 to +36
 * @param lowest the lowest key that it sounds on, 0 to 127
 * @param highest the highest key
 */
public record SecondSound(Sound sound, double level, int transpose, int lowest, int highest) {

  private static final int FURTHEST = 36;
  private static final int MOST = 127;

  public SecondSound {
    Refusal.unless(
        sound.second().isEmpty(), "A part has two sounds at most: add a part for a third.");
    Refusal.unless(
        level >= -60 && level <= 6, "A level of %s dB is out of reach: use −60 to +6 dB.", level);
    Refusal.unless(
        Math.abs(transpose) <= FURTHEST, "Transpose a second sound by −36 to +36 semitones.");
    Refusal.unless(
        lowest >= 0 && lowest <= highest && highest <= MOST,
        "Keys go from 0 to 127, the lower one first.");
  }

  /** All keys, as loud as the first, at the same pitch. */
  public static SecondSound of(Sound sound) {
    return new SecondSound(sound, 0, 0, 0, MOST);
  }

  /** The level as a factor of amplitude: 10^(dB/20); 0 at −60. */
  public double gain() {
    return level <= -60 ? 0 : Math.pow(10, level / 20);
  }
}
