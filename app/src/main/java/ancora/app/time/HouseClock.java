package ancora.app.time;

import org.springframework.stereotype.Component;

/**
 * Server time: whole microseconds since 1970 at the moment of starting, carried on by the monotonic
 * clock. It never jumps while the server runs, and after a restart it goes on where wall-clock time
 * is, so that bars stay in phase; but never before what was done already.
 */
@Component
public class HouseClock {

  private final long startNanos = System.nanoTime();
  private volatile long startMicros = System.currentTimeMillis() * 1000;

  /** The present instant, in microseconds of server time. */
  public long micros() {
    return startMicros + (System.nanoTime() - startNanos) / 1000;
  }

  /** Time goes on after an instant: before the first show is opened, at the start alone. */
  public void goOnAfter(long micros) {
    startMicros = Math.max(startMicros, micros + 1);
  }
}
