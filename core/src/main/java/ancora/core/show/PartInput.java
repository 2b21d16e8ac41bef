package ancora.core.show;

import ancora.core.Names;
import ancora.core.Refusal;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Collections;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;

/**
 * What a part takes of what is played, as what, and when hands are heard on it.
 *
 * @param devices the names of the devices that it listens to; none for all
 * @param channels the MIDI channels that it listens to, 0 to 15; none for all
 * @param lowest the lowest key that it takes, 0 to 127
 * @param highest the highest, not below the lowest
 * @param transpose semitones that keys are moved by, −48 to +48
 * @param velocity the velocity of every note, 1 to 127; empty for as played
 * @param offset ms that what is played is placed earlier by, −200 to +200, to a tenth: as much as
 *     the way from the key takes
 * @param monitoring when hands sound on it
 */
@RecordBuilder
public record PartInput(
    Set<String> devices,
    Set<Integer> channels,
    int lowest,
    int highest,
    int transpose,
    OptionalInt velocity,
    double offset,
    Monitoring monitoring)
    implements PartInputBuilder.With {

  /** Everything, as it is played, heard while the part is armed. */
  public static final PartInput OPEN =
      new PartInput(Set.of(), Set.of(), 0, 127, 0, OptionalInt.empty(), 0, Monitoring.ARMED);

  /** A part listens to no more devices than these by name. */
  public static final int MOST_DEVICES = 16;

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
        devices.size() <= MOST_DEVICES, "A part listens to %s devices at most.", MOST_DEVICES);
    Refusal.unless(
        devices.stream().allMatch(Names::isDevice), "A device's name has 1 to 80 characters.");
    Refusal.unless(
        channels.stream().allMatch(channel -> channel >= 0 && channel <= 15),
        "A channel is a number from 0 to 15, or none for all.");
    Refusal.unless(
        lowest >= 0 && lowest <= highest && highest <= 127, "Keys are 0 to 127, the lowest first.");
    Refusal.unless(
        transpose >= -48 && transpose <= 48, "Transpose by −48 to +48 semitones, four octaves.");
    Refusal.unless(
        velocity.orElse(1) >= 1 && velocity.orElse(1) <= 127,
        "A set velocity is a number from 1 to 127, or none for as played.");
    Refusal.unless(offset >= -200 && offset <= 200, "An offset is −200 to +200 ms.");
    devices = Collections.unmodifiableSet(new TreeSet<>(devices));
    channels = Collections.unmodifiableSet(new TreeSet<>(channels));
    offset = Math.round(offset * 10) / 10.0;
  }

  public PartInput withKeys(int from, int to) {
    return new PartInput(devices, channels, from, to, transpose, velocity, offset, monitoring);
  }

  /** Whether it listens to what comes from a device on a channel. */
  public boolean hears(String device, int channel) {
    return (devices.isEmpty() || devices.contains(device))
        && (channels.isEmpty() || channels.contains(channel));
  }

  /** The instant at which something was meant that arrived with a stamp, in microseconds. */
  public long placed(long stampMicros) {
    return stampMicros - Math.round(offset * 1000);
  }

  /** The pitch that a key makes; one that is not taken, or outside of 0 to 127, makes none. */
  public OptionalInt pitch(int key) {
    int pitch = key + transpose;
    boolean taken = key >= lowest && key <= highest;
    return !taken || pitch < 0 || pitch > 127 ? OptionalInt.empty() : OptionalInt.of(pitch);
  }
}
