package ancora.app.safety;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;

/**
 * Wrong pass phrases: five from one address cost it a minute, and twenty from anywhere cost
 * everybody one, so that whoever has many addresses gets no further. Who is in already stays in.
 */
final class Tries {

  static final int FROM_ONE = 5;
  static final int FROM_ALL = 20;

  private static final long MINUTE = TimeUnit.MINUTES.toNanos(1);

  /** So many addresses are told apart. */
  private static final int MOST = 1_000;

  private static final String ALL = "";

  /** How often it was wrong since when; and until when nothing is heard. */
  private record Wrong(int times, long since, long until) {}

  private final LongSupplier nanos;
  private final Map<String, Wrong> wrong =
      new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Wrong> eldest) {
          return size() > MOST;
        }
      };

  /**
   * None so far.
   *
   * @param nanos the present instant, in nanoseconds from anywhere
   */
  Tries(LongSupplier nanos) {
    this.nanos = nanos;
  }

  /** In how many seconds a phrase from an address is heard; 0 for now. */
  synchronized long secondsLeft(String address) {
    return Math.max(left(ALL), left(address));
  }

  private long left(String who) {
    Wrong so = wrong.get(who);
    long left = so == null ? 0 : so.until() - nanos.getAsLong();
    return left <= 0 ? 0 : TimeUnit.NANOSECONDS.toSeconds(left - 1) + 1;
  }

  /** One was wrong; says whether that costs a minute. */
  synchronized boolean wrong(String address) {
    boolean one = count(address, FROM_ONE);
    boolean all = count(ALL, FROM_ALL);
    return one || all;
  }

  private boolean count(String who, int most) {
    long now = nanos.getAsLong();
    Wrong so = wrong.get(who);
    boolean goesOn = so != null && now - so.since() < MINUTE && so.until() == so.since();
    long since = goesOn ? so.since() : now;
    int times = goesOn ? so.times() + 1 : 1;
    boolean costs = times >= most;
    wrong.put(who, new Wrong(times, since, costs ? now + MINUTE : since));
    return costs;
  }

  /** One was right: its address is trusted again. */
  synchronized void right(String address) {
    wrong.remove(address);
  }
}
