package ancora.app.start;

import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.filter.Filter;
import ch.qos.logback.core.spi.FilterReply;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;

/**
 * Lets through one event a second of each kind: a fault that comes again and again fills no disk.
 */
final class OneASecond extends Filter<ILoggingEvent> {

  private static final long SECOND = TimeUnit.SECONDS.toNanos(1);

  /** So many kinds are told apart. */
  private static final int KINDS = 256;

  private final LongSupplier nanos;
  private final Map<String, Long> last =
      new LinkedHashMap<>() {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Long> eldest) {
          return size() > KINDS;
        }
      };

  /**
   * A filter.
   *
   * @param nanos the present instant, in nanoseconds from anywhere
   */
  OneASecond(LongSupplier nanos) {
    this.nanos = nanos;
  }

  @Override
  public synchronized FilterReply decide(ILoggingEvent event) {
    String kind = event.getLoggerName() + " " + event.getMessage();
    long now = nanos.getAsLong();
    Long before = last.get(kind);
    if (before != null && now - before < SECOND) {
      return FilterReply.DENY;
    }
    last.put(kind, now);
    return FilterReply.NEUTRAL;
  }
}
