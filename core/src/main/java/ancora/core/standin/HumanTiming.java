package ancora.core.standin;

import ancora.core.Refusal;

/**
 * How a stand-in player strays from the grid, the same each time for the same seed.
 *
 * @param seed any number
 * @param spreadMillis standard deviation of each onset, 0 to 60 ms; no stroke strays by more than
 *     three times that
 * @param earlyDownbeatMillis how much too early the first stroke of each bar comes, 0 to 100 ms
 * @param velocitySpread standard deviation of velocities, 0 to 30
 */
public record HumanTiming(
    long seed, double spreadMillis, double earlyDownbeatMillis, double velocitySpread) {

  /** A steady hand: 12 ms, velocities by 8. */
  public static final HumanTiming STEADY = new HumanTiming(7, 12, 0, 8);

  public HumanTiming {
    Refusal.unless(
        spreadMillis >= 0 && spreadMillis <= 60, "A spread is 0 to 60 ms, not %s.", spreadMillis);
    Refusal.unless(
        earlyDownbeatMillis >= 0 && earlyDownbeatMillis <= 100,
        "Downbeats are 0 to 100 ms early, not %s.",
        earlyDownbeatMillis);
    Refusal.unless(
        velocitySpread >= 0 && velocitySpread <= 30,
        "Velocities spread by 0 to 30, not %s.",
        velocitySpread);
  }
}
