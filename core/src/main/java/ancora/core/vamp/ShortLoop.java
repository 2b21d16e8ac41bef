package ancora.core.vamp;

import ancora.core.time.Ticks;

/**
 * While stutter is held, a loop goes round in a beat, or half or a quarter of one.
 *
 * @param inStep the tick from which the loop sounded in step before, after a stutter that was let
 *     go of; {@code Long.MIN_VALUE} if this is its first
 * @param from the first tick at which it is heard
 * @param start S: the start of the piece that goes round, at or before {@code from}
 * @param length u: its length in ticks
 * @param until the first tick at which the loop is in step again; {@link Ticks#OPEN} while held
 */
public record ShortLoop(long inStep, long from, long start, long length, long until) {

  public boolean isHeld() {
    return until == Ticks.OPEN;
  }

  public ShortLoop until(long tick) {
    return new ShortLoop(inStep, from, start, length, Math.max(from, tick));
  }
}
