package ancora.core.plan;

/**
 * What a player forgives. The numbers are the rules': players have none of their own.
 *
 * @param entryMicros an entry that comes no later than this is made up for (rule 5)
 * @param leastRest a missed note that has less left than this waits a pass, in ticks (rule 5)
 * @param handBeforeMicros a missed note whose pitch was played by hand since this long before it
 *     was due is not attacked again (rule 5)
 * @param strokeTicks a stroke of a drum that began no longer before an entry is attacked there
 *     (rule 12)
 * @param sameGestureMicros a loop attack this soon after a hand attack takes hold without attacking
 *     (rule 16.2)
 */
public record Tolerances(
    long entryMicros,
    long leastRest,
    long handBeforeMicros,
    long strokeTicks,
    long sameGestureMicros) {

  /** 30 ms, 240 ticks, 80 ms, a thirty-second, 60 ms. */
  public static final Tolerances RULES = new Tolerances(30_000, 240, 80_000, 120, 60_000);
}
