package ancora.app.start;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.LoggingEvent;
import ch.qos.logback.core.spi.FilterReply;
import ch.qos.logback.core.util.FileSize;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.slf4j.LoggerFactory;

/**
 * The log in the data folder: a line a fault, one a second of a kind, and a bounded number of
 * files.
 */
class HouseLogTest {

  private static final Logger LOG = (Logger) LoggerFactory.getLogger(HouseLogTest.class);

  @TempDir Path data;

  @Test
  void aFaultIsOneLine() throws IOException {
    HouseLog log = new HouseLog(data, HouseLog.LONGEST);
    log.begin();
    try {
      LOG.error(
          "the disk takes nothing,\nwhich is said once",
          new UncheckedIOException(new IOException("No space left on device")));
      LOG.error("another fault");
    } finally {
      log.end();
    }
    LOG.error("after its end");
    List<String> lines = Files.readAllLines(data.resolve(HouseLog.NAME));
    assertThat(lines).hasSize(2);
    assertThat(lines.get(0))
        .contains("ERROR HouseLogTest: the disk takes nothing, | which is said once")
        .contains("No space left on device");
    assertThat(lines.get(1)).endsWith("HouseLogTest: another fault ");
  }

  @Test
  void oneASecondOfAKind() {
    AtomicLong now = new AtomicLong();
    OneASecond filter = new OneASecond(now::get);
    int passed = 0;
    for (int i = 0; i < 100; i++) {
      now.set(i * 50_000_000L);
      passed += filter.decide(event("a page {} is gone")) == FilterReply.NEUTRAL ? 1 : 0;
    }
    assertThat(passed).as("of 100 in five seconds").isEqualTo(5);
    assertThat(filter.decide(event("another"))).isEqualTo(FilterReply.NEUTRAL);
  }

  private static LoggingEvent event(String message) {
    return new LoggingEvent("here", LOG, Level.ERROR, message, null, null);
  }

  @Test
  void itTakesABoundedRoom() throws IOException {
    HouseLog log = new HouseLog(data, new FileSize(2_000));
    log.begin();
    try {
      for (int i = 0; i < 40; i++) {
        LOG.error("kind " + i + " " + "x".repeat(300));
      }
    } finally {
      log.end();
    }
    try (var files = Files.list(data)) {
      List<Path> all = files.toList();
      assertThat(all).hasSize(4);
      for (Path file : all) {
        assertThat(Files.size(file)).isLessThan(2_500);
      }
    }
  }
}
