package ancora.app.safety;

import ancora.app.options.Options;
import jakarta.servlet.http.HttpSession;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Who is in stays in while a socket of his is open, however long the night, and is known for a
 * while beyond: nobody is cut off while the music plays.
 */
@Component
public class Visits {

  private static final Logger LOG = LoggerFactory.getLogger(Visits.class);

  private static final int FOR_EVER = -1;

  /** How many sockets a visit has open, kept with it: it may get another id. */
  private static final String SOCKETS = "ancora.sockets";

  private final Duration stay;

  Visits(Options options) {
    this.stay = options.stay();
  }

  /** A socket of a visitor is open. */
  public void opened(HttpSession visit) {
    count(visit, 1);
  }

  /** A socket of a visitor is closed. */
  public void closed(HttpSession visit) {
    count(visit, -1);
  }

  private synchronized void count(HttpSession visit, int more) {
    try {
      Object so = visit.getAttribute(SOCKETS);
      int open = (so == null ? 0 : (int) so) + more;
      visit.setAttribute(SOCKETS, open);
      Instant asked = Instant.ofEpochMilli(visit.getLastAccessedTime());
      // counted from when something was asked for last, which may be long ago
      Duration beyond = Duration.between(asked, Instant.now()).plus(stay);
      visit.setMaxInactiveInterval(open > 0 ? FOR_EVER : (int) beyond.toSeconds());
    } catch (IllegalStateException over) {
      LOG.debug("a visit was over before its sockets were", over);
    }
  }
}
