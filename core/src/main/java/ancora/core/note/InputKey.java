package ancora.core.note;

import ancora.core.Names;
import ancora.core.Refusal;

/**
 * A key or pad of an outside device, or its sustain pedal.
 *
 * @param device the device's name, at most 80 characters
 * @param channel MIDI channel, 0 to 15
 * @param pitch MIDI note number, 0 to 127; {@link Note#PEDAL} for the pedal
 */
public record InputKey(String device, int channel, int pitch) {

  public InputKey {
    Refusal.unless(Names.isDevice(device), "The device needs a name of at most 80 characters.");
    Refusal.unless(
        channel >= 0 && channel <= 15, "Channel %s does not exist: use 0 to 15.", channel);
    Refusal.unless(
        pitch >= 0 && pitch <= Note.PEDAL, "Key %s does not exist: use 0 to 127.", pitch);
  }

  /** The sustain pedal of a device. */
  public static InputKey pedal(String device, int channel) {
    return new InputKey(device, channel, Note.PEDAL);
  }

  public boolean isPedal() {
    return pitch == Note.PEDAL;
  }
}
