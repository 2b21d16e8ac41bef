package ancora.core.control;

import ancora.core.Names;
import ancora.core.Refusal;

/**
 * Something on an outside device that can be pressed or turned.
 *
 * @param device the device's name, at most 80 characters
 * @param kind which message of MIDI 1.0 it sends
 * @param channel MIDI channel, 0 to 15
 * @param number of its note, control change or program, 0 to 127
 */
public record Control(String device, Kind kind, int channel, int number) {

  /** What it sends. */
  public enum Kind {
    NOTE,
    CONTROL_CHANGE,
    PROGRAM_CHANGE
  }

  /** As it is told: note 36, control 80. */
  public String words() {
    String what =
        switch (kind) {
          case NOTE -> "note ";
          case CONTROL_CHANGE -> "control ";
          case PROGRAM_CHANGE -> "program ";
        };
    return what + number;
  }

  public Control {
    Refusal.unless(Names.isDevice(device), "The device needs a name of at most 80 characters.");
    Refusal.unless(
        channel >= 0 && channel <= 15, "Channel %s does not exist: use 0 to 15.", channel);
    Refusal.unless(
        number >= 0 && number <= 127, "Control %s does not exist: use 0 to 127.", number);
  }
}
