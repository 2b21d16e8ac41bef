package ancora.core.vamp;

import ancora.core.time.Ticks;

/**
 * While a breather is on a loop goes round in its length and some ticks more, in which nothing is
 * recorded (rule 14). Where these are a multiple of its length it sounds through them, else it is
 * silent.
 *
 * @param from the line from which on it rests after each pass
 * @param ticks b: how long
 * @param until the line from which on it rests no more; {@link Ticks#OPEN} while that is not known
 */
public record Breather(long from, long ticks, long until) {

  /** One that goes on. */
  public static Breather from(long line, long ticks) {
    return new Breather(line, ticks, Ticks.OPEN);
  }

  boolean isOn(long tick) {
    return tick >= from && tick < until;
  }

  public boolean isOpen() {
    return until == Ticks.OPEN;
  }

  /** Whether a loop of some length sounds through it. */
  public boolean soundsThrough(long length) {
    return ticks % length == 0;
  }

  public Breather until(long line) {
    return new Breather(from, ticks, line);
  }
}
