package ancora.app.store;

import static java.nio.charset.StandardCharsets.UTF_8;

import ancora.app.journal.JournalFile;
import ancora.app.options.Options;
import ancora.core.show.Show;
import jakarta.annotation.PreDestroy;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * The journals: of each show what was done in it, of the house what was done to the list. They are
 * files, written ahead of the database, which can always be brought up to them.
 */
@Component
public class Journals {

  private static final Logger LOG = LoggerFactory.getLogger(Journals.class);

  /** In place of a show's number, the house itself. */
  static final long HOUSE = 0;

  private static final String OF_HOUSE = "house";
  private static final String HEAD = "head.json";

  private final Path folder;
  private final Map<Long, JournalFolder> open = new ConcurrentHashMap<>();

  /**
   * Those in a folder.
   *
   * @param data where the shows are kept
   */
  Journals(Path data) {
    this.folder = data.toAbsolutePath().resolve("journals");
  }

  @Autowired
  Journals(Options options) {
    this(options.data());
  }

  private JournalFolder of(long show) {
    return open.computeIfAbsent(show, id -> new JournalFolder(place(id)));
  }

  private Path place(long show) {
    return folder.resolve(show == HOUSE ? OF_HOUSE : String.valueOf(show));
  }

  /**
   * Begins the journal of a show: with the show as it stands before the first line.
   *
   * @param rules the version of the rules under which it is done again
   */
  void begin(long show, Show origin, int rules) throws IOException {
    Path head = place(show).resolve(HEAD);
    Path part = place(show).resolve(HEAD + ".part");
    Files.createDirectories(place(show));
    try (FileChannel to =
        FileChannel.open(
            part,
            StandardOpenOption.CREATE,
            StandardOpenOption.TRUNCATE_EXISTING,
            StandardOpenOption.WRITE)) {
      ByteBuffer text = ByteBuffer.wrap(JournalFile.head(origin, rules).getBytes(UTF_8));
      while (text.hasRemaining()) {
        to.write(text);
      }
      to.force(true);
    }
    Files.move(part, head, StandardCopyOption.ATOMIC_MOVE);
    for (Path made : List.of(place(show), folder)) {
      try (FileChannel of = FileChannel.open(made, StandardOpenOption.READ)) {
        of.force(true);
      }
    }
  }

  /** The first line of a show's journal: the show as it was when that began. */
  public Optional<String> head(long show) {
    try {
      Path head = place(show).resolve(HEAD);
      return Files.exists(head) ? Optional.of(Files.readString(head)) : Optional.empty();
    } catch (IOException unreadable) {
      LOG.warn("the head of the journal of show {} cannot be read", show, unreadable);
      return Optional.empty();
    }
  }

  /** Whether a show has a journal. */
  boolean has(long show) {
    return Files.exists(place(show).resolve(HEAD));
  }

  /** The shows that have a journal, by rising number. */
  List<Long> shows() {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files
          .map(file -> file.getFileName().toString())
          .filter(name -> name.matches("\\d{1,18}"))
          .map(Long::valueOf)
          .filter(this::has)
          .sorted()
          .toList();
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** Lets go of what was written of a journal that was never begun. */
  void clear(long show) throws IOException {
    rest(show);
    if (Files.isDirectory(place(show))) {
      try (Stream<Path> files = Files.list(place(show))) {
        for (Path file : files.toList()) {
          Files.delete(file);
        }
      }
    }
  }

  /** Lets go of a journal for good: its head first, without which it is none. */
  void delete(long show) throws IOException {
    Files.deleteIfExists(place(show).resolve(HEAD));
    clear(show);
    Files.deleteIfExists(place(show));
  }

  /** Appends lines to a show's journal, and forces them to the disk itself: all or none. */
  public void append(long show, List<JournalRow> rows) throws IOException {
    of(show).append(rows);
  }

  /** The lines of a show's journal after a number, in order. */
  public void after(long show, long seq, Consumer<JournalRow> each) {
    of(show).after(seq, each);
  }

  /** The same, as a list. */
  public List<JournalRow> after(long show, long seq) {
    List<JournalRow> rows = new ArrayList<>();
    after(show, seq, rows::add);
    return rows;
  }

  /** Writes a show's journal, from when it was made, as a person reads it. */
  public void copyTo(long show, OutputStream out) throws IOException {
    Writer text = new BufferedWriter(new OutputStreamWriter(out, UTF_8));
    text.append(head(show).orElse("")).append('\n');
    try {
      after(
          show,
          0,
          row -> {
            try {
              text.append(JournalLine.plain(row)).append('\n');
            } catch (IOException gone) {
              throw new UncheckedIOException(gone);
            }
          });
    } catch (UncheckedIOException gone) {
      throw gone.getCause();
    }
    text.flush();
  }

  /** How many lines of a show's journal are not whole, but for one at its end. */
  long damaged(long show) {
    return of(show).damaged();
  }

  /** The number of the last line; 0 where there is none. */
  long lastSeq(long show) {
    return of(show).last().map(JournalRow::seq).orElse(0L);
  }

  /** The latest instant at which anything was applied, in any show. */
  OptionalLong lastInstant() {
    return shows().stream()
        .flatMap(show -> of(show).last().stream())
        .mapToLong(JournalRow::appliedUs)
        .max();
  }

  /** What is older than two saved states of a show is kept packed. */
  public void pack(long show, long seq) {
    try {
      of(show).pack(seq);
    } catch (IOException full) {
      LOG.warn("the journal of show {} is not packed: {}", show, full.getMessage());
    }
  }

  /** Nobody has a show open: its journal needs no room. */
  public void rest(long show) {
    JournalFolder of = open.remove(show);
    if (of != null) {
      of.close();
    }
  }

  @PreDestroy
  void close() {
    List.copyOf(open.keySet()).forEach(this::rest);
  }
}
