package ancora.app.time;

import java.util.Optional;

/** Server time for tests: it stands still, and goes on when it is told to. */
public final class HeldClock extends HouseClock {

  private volatile long now = 1_764_374_400_000_000L;

  @Override
  public long micros() {
    return now;
  }

  /** Goes on by some milliseconds. */
  public void pass(long millis) {
    now += millis * 1000;
  }

  @Override
  public void goOn(Optional<Anchor> before, long last) {
    now = Math.max(now, last + 1);
  }
}
