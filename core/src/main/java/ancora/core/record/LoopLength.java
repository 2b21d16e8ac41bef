package ancora.core.record;

import ancora.core.show.LengthRule;
import ancora.core.show.RecordingSettings;
import ancora.core.time.Forgiveness;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;

/**
 * How long a loop becomes.
 *
 * @param unit ticks of the unit whose multiples are lengths
 * @param rule which multiples are allowed
 * @param first ticks of the loop that the rule refers to; 0 if there is none yet
 * @param longest the longest loop, in ticks
 */
public record LoopLength(long unit, LengthRule rule, long first, long longest) {

  /**
   * The lengths that some settings allow.
   *
   * @param first ticks of the loop that the rule refers to; 0 if there is none
   */
  public static LoopLength of(RecordingSettings settings, Meter meter, long first) {
    return new LoopLength(
        settings.closesOn().ticks(meter),
        settings.lengthRule(),
        first,
        RecordingSettings.MOST_BARS * meter.barTicks());
  }

  /**
   * The length of a loop that is closed by a press: the multiple of the unit just gone by if the
   * press is forgiven, else the next one; then the next allowed.
   *
   * @param start tick at which the recording began
   * @param stampMicros instant of the press, at or after the start
   */
  public long closedAt(long start, long stampMicros, Forgiveness forgiveness, TempoMap map) {
    long past = map.tickAt(stampMicros) - start;
    long multiple = Ticks.floor(past, unit);
    boolean counts =
        multiple >= unit
            && (multiple == past || forgiveness.covers(start + multiple, stampMicros, unit, map));
    return allowedFrom(counts ? multiple : multiple + unit);
  }

  /**
   * The length of a loop that is closed by stopping the transport: the nearest multiple of the
   * unit, at least one; then the next allowed.
   *
   * @param past ticks since the recording began
   */
  public long stoppedAfter(long past) {
    return allowedFrom(Math.max(unit, Ticks.nearest(past, unit)));
  }

  /** The shortest allowed length that is no shorter than some ticks, within the longest. */
  public long allowedFrom(long ticks) {
    long units = Math.max(1, Ticks.ceil(ticks, unit) / unit);
    long allowed =
        switch (rule) {
          case ANY -> units * unit;
          case DOUBLING -> (Long.highestOneBit(2 * units - 1)) * unit;
          case OF_THE_PARTS_FIRST, OF_THE_SHOWS_FIRST ->
              first > 0 ? Ticks.ceil(units * unit, first) : units * unit;
        };
    return Math.min(allowed, longestAllowed());
  }

  /** The longest allowed length. */
  public long longestAllowed() {
    return switch (rule) {
      case ANY -> Ticks.floor(longest, unit);
      case DOUBLING -> Long.highestOneBit(longest / unit) * unit;
      case OF_THE_PARTS_FIRST, OF_THE_SHOWS_FIRST ->
          first > 0 && first <= longest ? Ticks.floor(longest, first) : Ticks.floor(longest, unit);
    };
  }
}
