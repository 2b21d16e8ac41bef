package ancora.core.control;

import ancora.core.Names;
import ancora.core.Refusal;
import java.util.regex.Pattern;

/**
 * Something on an outside device that can be pressed or turned.
 *
 * @param device the device's name, at most 80 characters; {@link #COMPUTER} for a key of it
 * @param kind which message of MIDI 1.0 it sends, or a key of the computer
 * @param channel MIDI channel, 0 to 15
 * @param number of its note, control change or program, 0 to 127
 * @param key of the computer: its place as the browser names it ({@code event.code} of the W3C's UI
 *     Events: KeyU, Space, F2), after “Shift ”, “Alt ” or “Ctrl ” if that is held with it; empty
 *     for other controls
 */
public record Control(String device, Kind kind, int channel, int number, String key) {

  /** The computer's keyboard as a device. */
  public static final String COMPUTER = "computer keyboard";

  private static final Pattern KEYS = Pattern.compile("((Shift|Alt|Ctrl) )?[A-Z][A-Za-z0-9]{1,19}");

  /** What it sends. */
  public enum Kind {
    NOTE,
    CONTROL_CHANGE,
    PROGRAM_CHANGE,
    KEY
  }

  /** A control of a MIDI device. */
  public Control(String device, Kind kind, int channel, int number) {
    this(device, kind, channel, number, "");
  }

  /** A key of the computer. */
  public static Control key(String key) {
    return new Control(COMPUTER, Kind.KEY, 0, 0, key);
  }

  /** As it is told: note 36, control 80. */
  public String words() {
    String what =
        switch (kind) {
          case NOTE -> "note ";
          case CONTROL_CHANGE -> "control ";
          case PROGRAM_CHANGE -> "program ";
          case KEY -> "key " + key.replaceFirst("Key|Digit", "");
        };
    return kind == Kind.KEY ? what : what + number;
  }

  public Control {
    Refusal.unless(Names.isDevice(device), "The device needs a name of at most 80 characters.");
    Refusal.unless(
        channel >= 0 && channel <= 15, "Channel %s does not exist: use 0 to 15.", channel);
    Refusal.unless(
        number >= 0 && number <= 127, "Control %s does not exist: use 0 to 127.", number);
    Refusal.unless(
        kind == Kind.KEY ? KEYS.matcher(key).matches() : key.isEmpty(),
        "A key of the computer is named by its place: KeyU, Space, F2.");
  }
}
