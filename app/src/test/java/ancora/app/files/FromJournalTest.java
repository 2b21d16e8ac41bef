package ancora.app.files;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.journal.JournalFile;
import ancora.core.engine.Engine;
import ancora.core.show.Show;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Journals that are small as files, and far too large in memory. */
class FromJournalTest {

  private static final String HEAD = JournalFile.head(Show.named("Pier"), Engine.RULES);

  @Test
  void whatComesAfterABadLineIsNotEvenRead() {
    byte[] bytes = (HEAD + "\n" + "{}\n".repeat(5_000_000)).getBytes(UTF_8);
    assertThatThrownBy(() -> FromJournal.of(bytes)).hasMessageStartingWith("line 2: ");
    AtomicInteger read = new AtomicInteger();
    Stream<String> lines = Stream.iterate(HEAD, line -> "{}").peek(line -> read.incrementAndGet());
    assertThatThrownBy(() -> JournalFile.read(lines.iterator())).hasMessageStartingWith("line 2: ");
    assertThat(read.get()).isLessThan(5);
  }

  @Test
  void aLineWithMoreInItThanAShowHasIsRefusedBeforeItIsMade() {
    String parts = "{}" + ",{}".repeat(5_000_000);
    String head = "{\"journal\":1,\"show\":{\"title\":\"Pier\",\"parts\":[" + parts + "]}}";
    assertThatThrownBy(() -> FromJournal.of(head.getBytes(UTF_8)))
        .hasMessage("line 1: That file has more in it than a show or a run can have.");
  }
}
