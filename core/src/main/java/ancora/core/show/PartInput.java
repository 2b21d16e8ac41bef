package ancora.core.show;

import ancora.core.Refusal;
import java.util.OptionalInt;

/**
 * What a part takes of what is played, as what, and when hands are heard on it.
 *
 * @param channel the only MIDI channel it listens to, 0 to 15; empty for all
 * @param transpose semitones that keys are moved by, −48 to +48
 * @param velocity the velocity of every note, 1 to 127; empty for as played
 * @param offset ms that what is played is placed earlier by, −200 to +200: as much as the way from
 *     the key takes
 * @param monitoring when hands sound on it
 */
public record PartInput(
    OptionalInt channel, int transpose, OptionalInt velocity, int offset, Monitoring monitoring) {

  /** Everything, as it is played, heard while the part is armed. */
  public static final PartInput OPEN =
      new PartInput(OptionalInt.empty(), 0, OptionalInt.empty(), 0, Monitoring.ARMED);

  /** When hands sound on a part. */
  public enum Monitoring {
    ARMED("while armed"),
    ALWAYS("always"),
    NEVER("never");

    private final String words;

    Monitoring(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  public PartInput {
    Refusal.unless(
        channel.orElse(0) >= 0 && channel.orElse(0) <= 15,
        "A channel is a number from 0 to 15, or none for all.");
    Refusal.unless(
        transpose >= -48 && transpose <= 48, "Transpose by −48 to +48 semitones, four octaves.");
    Refusal.unless(
        velocity.orElse(1) >= 1 && velocity.orElse(1) <= 127,
        "A set velocity is a number from 1 to 127, or none for as played.");
    Refusal.unless(offset >= -200 && offset <= 200, "An offset is −200 to +200 ms.");
  }

  public PartInput withChannel(OptionalInt only) {
    return new PartInput(only, transpose, velocity, offset, monitoring);
  }

  public PartInput withTranspose(int semitones) {
    return new PartInput(channel, semitones, velocity, offset, monitoring);
  }

  public PartInput withVelocity(OptionalInt always) {
    return new PartInput(channel, transpose, always, offset, monitoring);
  }

  public PartInput withOffset(int millis) {
    return new PartInput(channel, transpose, velocity, millis, monitoring);
  }

  public PartInput withMonitoring(Monitoring when) {
    return new PartInput(channel, transpose, velocity, offset, when);
  }

  public boolean hears(int onChannel) {
    return channel.isEmpty() || channel.getAsInt() == onChannel;
  }

  /** The instant at which something was meant that arrived with a stamp, in microseconds. */
  public long placed(long stampMicros) {
    return stampMicros - offset * 1000L;
  }

  /** The pitch that a key makes; outside of 0 to 127 it makes none. */
  public OptionalInt pitch(int key) {
    int pitch = key + transpose;
    return pitch < 0 || pitch > 127 ? OptionalInt.empty() : OptionalInt.of(pitch);
  }
}
