package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import java.util.zip.CRC32C;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A journal as a file: what was appended is there, whatever becomes of what was not. */
class JournalFolderTest {

  @TempDir Path folder;

  private static JournalRow row(long seq) {
    String command = "{\"do\":\"rename\",\"title\":\"Pier %s ä\\t\"}".formatted(seq);
    return new JournalRow(seq, 10 * seq, 10 * seq + 1, "a \"tab\" ", seq, command, 2);
  }

  private static List<JournalRow> rows(long from, long until) {
    return LongStream.range(from, until).mapToObj(JournalFolderTest::row).toList();
  }

  private List<JournalRow> read(long after) {
    List<JournalRow> rows = new ArrayList<>();
    new JournalFolder(folder).after(after, rows::add);
    return rows;
  }

  private List<Path> segments() throws IOException {
    try (Stream<Path> files = Files.list(folder)) {
      return files.sorted().toList();
    }
  }

  @Test
  void whatIsAppendedIsReadAgain() throws IOException {
    try (JournalFolder journal = new JournalFolder(folder)) {
      journal.append(rows(1, 4));
      journal.append(rows(4, 6));
      assertThat(journal.last()).contains(row(5));
      assertThat(read(0)).isEqualTo(rows(1, 6));
      assertThat(read(3)).isEqualTo(rows(4, 6));
    }
    assertThat(new JournalFolder(folder).last()).contains(row(5));
    try (JournalFolder again = new JournalFolder(folder)) {
      again.append(rows(6, 7));
    }
    assertThat(read(0)).isEqualTo(rows(1, 7));
  }

  /** Columns and checksum as another would read them; CRC-32C by the JDK. */
  @Test
  void aLineHasThreeColumns() {
    String line = JournalLine.of(row(7));
    String[] columns = line.split("\t");
    assertThat(columns).hasSize(3);
    assertThat(columns[0]).startsWith("{\"at\":71,\"stamp\":70,\"do\":\"rename\"");
    assertThat(columns[1]).isEqualTo("[\"a \\\"tab\\\" \",7,7,2]");
    CRC32C sum = new CRC32C();
    sum.update(line.substring(0, line.length() - 8).getBytes(StandardCharsets.UTF_8));
    assertThat(columns[2]).isEqualTo("%08x".formatted(sum.getValue()));
  }

  /**
   * RFC 3720, appendix B.4: of 32 bytes of zeros the checksum is 8a9136aa (there with its bytes
   * turned).
   */
  @Test
  void theChecksumIsThatOfTheStandard() {
    CRC32C sum = new CRC32C();
    sum.update(new byte[32]);
    assertThat(sum.getValue()).isEqualTo(0x8a9136aaL);
  }

  /**
   * The room that is taken beforehand holds lines while the disk takes nothing more, and is given
   * back.
   */
  @Test
  void roomIsTakenBeforehandAndGivenBack() throws IOException {
    JournalFolder journal = new JournalFolder(folder);
    journal.append(rows(1, 2));
    long taken = Files.size(segments().get(0));
    assertThat(taken).isGreaterThan(JournalFolder.ROOM);
    journal.append(rows(2, 500));
    assertThat(Files.size(segments().get(0))).as("it had room").isEqualTo(taken);
    journal.close();
    assertThat(Files.size(segments().get(0))).isLessThan(taken);
    assertThat(read(0)).isEqualTo(rows(1, 500));
  }

