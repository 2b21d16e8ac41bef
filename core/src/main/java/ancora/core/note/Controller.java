package ancora.core.note;

import ancora.core.Refusal;
import java.util.OptionalInt;

/**
 * A continuous controller of a MIDI channel (MIDI 1.0, channel voice messages). Bank select and the
 * channel mode messages are none of these; nor is the sustain pedal, which is kept as notes are.
 *
 * @param kind what moves
 * @param number of a control change 0 to 119; else 0
 */
public record Controller(Kind kind, int number) {

  /** Sustain, or damper pedal: 64 and more is down (MIDI 1.0, controller 64). */
  public static final int SUSTAIN = 64;

  /** Modulation wheel, channel volume, pan and expression (MIDI 1.0). */
  public static final int MODULATION = 1;

  public static final int VOLUME = 7;
  public static final int PAN = 10;
  public static final int EXPRESSION = 11;

  private static final int PAN_CENTRE = 64;

  /** Pitch bend at rest, in the middle of its 14 bits. */
  public static final int BEND_CENTRE = 8192;

  private static final int BANK_SELECT = 0;
  private static final int BANK_SELECT_FINE = 32;
  private static final int FIRST_CHANNEL_MODE = 120;

  /** What moves. */
  public enum Kind {
    CONTROL_CHANGE,
    PITCH_BEND,
    CHANNEL_PRESSURE
  }

  /** The pitch bend wheel. */
  public static final Controller BEND = new Controller(Kind.PITCH_BEND, 0);

  /** Pressure on the keys of a channel, all together. */
  public static final Controller PRESSURE = new Controller(Kind.CHANNEL_PRESSURE, 0);

  public Controller {
    Refusal.unless(
        kind == Kind.CONTROL_CHANGE ? isOne(number) : number == 0,
        "Controller %s is none that is recorded: use 1 to 119, but 32 and 64.",
        number);
  }

  /** A control change. */
  public static Controller change(int number) {
    return new Controller(Kind.CONTROL_CHANGE, number);
  }

  /** Whether a control change of this number moves a controller. */
  public static boolean isOne(int number) {
    return number > BANK_SELECT
        && number < FIRST_CHANNEL_MODE
        && number != BANK_SELECT_FINE
        && number != SUSTAIN;
  }

  /** The greatest value: 16383 for the bend, else 127. */
  public int most() {
    return kind == Kind.PITCH_BEND ? 16_383 : 127;
  }

  /** Whether it springs back when nothing holds it. */
  public boolean springsBack() {
    return kind != Kind.CONTROL_CHANGE;
  }

  /** Where it is when nothing moves it, if it springs back. */
  public int rest() {
    return kind == Kind.PITCH_BEND ? BEND_CENTRE : 0;
  }

  /**
   * Where it stands that nothing has moved yet (MIDI 1.0, General MIDI); empty if that is not
   * known.
   */
  public OptionalInt unmoved() {
    if (springsBack()) {
      return OptionalInt.of(rest());
    }
    return switch (number) {
      case VOLUME, EXPRESSION -> OptionalInt.of(most());
      case PAN -> OptionalInt.of(PAN_CENTRE);
      case MODULATION -> OptionalInt.of(0);
      default -> OptionalInt.empty();
    };
  }
}
