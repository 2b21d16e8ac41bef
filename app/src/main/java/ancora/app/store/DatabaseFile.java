package ancora.app.store;

import ancora.core.Refusal;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.h2.mvstore.MVStore;
import org.h2.mvstore.MVStoreException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The database's file, before it is opened for good. One that does not open is put aside, as it
 * was, and the newest copy that does takes its place; the journals lead on from there.
 *
 * @param folder where the shows are kept
 */
record DatabaseFile(Path folder) {

  private static final Logger LOG = LoggerFactory.getLogger(DatabaseFile.class);

  private static final String NAME = "ancora.mv.db";
  private static final String COPIES = "copies";
  private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss");

  /** A start writes to the database: it needs so much room, in bytes. */
  private static final long LEAST_TO_START = 16L << 20;

  /** So many copies are kept. */
  private static final int MOST_COPIES = 10;

  /** A file that is damaged is written to by H2 as it is opened, unless it is told not to. */
  private static final String READ_ONLY = ";ACCESS_MODE_DATA=r";

  /** What H2 says where another process has the file (its ErrorCode). */
  private static final int IN_USE = 90020;

  /**
   * Makes it ready to be opened.
   *
   * @param url its address
   * @param newest the newest version of the tables that is known
   * @return a sentence, if something was wrong with it
   */
  Optional<String> makeReady(String url, String user, int newest) {
    try {
      Files.createDirectories(folder);
    } catch (IOException refused) {
      throw new Refusal(
          "The folder %s cannot be made: choose another (--data=FOLDER).".formatted(folder));
    }
    Refusal.unless(
        Files.isWritable(folder),
        "Nothing can be written in the folder %s: change its permissions, or choose another"
            + " (--data=FOLDER).",
        folder);
    long room = new DiskRoom(folder).left();
    Refusal.unless(
        room >= LEAST_TO_START,
        "There are only %s MB left on the disk of %s: free some, then start again.",
        room >> 20,
        folder);
    boolean lacks = !Files.exists(file());
    if (lacks && !Files.isDirectory(folder.resolve("journals"))) {
      return Optional.empty();
    }
    if (!lacks) {
      Optional<SQLException> fault = fault(url, user, newest);
      if (fault.isEmpty()) {
        return Optional.empty();
      }
      LOG.warn("the database does not open, and is put aside: {}", fault.get().getMessage());
      LOG.debug("why", fault.get());
      putAside();
    }
    Optional<Path> copy = restored(url, user, newest);
    String what =
        lacks ? "The database was not there" : "The database was damaged, and is put aside";
    return Optional.of(
        copy.map(from -> what + ": it is had from the copy " + from.getFileName())
                .orElse(what + ": it is made anew")
            + ", and brought up to the journals. Look whether all runs are there.");
  }

  /** Whether it opens; refuses where it is in use, or of a later version. */
  boolean opens(String url, String user, int newest) {
    return fault(url, user, newest).isEmpty();
  }

  private Path file() {
    return folder.resolve(NAME);
  }

  /** What keeps it from being opened; refuses where it is in use, or of a later version. */
  private Optional<SQLException> fault(String url, String user, int newest) {
    if (isEmpty()) {
      return Optional.of(new SQLException("there is nothing in the database"));
    }
    try (Connection connection = DriverManager.getConnection(url + READ_ONLY, user, "");
        Statement statement = connection.createStatement()) {
      int version = version(statement);
      Refusal.unless(
          version <= newest,
          "These shows were kept by a later Ancora (version %s of its tables; %s is the last that this"
              + " one knows): bring this one up to date.",
          version,
          newest);
      // an empty file opens as a new database; where there are journals there was another
      return version > 0
          ? Optional.empty()
          : Optional.of(new SQLException("there is nothing in the database"));
    } catch (SQLException fault) {
      Refusal.unless(
          fault.getErrorCode() != IN_USE,
          "Another Ancora has these shows open: end that one, or choose another folder"
              + " (--data=FOLDER).");
      return Optional.of(fault);
    } catch (IllegalStateException damaged) {
      return Optional.of(new SQLException(damaged));
    }
  }

  /** Whether it can be read, and H2 would make a new database of it. */
  private boolean isEmpty() {
    if (file().toFile().length() == 0) {
      return true;
    }
    try (MVStore store = new MVStore.Builder().fileName(file().toString()).readOnly().open()) {
      return store.getMapNames().isEmpty();
    } catch (MVStoreException unreadable) {
      return false;
    }
  }

  private static int version(Statement statement) throws SQLException {
    try (ResultSet tables =
        statement.executeQuery(
            "select 1 from information_schema.tables where table_name = 'flyway_schema_history'")) {
      if (!tables.next()) {
        return 0;
      }
    }
    try (ResultSet versions =
        statement.executeQuery(
            "select max(cast(\"version\" as int)) from \"flyway_schema_history\"")) {
      return versions.next() ? versions.getInt(1) : 0;
    }
  }

  private void putAside() {
    String aside = "damaged-" + LocalDateTime.now().format(STAMP) + ".mv.db";
    try {
      Files.move(file(), folder.resolve(aside));
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** The newest copy that opens, in its place. */
  private Optional<Path> restored(String url, String user, int newest) {
    for (Path copy : copies()) {
      try {
        unpack(copy);
        if (fault(url, user, newest).isEmpty()) {
          return Optional.of(copy);
        }
        Files.deleteIfExists(file());
      } catch (IOException unreadable) {
        LOG.warn("the copy {} cannot be read", copy, unreadable);
      }
    }
    return Optional.empty();
  }

  private void unpack(Path copy) throws IOException {
    try (InputStream in = Files.newInputStream(copy);
        ZipInputStream zip = new ZipInputStream(in)) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        if (entry.getName().endsWith(NAME)) {
          Files.copy(zip, file(), StandardCopyOption.REPLACE_EXISTING);
        }
      }
    }
  }

  /** Where the next copy is to be. */
  Path nextCopy() throws IOException {
    Files.createDirectories(folder.resolve(COPIES));
    return folder.resolve(COPIES).resolve("ancora-" + LocalDateTime.now().format(STAMP) + ".zip");
  }

  /** The copies, the newest first. */
  List<Path> copies() {
    if (!Files.isDirectory(folder.resolve(COPIES))) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder.resolve(COPIES))) {
      return files
          .filter(file -> file.getFileName().toString().matches("ancora-.*\\.zip"))
          .sorted((a, b) -> b.getFileName().compareTo(a.getFileName()))
          .toList();
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** Lets go of the oldest copies. */
  void forgetOld() throws IOException {
    List<Path> all = copies();
    for (Path old : all.subList(Math.min(all.size(), MOST_COPIES), all.size())) {
      Files.delete(old);
    }
  }
}
