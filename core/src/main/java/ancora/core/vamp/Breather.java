package ancora.core.vamp;

import ancora.core.time.Ticks;
import java.util.Optional;

/**
 * While a breather is on a loop goes round in its length and some ticks more, in which nothing is
 * recorded (rule 14). Where these are a multiple of its length it sounds through them, else it is
 * silent.
 *
 * @param from the line from which on it rests after each pass
 * @param ticks b: how long
 * @param until the line from which on it rests no more; {@link Ticks#OPEN} while that is not known
 * @param before how it rested before that: what is played then may still arrive
 */
public record Breather(long from, long ticks, long until, Optional<Breather> before) {

  /** So many are remembered. */
  private static final int MOST = 8;

  /** One that goes on. */
  public static Breather from(long line, long ticks, Optional<Breather> before) {
    return new Breather(line, ticks, Ticks.OPEN, before.map(b -> b.newest(MOST - 1)));
  }

  private Breather newest(int count) {
    return new Breather(
        from, ticks, until, count > 1 ? before.map(b -> b.newest(count - 1)) : Optional.empty());
  }

  /** The one that counts at a tick, if there is one: it may be over. */
  Optional<Breather> at(long tick) {
    return tick >= from ? Optional.of(this) : before.flatMap(b -> b.at(tick));
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
    return new Breather(from, ticks, line, before);
  }
}
