package ancora.core.time;

/**
 * A place as musicians count it, from 1: tick 0 is 1.1.000.
 *
 * @param bar the bar, 1 for the first; count-in lies at 0 and below
 * @param beat the beat of the bar, from 1
 * @param tick ticks since the beat
 */
public record Position(long bar, int beat, int tick) {

  /** The place of a tick, bars being counted from tick 0. */
  public static Position of(long tick, Meter meter) {
    long inBar = Math.floorMod(tick, meter.barTicks());
    return new Position(
        Math.floorDiv(tick, meter.barTicks()) + 1,
        (int) (inBar / meter.beatTicks()) + 1,
        (int) (inBar % meter.beatTicks()));
  }

  @Override
  public String toString() {
    return String.format("%d.%d.%03d", bar, beat, tick);
  }
}
