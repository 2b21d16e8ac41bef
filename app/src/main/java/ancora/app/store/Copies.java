package ancora.app.store;

import ancora.app.options.Options;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Copies of the database: one at each start, and each day. */
@Component
public class Copies {

  private static final Logger LOG = LoggerFactory.getLogger(Copies.class);

  private final DatabaseFile file;
  private final JdbcTemplate database;
  private final Saving saving;
  private final ScheduledExecutorService days =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread made = new Thread(task, "copies");
            made.setDaemon(true);
            return made;
          });

  Copies(Options options, DataSource source, Saving saving) {
    this.file = new DatabaseFile(options.data());
    this.database = new JdbcTemplate(source);
    this.saving = saving;
  }

  /** Makes one when all that waits is saved, and one each day from now on. */
  public void begin() {
    days.scheduleAtFixedRate(
        () -> saving.then("a copy", this::make, () -> LOG.warn("no copy was made today")),
        0,
        1,
        TimeUnit.DAYS);
  }

  private void make() {
    try {
      make(file, database);
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** A copy of what is there, by the database's own means, forced to the disk itself. */
  static void make(DatabaseFile file, JdbcTemplate database) throws IOException {
    Path copy = file.nextCopy();
    database.execute("backup to '" + copy.toString().replace("'", "''") + "'");
    try (FileChannel written = FileChannel.open(copy, StandardOpenOption.WRITE)) {
      written.force(true);
    }
    file.forgetOld();
  }

  @PreDestroy
  void close() {
    days.shutdownNow();
  }
}
