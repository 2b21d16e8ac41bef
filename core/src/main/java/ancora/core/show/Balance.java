package ancora.core.show;

import ancora.core.Refusal;
import ancora.core.note.Grid;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Optional;

/**
 * How a part stands in the whole. Mute is gain, never a note's end.
 *
 * @param level dB, −60 to +6; −60 is silence
 * @param pan −100 (left) to +100 (right)
 * @param muted whether it is not heard
 * @param solo whether only it, and others that are solo, are heard
 * @param echo how much of it goes to the echo, 0 to 100 %
 * @param room how much of it goes to the room, 0 to 100 %
 * @param low dB by which what lies below 250 Hz is raised, −12 to +12
 * @param high dB by which what lies above 4000 Hz is raised, −12 to +12
 * @param echoTime the time from one of its echoes to the next; empty if it is that of all
 */
@RecordBuilder
public record Balance(
    double level,
    int pan,
    boolean muted,
    boolean solo,
    int echo,
    int room,
    double low,
    double high,
    Optional<Grid> echoTime)
    implements BalanceBuilder.With {

  /** As loud as it is, in the middle, with a little room. */
  public static final Balance DEFAULT = placed(0, 0, 0, 15);

  /** The lowest level, in dB: silence. */
  public static final double SILENCE = -60;

  /** The highest level, in dB. */
  public static final double LOUDEST = 6;

  /** So far the tone of a part goes either way, in dB. */
  public static final double MOST_TONE = 12;

  public Balance {
    Refusal.unless(
        level >= SILENCE && level <= LOUDEST,
        "A level of %s dB is out of reach: use −60 to +6 dB.",
        level);
    Refusal.unless(pan >= -100 && pan <= 100, "Pan from −100, left, to +100, right.");
    Refusal.unless(echo >= 0 && echo <= 100 && room >= 0 && room <= 100, "A send is 0 to 100 %.");
    Refusal.unless(
        isTone(low) && isTone(high),
        "The tone of a part goes from −12 to +12 dB, in the low and in the high.");
    Refusal.unless(
        echoTime.isEmpty() || echoTime.get() != Grid.OFF,
        "An echo needs a note value; to be without, send nothing.");
  }

  private static boolean isTone(double decibels) {
    return Math.abs(decibels) <= MOST_TONE;
  }

  /** How a part stands that is heard: its level, its place, and what it sends. */
  public static Balance placed(double level, int pan, int echo, int room) {
    return new Balance(level, pan, false, false, echo, room, 0, 0, Optional.empty());
  }

  /** This balance with its level moved by some dB, as far as it goes. */
  public Balance trimmed(double decibels) {
    return withLevel(Math.max(SILENCE, Math.min(LOUDEST, level + decibels)));
  }

  /** The level as a factor of amplitude: 10^(dB/20), the definition of the decibel; 0 at −60. */
  public double gain() {
    return gainOf(level);
  }

  static double gainOf(double decibels) {
    return decibels <= SILENCE ? 0 : Math.pow(10, decibels / 20);
  }
}
