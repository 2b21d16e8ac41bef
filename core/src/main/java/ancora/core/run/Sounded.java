package ancora.core.run;

import ancora.core.show.PartId;

/**
 * Something that sounded.
 *
 * @param tick the tick at which it was due; of a hand's event at standstill 0
 * @param micros the instant, in microseconds of server time
 * @param part the part that it sounded on; {@link #CLICK} for the click
 * @param kind what it was
 * @param pitch 0 to 127
 * @param velocity 1 to 127; 0 for an end
 */
public record Sounded(long tick, long micros, PartId part, Kind kind, int pitch, int velocity) {

  /** The click's part. */
  public static final PartId CLICK = new PartId(-1);

  /** What sounds can do. */
  public enum Kind {
    ON,
    OFF
  }

  public boolean isClick() {
    return part.equals(CLICK);
  }
}
