package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What the disk does not take is kept, in order, and written when it does. */
@Timeout(300)
class JournalWriterTest {

  @TempDir Path folder;

  private final Set<Long> onDisk = Collections.synchronizedSet(new LinkedHashSet<>());
  private final BlockingQueue<String> told = new LinkedBlockingQueue<>();
  private volatile Predicate<JournalRow> fails = row -> false;
  private final DiskLamp lamp = new DiskLamp();
  private Journals journals;

  /** Writes to a disk that takes what it is let. */
  private JournalWriter writer() {
    journals =
        new Journals(folder) {
          @Override
          public void append(long show, List<JournalRow> rows) throws IOException {
            if (rows.stream().anyMatch(fails)) {
              throw new IOException("the disk is full");
            }
            super.append(show, rows);
            rows.forEach(row -> onDisk.add(row.seq()));
          }
        };
    lamp.listen(trouble -> told.add(trouble ? "trouble" : "well"));
    return new JournalWriter(journals, lamp, 5);
  }

  private void append(JournalWriter writer, long seq) {
    JournalRow row = new JournalRow(seq, 0, 0, "page", seq, "{\"do\":\"tapTempo\"}", 2);
    writer.append(1, row, () -> told.add("ack " + seq), why -> told.add("lost " + seq));
  }

  private String next() throws InterruptedException {
    return told.poll(60, TimeUnit.SECONDS);
  }

  @Test
  void aDiskThatIsFullForAMomentLosesNothing() throws InterruptedException {
    JournalWriter writer = writer();
    fails = row -> true;
    append(writer, 1);
    assertThat(next()).isEqualTo("trouble");
    append(writer, 2);
    append(writer, 3);
    assertThat(lamp.isLit()).isTrue();
    assertThat(told).as("nothing is acknowledged that is not written").isEmpty();
    fails = row -> false;
    List<String> all = new ArrayList<>();
    while (all.size() < 4) {
      all.add(next());
    }
    assertThat(all).containsExactlyInAnyOrder("ack 1", "well", "ack 2", "ack 3");
    assertThat(onDisk).containsExactly(1L, 2L, 3L);
    writer.close();
  }

  /** What is acknowledged is in the file, whole, when it is read by another. */
  @Test
  void whatIsAcknowledgedIsInTheFile() throws InterruptedException {
    JournalWriter writer = writer();
    for (long seq = 1; seq <= 300; seq++) {
      append(writer, seq);
    }
    for (long seq = 1; seq <= 300; seq++) {
      assertThat(next()).isEqualTo("ack " + seq);
      if (seq % 100 == 0) {
        assertThat(new Journals(folder).lastSeq(1)).isGreaterThanOrEqualTo(seq);
      }
    }
    writer.close();
    assertThat(new Journals(folder).after(1, 0)).hasSize(300);
  }

  /** Whenever the disk takes lines again, in the middle of a batch too, none is lost. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void aDiskThatRecoversInTheMiddleLosesNothing(int failures) throws InterruptedException {
    AtomicInteger left = new AtomicInteger(failures);
    fails = row -> left.getAndDecrement() > 0;
    JournalWriter writer = writer();
    for (long seq = 1; seq <= 5; seq++) {
      append(writer, seq);
    }
    Set<String> acks = new TreeSet<>();
    while (acks.size() < 5) {
      String word = next();
      assertThat(word).isNotNull().doesNotStartWith("lost");
      if (word.startsWith("ack")) {
        acks.add(word);
      }
    }
    assertThat(new TreeSet<>(onDisk)).containsExactly(1L, 2L, 3L, 4L, 5L);
    writer.close();
  }

  @Test
  void whatWaitsIsBounded() throws InterruptedException {
    JournalWriter writer = writer();
    fails = row -> true;
    for (long seq = 1; seq <= JournalWriter.MOST_WAITING; seq++) {
      assertThat(writer.isFull()).isFalse();
      append(writer, seq);
    }
    assertThat(writer.isFull()).isTrue();
    fails = row -> false;
    for (long acks = 0; acks < JournalWriter.MOST_WAITING; ) {
      acks += next().startsWith("ack") ? 1 : 0;
    }
    assertThat(writer.isFull()).isFalse();
    writer.close();
  }
}
