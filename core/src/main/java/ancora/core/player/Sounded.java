package ancora.core.player;

import ancora.core.note.Controller;
import ancora.core.show.PartId;

/**
 * Something that sounded.
 *
 * @param tick the tick at which it was due; of a hand's event at standstill 0
 * @param micros the instant, in microseconds of server time
 * @param part the part that it sounded on; {@link #CLICK} for the click
 * @param kind what it was
 * @param pitch of a note, 0 to 127; the number of a control change; else 0
 * @param velocity 1 to 127, 0 for an end; of a controller its value
 */
public record Sounded(long tick, long micros, PartId part, Kind kind, int pitch, int velocity) {

  /** The click's part. */
  public static final PartId CLICK = new PartId(-1);

  /** What sounds can do. */
  public enum Kind {
    ON("note on"),
    OFF("note off"),
    CONTROL_CHANGE("control change"),
    PITCH_BEND("pitch bend"),
    CHANNEL_PRESSURE("channel pressure");

    private final String words;

    Kind(String words) {
      this.words = words;
    }

    /** As MIDI 1.0 calls it. */
    public String words() {
      return words;
    }
  }

  /** The controller that was moved; of a note, and of the pedal, there is none. */
  public Controller controller() {
    return switch (kind) {
      case PITCH_BEND -> Controller.BEND;
      case CHANNEL_PRESSURE -> Controller.PRESSURE;
      default -> Controller.change(pitch);
    };
  }

  /** Whether it is the sustain pedal, which is kept as notes are. */
  public boolean isPedal() {
    return kind == Kind.CONTROL_CHANGE && pitch == Controller.SUSTAIN;
  }

  public boolean isClick() {
    return part.equals(CLICK);
  }

  public boolean isNote() {
    return kind == Kind.ON || kind == Kind.OFF;
  }
}
