package ancora.app.store;

import static java.nio.charset.StandardCharsets.UTF_8;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * One journal, in plain files of a folder of its own: segments to which lines are appended alone,
 * each named by the number of its first line. The room of what is to come is taken beforehand, so
 * that a full disk has place for what is played; the end of what was written is the first zero
 * byte.
 *
 * <p>Written by one thread; read by any.
 */
final class JournalFolder implements AutoCloseable {

  private static final Logger LOG = LoggerFactory.getLogger(JournalFolder.class);

  /** A segment is not begun anew before it is so long, in bytes. */
  static final int SEGMENT = 8 << 20;

  /** The room that is taken at a time, in bytes. */
  static final int ROOM = 1 << 18;

  private static final String PLAIN = ".jsonl";
  private static final String PACKED = ".jsonl.gz";
  private static final byte END = '\n';

  private final Path folder;
  private Optional<Open> open = Optional.empty();
  private boolean looked;
  private Optional<JournalRow> last = Optional.empty();

  /** The segment that is appended to. */
  private static final class Open {
    final FileChannel channel;
    long used;
    long size;

    Open(FileChannel channel, long used, long size) {
      this.channel = channel;
      this.used = used;
      this.size = size;
    }
  }

  /** A journal in a folder, which is made when there is something to write. */
  JournalFolder(Path folder) {
    this.folder = folder;
  }

  /** Whether anything was written. */
  synchronized boolean isThere() {
    return Files.isDirectory(folder);
  }

  /** The last line that is whole; none in an empty journal. */
  synchronized Optional<JournalRow> last() {
    look();
    return last;
  }

  /**
   * Appends lines, in order, and forces them to the disk itself. Where that fails nothing of them
   * counts: they are to be appended again.
   */
  synchronized void append(List<JournalRow> rows) throws IOException {
    look();
    ByteBuffer bytes = encoded(rows);
    Open to = opened(rows.get(0).seq());
    try {
      if (to.used + bytes.remaining() > to.size) {
        takeRoom(to, bytes.remaining());
      }
      for (long at = to.used; bytes.hasRemaining(); ) {
        at += to.channel.write(bytes, at);
      }
      to.channel.force(false);
    } catch (IOException failure) {
      letGo();
      throw failure;
    }
    to.used += bytes.limit();
    last = Optional.of(rows.get(rows.size() - 1));
  }

  private static ByteBuffer encoded(List<JournalRow> rows) {
    StringBuilder text = new StringBuilder();
    rows.forEach(row -> text.append(JournalLine.of(row)).append((char) END));
    return ByteBuffer.wrap(text.toString().getBytes(UTF_8));
  }

  /** The segment that takes lines from a number on. */
  private Open opened(long first) throws IOException {
    if (open.filter(o -> o.used >= SEGMENT).isPresent()) {
      close();
    }
    if (open.isEmpty()) {
      Files.createDirectories(folder);
      Path newest =
          newest().filter(p -> !isPacked(p)).filter(this::hasPlace).orElse(segment(first));
      boolean isNew = !Files.exists(newest);
      FileChannel channel =
          FileChannel.open(
              newest, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE);
      Open begun = new Open(channel, isNew ? 0 : tail(newest).end(), channel.size());
      open = Optional.of(begun);
      if (isNew) {
        forceFolder();
      } else {
        wipe(begun);
      }
    }
    return open.get();
  }

  /** What was torn when the power went is no line: it is not left behind those that follow. */
  private static void wipe(Open begun) throws IOException {
    ByteBuffer zeros = ByteBuffer.allocate((int) Math.max(0, begun.size - begun.used));
    for (long at = begun.used; zeros.hasRemaining(); ) {
      at += begun.channel.write(zeros, at);
    }
  }

  private boolean hasPlace(Path segment) {
    try {
      return Files.size(segment) < SEGMENT;
    } catch (IOException gone) {
      return false;
    }
  }

  private Path segment(long first) {
    return folder.resolve("%020d%s".formatted(first, PLAIN));
  }

  /** Takes room behind what is written, so that what follows needs none. */
  private static void takeRoom(Open to, int wanted) throws IOException {
    ByteBuffer zeros = ByteBuffer.allocate(wanted + ROOM);
    long at = Math.max(to.size, to.used);
    while (zeros.hasRemaining()) {
      at += to.channel.write(zeros, at);
    }
    to.channel.force(true);
    to.size = at;
  }

  private void forceFolder() throws IOException {
    try (FileChannel of = FileChannel.open(folder, StandardOpenOption.READ)) {
      of.force(true);
    }
  }

  /** What was going on is left, and begun anew from what is on the disk. */
  private void letGo() {
    open.ifPresent(
        o -> {
          try {
            o.channel.close();
          } catch (IOException gone) {
            LOG.debug("a segment could not be closed", gone);
          }
        });
    open = Optional.empty();
  }

  /** Gives back the room that was taken beforehand. */
  @Override
  public synchronized void close() {
    open.ifPresent(
        o -> {
          try {
            o.channel.truncate(o.used);
            o.channel.force(true);
          } catch (IOException full) {
            LOG.warn("room that was taken for a journal is not given back", full);
          }
        });
    letGo();
  }

