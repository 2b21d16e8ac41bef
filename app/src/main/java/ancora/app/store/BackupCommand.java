package ancora.app.store;

import ancora.app.start.Given;
import ancora.core.Refusal;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.springframework.util.FileSystemUtils;

/**
 * {@code ./ancora backup FILE} and {@code ./ancora restore FILE}: all shows as one file, be Ancora
 * running with them or not. What is in a backup is the database, or its newest copy, and the
 * journals, which lead on from there.
 */
public final class BackupCommand {

  private static final String USAGE =
      """
      usage: ./ancora backup  [--data=FOLDER] FILE.zip
             ./ancora restore [--data=FOLDER] FILE.zip""";

  private static final String DATABASE = "ancora.mv.db";
  private static final String JOURNALS = "journals/";
  private static final int BAD_INPUT = 2;

  private BackupCommand() {}

  public static void main(String[] arguments) {
    System.exit(run(List.of(arguments), System.out, System.err));
  }

  /**
   * Runs the command.
   *
   * @return the exit code: 0, or 2 if something that was given is not right
   */
  static int run(List<String> arguments, PrintStream out, PrintStream err) {
    try {
      Given given = Given.of(arguments, USAGE, Set.of());
      List<String> words = given.words();
      Refusal.unless(
          words.size() == 2 && (words.get(0).equals("backup") || words.get(0).equals("restore")),
          USAGE);
      Path file = Path.of(words.get(1));
      Path folder = given.data();
      out.println(words.get(0).equals("backup") ? backup(folder, file) : restore(folder, file));
      return 0;
    } catch (Refusal refusal) {
      err.println(refusal.getMessage());
    } catch (IOException failure) {
      err.println("That cannot be written or read: " + failure.getMessage() + ".");
    }
    return BAD_INPUT;
  }

  private static String backup(Path data, Path file) throws IOException {
    Refusal.unless(
        Files.isDirectory(data.resolve("journals")) || Files.exists(data.resolve(DATABASE)),
        "There are no shows in %s: say where they are (--data=FOLDER).",
        data);
    Refusal.unless(!Files.exists(file), "%s is there already: name another file.", file);
    Path part = file.resolveSibling(file.getFileName() + ".part");
    int journals;
    Optional<Path> copy;
    try {
      try (OutputStream to = Files.newOutputStream(part);
          ZipOutputStream zip = new ZipOutputStream(to)) {
        journals = addJournals(data, zip);
        copy = addDatabase(data, zip);
      }
      try (FileChannel written = FileChannel.open(part, StandardOpenOption.WRITE)) {
        written.force(true);
      }
      Files.move(part, file);
    } finally {
      Files.deleteIfExists(part);
    }
    String said = "Backed up: %s, with the journals of %s shows.".formatted(file, journals);
    return copy.isEmpty() ? said : said + runsUntil(copy.get());
  }

  /** What a backup beside a house that is open lacks: runs are in its database alone. */
  private static String runsUntil(Path copy) throws IOException {
    LocalDateTime made =
        LocalDateTime.ofInstant(
            Files.getLastModifiedTime(copy).toInstant(), ZoneId.systemDefault());
    return (" Ancora is running: runs recorded after %s are not in it. To have them too, end Ancora"
            + " and back up once more.")
        .formatted(made.format(DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm")));
  }

  private static int addJournals(Path data, ZipOutputStream zip) throws IOException {
    Path folder = data.resolve("journals");
    if (!Files.isDirectory(folder)) {
      return 0;
    }
    int heads = 0;
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
        if (!file.toString().endsWith(".part")) {
          add(zip, JOURNALS + folder.relativize(file).toString().replace('\\', '/'), file);
          heads += file.getFileName().toString().equals("head.json") ? 1 : 0;
        }
      }
    }
    return heads;
  }

  /** Adds the database itself, if nobody has it open; else its newest copy, which it gives. */
  private static Optional<Path> addDatabase(Path data, ZipOutputStream zip) throws IOException {
    Path file = data.resolve(DATABASE);
    if (Files.exists(file)) {
      try (FileChannel channel =
              FileChannel.open(file, StandardOpenOption.READ, StandardOpenOption.WRITE);
          FileLock lock = channel.tryLock()) {
        if (lock != null) {
          add(zip, DATABASE, file);
          return Optional.empty();
        }
      } catch (OverlappingFileLockException inUse) {
        // of this very process, as in tests
      }
    }
    Optional<Path> copy = new DatabaseFile(data).copies().stream().findFirst();
    if (copy.isPresent()) {
      try (InputStream in = Files.newInputStream(copy.get());
          ZipInputStream of = new ZipInputStream(in)) {
        for (ZipEntry entry = of.getNextEntry(); entry != null; entry = of.getNextEntry()) {
          if (entry.getName().endsWith(DATABASE)) {
            zip.putNextEntry(new ZipEntry(DATABASE));
            of.transferTo(zip);
            zip.closeEntry();
          }
        }
      }
    }
    return copy;
  }

  private static void add(ZipOutputStream zip, String name, Path file) throws IOException {
    zip.putNextEntry(new ZipEntry(name));
    Files.copy(file, zip);
    zip.closeEntry();
  }

  private static String restore(Path data, Path file) throws IOException {
    Refusal.unless(Files.isRegularFile(file), "There is no file %s: name a backup.", file);
    if (Files.isDirectory(data)) {
      try (Stream<Path> there = Files.list(data)) {
        Refusal.unless(
            there.findAny().isEmpty(),
            "There are shows in %s already, and nothing is overwritten: choose an empty folder"
                + " (--data=FOLDER).",
            data);
      }
    }
    Path part = data.resolveSibling(data.getFileName() + ".part");
    FileSystemUtils.deleteRecursively(part);
    try {
      Refusal.unless(unpack(file, part) > 0, "%s is no backup of Ancora: choose another.", file);
      Files.deleteIfExists(data);
      Files.move(part, data);
    } catch (ZipException broken) {
      throw new Refusal("%s is no backup, or is cut off: choose another.".formatted(file));
    } catch (EOFException cut) {
      throw new Refusal("%s is cut off: choose another.".formatted(file));
    } finally {
      FileSystemUtils.deleteRecursively(part);
    }
    return "Restored into %s: start Ancora with --data=%s.".formatted(data, data);
  }

  /** Puts what is Ancora's in a backup into a folder; gives how many files that were. */
  private static int unpack(Path file, Path folder) throws IOException {
    int files = 0;
    try (InputStream in = Files.newInputStream(file);
        ZipInputStream zip = new ZipInputStream(in)) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        Path to = folder.resolve(entry.getName()).normalize();
        boolean own =
            to.startsWith(folder)
                && (entry.getName().equals(DATABASE) || entry.getName().startsWith(JOURNALS));
        if (own && !entry.isDirectory()) {
          Files.createDirectories(to.getParent());
          Files.copy(zip, to);
          files++;
        }
      }
    }
    return files;
  }
}
