package ancora.app.time;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Server time: whole microseconds since 1970 at the moment of starting, carried on by the monotonic
 * clock. It never jumps while the server runs. After a restart soon after something was going on it
 * goes on as it was, so that bars stay in phase, whatever has become of the wall clock meanwhile;
 * and never before what was done already.
 */
@Component
public class HouseClock {

  private static final Logger LOG = LoggerFactory.getLogger(HouseClock.class);

  /** So long after something was going on it may go on, in microseconds. */
  private static final long SOON = 600_000_000;

  /** Names one start of the machine, from which its monotonic clock counts (Linux, random(4)). */
  private static final Path BOOT = Path.of("/proc/sys/kernel/random/boot_id");

  private volatile long ahead = System.currentTimeMillis() * 1000 - monotonic();

  /**
   * By how much server time is ahead of the monotonic clock.
   *
   * @param boot the start of the machine from which that counts; empty if it is not known
   * @param micros in microseconds
   */
  public record Anchor(String boot, long micros) {}

  /** The present instant, in microseconds of server time. */
  public long micros() {
    return monotonic() + ahead;
  }

  /** What is to be kept, for time to go on after a restart. */
  public Anchor anchor() {
    return new Anchor(boot(), ahead);
  }

  /**
   * Goes on as before, at the start alone, before the first show is opened.
   *
   * @param before as it was kept last
   * @param last the latest instant at which anything is known to have gone on
   */
  public void goOn(Optional<Anchor> before, long last) {
    before
        .filter(anchor -> !anchor.boot().isEmpty() && anchor.boot().equals(boot()))
        .filter(anchor -> monotonic() + anchor.micros() - last <= SOON)
        .ifPresent(anchor -> ahead = anchor.micros());
    if (micros() <= last) {
      LOG.warn("the clock of this machine was set back: server time goes on where it was");
      ahead += last + 1 - micros();
    }
  }

  private static long monotonic() {
    return System.nanoTime() / 1000;
  }

  private static String boot() {
    try {
      return Files.readString(BOOT).strip();
    } catch (IOException notThere) {
      return "";
    }
  }
}