  /**
   * The lines after a number, in order, each once. One that is not whole is passed over, and said
   * in the log; at the end of the last segment it is where the power went.
   */
  void after(long seq, Consumer<JournalRow> each) {
    long[] highest = {seq};
    List<Path> segments = segments();
    int first = 0;
    for (int i = 0; i < segments.size(); i++) {
      first = firstOf(segments.get(i)) <= seq + 1 ? i : first;
    }
    for (Path segment : segments.subList(first, segments.size())) {
      read(
          segment,
          line -> {
            // what lies before is not even read: of a segment few lines may be wanted
            if (JournalLine.place(line).orElse(Long.MAX_VALUE) > highest[0]) {
              JournalLine.read(line)
                  .ifPresentOrElse(
                      row -> {
                        if (row.seq() > highest[0]) {
                          highest[0] = row.seq();
                          each.accept(row);
                        }
                      },
                      () -> LOG.warn("a line of {} is not whole: it is passed over", segment));
            }
          });
    }
  }

  /** How many lines are not whole, but for one at the end. */
  long damaged() {
    long[] count = {0, 0};
    for (Path segment : segments()) {
      read(
          segment,
          line -> {
            count[1] += JournalLine.isWhole(line) ? 0 : 1;
            count[0] = JournalLine.isWhole(line) ? count[1] : count[0];
          });
    }
    return count[0];
  }

  /** Packs segments all of whose lines are before a number. */
  void pack(long seq) throws IOException {
    List<Path> segments = segments();
    for (int i = 0; i + 1 < segments.size(); i++) {
      Path segment = segments.get(i);
      if (!isPacked(segment) && firstOf(segments.get(i + 1)) <= seq) {
        String name = segment.getFileName().toString();
        Path packed = folder.resolve(name + ".gz");
        Path part = folder.resolve(name + ".part");
        try (OutputStream to = new GZIPOutputStream(Files.newOutputStream(part))) {
          Files.copy(segment, to);
        }
        try (FileChannel written = FileChannel.open(part, StandardOpenOption.WRITE)) {
          written.force(true);
        }
        Files.move(part, packed, StandardCopyOption.ATOMIC_MOVE);
        Files.delete(segment);
      }
    }
  }

  private void look() {
    if (looked) {
      return;
    }
    looked = true;
    List<Path> segments = segments();
    for (int i = segments.size() - 1; i >= 0 && last.isEmpty(); i--) {
      last = lastOf(segments.get(i)).flatMap(JournalLine::read);
    }
  }

  /** The last line of a segment that is whole. */
  private static Optional<byte[]> lastOf(Path segment) {
    if (!isPacked(segment)) {
      return tail(segment).line();
    }
    byte[][] whole = {null};
    read(segment, line -> whole[0] = JournalLine.isWhole(line) ? line : whole[0]);
    return Optional.ofNullable(whole[0]);
  }

  /**
   * The end of what is whole in a segment.
   *
   * @param line the last line that is whole
   * @param end the first byte after it
   */
  private record Tail(Optional<byte[]> line, long end) {}

  /** From the end of a segment that is not packed: only its last lines are looked at. */
  private static Tail tail(Path segment) {
    byte[] bytes;
    try {
      bytes = Files.readAllBytes(segment);
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
    int used = 0;
    while (used < bytes.length && bytes[used] != 0) {
      used++;
    }
    for (int end = lineEnd(bytes, used); end >= 0; end = lineEnd(bytes, end)) {
      byte[] line = Arrays.copyOfRange(bytes, lineEnd(bytes, end) + 1, end);
      if (JournalLine.isWhole(line)) {
        return new Tail(Optional.of(line), end + 1L);
      }
    }
    return new Tail(Optional.empty(), 0);
  }

  /** Where the last line ends that ends before a place; −1 if none does. */
  private static int lineEnd(byte[] bytes, int before) {
    int at = before - 1;
    while (at >= 0 && bytes[at] != END) {
      at--;
    }
    return at;
  }

  private Optional<Path> newest() {
    List<Path> segments = segments();
    return segments.isEmpty() ? Optional.empty() : Optional.of(segments.get(segments.size() - 1));
  }

  /** By rising number. */
  private List<Path> segments() {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files
          .filter(file -> file.toString().endsWith(PLAIN) || isPacked(file))
          .filter(file -> file.getFileName().toString().matches("\\d{20}\\..*"))
          .sorted()
          .toList();
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  private static boolean isPacked(Path segment) {
    return segment.toString().endsWith(PACKED);
  }

  private static long firstOf(Path segment) {
    return Long.parseLong(segment.getFileName().toString().substring(0, 20));
  }

  /** All whole lines up to the first zero byte. */
  private static void read(Path segment, Consumer<byte[]> each) {
    try (InputStream plain = new BufferedInputStream(Files.newInputStream(segment), 1 << 16);
        InputStream in = isPacked(segment) ? new GZIPInputStream(plain, 1 << 16) : plain) {
      LineBytes line = new LineBytes();
      byte[] buffer = new byte[1 << 16];
      for (int count = in.read(buffer); count > 0; count = in.read(buffer)) {
        for (int i = 0; i < count; i++) {
          if (buffer[i] == 0) {
            return;
          }
          if (buffer[i] == END) {
            each.accept(line.take());
          } else {
            line.add(buffer[i]);
          }
        }
      }
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** The bytes of a line, as far as they have come. */
  private static final class LineBytes {
    private byte[] bytes = new byte[1024];
    private int count;

    void add(byte b) {
      if (count == bytes.length) {
        bytes = Arrays.copyOf(bytes, 2 * count);
      }
      bytes[count++] = b;
    }

    byte[] take() {
      byte[] taken = Arrays.copyOf(bytes, count);
      count = 0;
      return taken;
    }
  }
}
