package ancora.app.time;

import org.springframework.stereotype.Component;

/**
 * Server time: whole microseconds since 1970 at the moment of starting, carried on by the monotonic
 * clock. It never jumps while the server runs, and after a restart it goes on where wall-clock time
 * is, so that bars stay in phase.
 */
@Component
public class HouseClock {

  private final long wallMicros = System.currentTimeMillis() * 1000;
  private final long startNanos = System.nanoTime();

  /** The present instant, in microseconds of server time. */
  public long micros() {
    return wallMicros + (System.nanoTime() - startNanos) / 1000;
  }
}
