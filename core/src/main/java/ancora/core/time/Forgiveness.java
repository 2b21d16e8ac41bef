package ancora.core.time;

import ancora.core.Refusal;

/**
 * How late a press may come and still count for the boundary that has just gone by.
 *
 * @param millis 0 to 250 ms; never more than a quarter of the unit counts
 */
public record Forgiveness(int millis) {

  /** 120 ms. */
  public static final Forgiveness DEFAULT = new Forgiveness(120);

  public Forgiveness {
    Refusal.unless(
        millis >= 0 && millis <= 250,
        "A forgiveness of %s ms is out of reach: use 0 to 250 ms.",
        millis);
  }

  /** In microseconds. */
  public long micros() {
    return millis * 1000L;
  }

  /**
   * Whether a press counts for a boundary that lies behind it.
   *
   * @param boundary the boundary's tick, no later than the press
   * @param stampMicros instant of the press
   * @param unitTicks length of the unit whose boundary it is, in ticks
   * @param map ticks and instants
   */
  public boolean covers(long boundary, double stampMicros, long unitTicks, TempoMap map) {
    double late = stampMicros - map.microsOf(boundary);
    double quarter = map.microsOf(boundary + unitTicks) - map.microsOf(boundary);
    return late <= Math.min(micros(), quarter / 4);
  }
}