  /** Cut off anywhere, torn, or with bytes turned: what is whole before is there, and goes on. */
  static LongStream seeds() {
    return LongStream.range(0, Boolean.getBoolean("ancora.long") ? 2000 : 60)
        .map(i -> Long.getLong("ancora.seed", 1) + i);
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void aTornEndCostsOnlyWhatWasNotAcknowledged(long seed) throws IOException {
    Random random = new Random(seed);
    JournalFolder journal = new JournalFolder(folder);
    journal.append(rows(1, 11));
    Path segment = segments().get(0);
    long whole = end(segment);
    journal.append(rows(11, 16));
    long all = end(segment);
    // the process dies while it writes: of the last lines some pages have come to the disk, some
    // not
    try (FileChannel channel = FileChannel.open(segment, StandardOpenOption.WRITE)) {
      for (int i = 0; i < 4; i++) {
        long at = whole + (long) (random.nextDouble() * (all - whole));
        byte[] bytes = new byte[(int) Math.min(all - at, 1 + random.nextInt(60))];
        if (random.nextBoolean()) {
          random.nextBytes(bytes);
        }
        channel.write(ByteBuffer.wrap(bytes), at);
      }
    }
    assertThat(read(0)).startsWith(rows(1, 11).toArray(JournalRow[]::new));
    try (JournalFolder again = new JournalFolder(folder)) {
      long last = again.last().orElseThrow().seq();
      assertThat(last).isBetween(10L, 15L);
      again.append(rows(last + 1, 30));
    }
    List<JournalRow> after = read(0);
    assertThat(after).startsWith(rows(1, 11).toArray(JournalRow[]::new));
    assertThat(after.subList(after.size() - 14, after.size())).isEqualTo(rows(16, 30));
    assertThat(after).extracting(JournalRow::seq).isSorted().doesNotHaveDuplicates();
  }

  private static long end(Path segment) throws IOException {
    byte[] bytes = Files.readAllBytes(segment);
    int end = bytes.length;
    while (end > 0 && bytes[end - 1] == 0) {
      end--;
    }
    return end;
  }

  /** A line in the middle that is damaged is passed over, and takes none along. */
  @Test
  void aDamagedLineTakesNoneAlong() throws IOException {
    try (JournalFolder journal = new JournalFolder(folder)) {
      journal.append(rows(1, 6));
    }
    Path segment = segments().get(0);
    byte[] bytes = Files.readAllBytes(segment);
    int third = new String(bytes, StandardCharsets.ISO_8859_1).indexOf("Pier 3");
    bytes[third] ^= 1;
    Files.write(segment, bytes);
    assertThat(read(0)).extracting(JournalRow::seq).containsExactly(1L, 2L, 4L, 5L);
  }

  /** Segments of some MB; those that are old are packed, and read all the same. */
  @Test
  void segmentsFollowOneAnotherAndArePacked() throws IOException {
    String long_ = "{\"do\":\"rename\",\"title\":\"" + "x".repeat(20_000) + "\"}";
    try (JournalFolder journal = new JournalFolder(folder)) {
      for (long seq = 1; seq <= 1000; seq++) {
        journal.append(List.of(new JournalRow(seq, 0, seq, "tab", seq, long_, 2)));
      }
      assertThat(segments()).hasSizeBetween(3, 4);
      journal.pack(900);
      assertThat(segments().get(0).toString()).endsWith(".jsonl.gz");
      journal.append(rows(1001, 1003));
    }
    assertThat(read(0)).extracting(JournalRow::seq).isSorted().hasSize(1002);
    assertThat(read(990)).hasSize(12);
    assertThat(new JournalFolder(folder).last()).contains(row(1002));
  }

  /** What fails counts for nothing: it is appended again, and there once. */
  @Test
  void whatFailsIsAppendedAgain() throws IOException {
    JournalFolder journal = new JournalFolder(folder);
    journal.append(rows(1, 3));
    Path segment = segments().get(0);
    journal.close();
    // the segment has become a folder that nothing can be written to
    Path aside = folder.resolveSibling("aside");
    Files.move(segment, aside);
    Files.createDirectory(segment);
    assertThatThrownBy(() -> journal.append(rows(3, 5))).isInstanceOf(IOException.class);
    Files.delete(segment);
    Files.move(aside, segment);
    journal.append(rows(3, 5));
    journal.close();
    assertThat(read(0)).isEqualTo(rows(1, 5));
  }
}
