package ancora.core.show;

import ancora.core.Names;
import ancora.core.Refusal;
import java.util.OptionalInt;

/**
 * Where a part sounds on an outside device.
 *
 * @param device the device's name, at most 80 characters
 * @param channel MIDI channel, 0 to 15
 * @param bank the bank that is selected there, 0 to 16 383; empty if none is
 * @param program the program that is chosen there, 0 to 127; empty if none is
 * @param alone whether the part's own sound is silent while the device is there
 */
public record PartOutput(
    String device, int channel, OptionalInt bank, OptionalInt program, boolean alone) {

  private static final int MOST = 127;

  public PartOutput {
    Refusal.unless(
        Names.isDevice(device),
        "The device needs a name of at most %s characters.",
        Names.LONGEST_DEVICE);
    Refusal.unless(
        channel >= 0 && channel <= 15, "Channel %s does not exist: use 0 to 15.", channel);
    Refusal.unless(
        bank.orElse(0) >= 0 && bank.orElse(0) <= 16_383, "A bank is a number from 0 to 16 383.");
    Refusal.unless(
        program.orElse(0) >= 0 && program.orElse(0) <= MOST,
        "A program is a number from 0 to 127.");
  }

  /**
   * The value of channel volume, control change 7, for a gain. A device answers to it with 40
   * log(value / 127) dB, as General MIDI 2 recommends (from memory); louder than as it is cannot be
   * said.
   *
   * @param gain a factor of amplitude, 0 or more
   */
  public static int volume(double gain) {
    return (int) Math.round(MOST * Math.sqrt(Math.min(1, gain)));
  }

  /**
   * The value of pan, control change 10: 0 is left, 64 the middle, 127 right.
   *
   * @param pan −100 to +100
   */
  public static int pan(int pan) {
    return (int) Math.min(MOST, Math.round(64 + pan * 0.64));
  }

  /** The level for a value of channel volume, in dB, to a tenth: the inverse of {@link #volume}. */
  public static double levelOf(int volume) {
    double level = 40 * Math.log10(volume / (double) MOST);
    return Math.max(Balance.SILENCE, Math.round(level * 10) / 10.0);
  }

  /** The pan, −100 to +100, for a value of control change 10: the inverse of {@link #pan}. */
  public static int panOf(int value) {
    return value == MOST ? 100 : (int) Math.round((value - 64) / 0.64);
  }
}
