package ancora.core.show;

import ancora.core.Refusal;
import java.util.OptionalInt;

/**
 * What a part takes of what is played, and as what.
 *
 * @param channel the only MIDI channel it listens to, 0 to 15; empty for all
 * @param transpose semitones that keys are moved by, −48 to +48
 * @param velocity the velocity of every note, 1 to 127; empty for as played
 */
public record InputFilter(OptionalInt channel, int transpose, OptionalInt velocity) {

  /** Everything, as it is played. */
  public static final InputFilter OPEN =
      new InputFilter(OptionalInt.empty(), 0, OptionalInt.empty());

  public InputFilter {
    Refusal.unless(
        channel.orElse(0) >= 0 && channel.orElse(0) <= 15,
        "A channel is a number from 0 to 15, or none for all.");
    Refusal.unless(
        transpose >= -48 && transpose <= 48, "Transpose by −48 to +48 semitones, four octaves.");
    Refusal.unless(
        velocity.orElse(1) >= 1 && velocity.orElse(1) <= 127,
        "A set velocity is a number from 1 to 127, or none for as played.");
  }

  public boolean hears(int onChannel) {
    return channel.isEmpty() || channel.getAsInt() == onChannel;
  }

  /** The pitch that a key makes; outside of 0 to 127 it makes none. */
  public OptionalInt pitch(int key) {
    int pitch = key + transpose;
    return pitch < 0 || pitch > 127 ? OptionalInt.empty() : OptionalInt.of(pitch);
  }
}
