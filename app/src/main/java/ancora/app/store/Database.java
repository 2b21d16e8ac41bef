package ancora.app.store;

import ancora.app.options.Options;
import ancora.core.Refusal;
import com.zaxxer.hikari.HikariDataSource;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import javax.sql.DataSource;
import org.springframework.boot.flyway.autoconfigure.FlywayMigrationStrategy;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.jdbc.core.JdbcTemplate;

/** The database, in a file of the folder in which shows are kept. */
@Configuration
class Database {

  /**
   * Small. What must not be lost is in the journals before it is here, so that no write needs to
   * hurry; what is replaced is let go of after a second; it is closed by who opened it, when all
   * has been written; and it writes no file about its own faults, which would fill a full disk.
   */
  private static final String SETTINGS =
      ";WRITE_DELAY=500;RETENTION_TIME=1000;COMPRESS=TRUE;DB_CLOSE_ON_EXIT=FALSE;TRACE_LEVEL_FILE=0";

  static final String USER = "ancora";

  /** The newest of the migrations. */
  static final int NEWEST = 12;

  /**
   * The connections to it.
   *
   * @param data the folder
   */
  @Bean
  HikariDataSource dataSource(Options options, HouseNews news) {
    new DatabaseFile(options.data())
        .makeReady(url(options.data()), USER, NEWEST)
        .ifPresent(news::say);
    HikariDataSource source = new HikariDataSource();
    source.setJdbcUrl(url(options.data()));
    source.setUsername(USER);
    source.setPassword("");
    return source;
  }

  /** Before tables become others, a copy is made of them as they are. */
  @Bean
  FlywayMigrationStrategy migrating(Options options, DataSource source) {
    return flyway -> {
      if (flyway.info().current() != null && flyway.info().pending().length > 0) {
        try {
          Copies.make(new DatabaseFile(options.data()), new JdbcTemplate(source));
        } catch (IOException failure) {
          throw new UncheckedIOException(failure);
        }
      }
      flyway.migrate();
    };
  }

  /** Refuses a path that would be taken for more than a path. */
  static String url(Path folder) {
    Refusal.unless(
        !folder.toString().contains(";"),
        "The folder %s has a “;” in its path: keep the shows in another one (--data=FOLDER).",
        folder);
    return "jdbc:h2:file:" + folder.resolve("ancora") + SETTINGS;
  }
}
