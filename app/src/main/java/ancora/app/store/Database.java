package ancora.app.store;

import ancora.core.Refusal;
import com.zaxxer.hikari.HikariDataSource;
import java.nio.file.Path;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSessionFactory;
import org.mybatis.spring.SqlSessionTemplate;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The database, in a file of the folder in which shows are kept. */
@Configuration
class Database {

  /**
   * Small and durable. What is written is on the disk itself only after a checkpoint ({@link
   * ShowStore#append}), so that no write needs to hurry; what is replaced is let go of after a
   * second; and it is closed by who opened it, when all has been written.
   */
  private static final String SETTINGS =
      ";WRITE_DELAY=500;RETENTION_TIME=1000;COMPRESS=TRUE;DB_CLOSE_ON_EXIT=FALSE";

  private static final String USER = "ancora";

  /**
   * The connections to it.
   *
   * @param data the folder
   */
  @Bean
  HikariDataSource dataSource(@Value("${ancora.data}") String data) {
    HikariDataSource source = new HikariDataSource();
    source.setJdbcUrl(url(data));
    source.setUsername(USER);
    source.setPassword("");
    return source;
  }

  /** Lines of the journal go out together, where the others each go by themselves. */
  @Bean
  JournalMapper journalMapper(SqlSessionFactory factory) {
    factory.getConfiguration().addMapper(JournalMapper.class);
    return new SqlSessionTemplate(factory, ExecutorType.BATCH).getMapper(JournalMapper.class);
  }

  /** Refuses a path that would be taken for more than a path. */
  static String url(String data) {
    Path folder = Path.of(data).toAbsolutePath().normalize();
    Refusal.unless(
        !folder.toString().contains(";"),
        "The folder %s has a “;” in its path: keep the shows in another one (--data=FOLDER).",
        folder);
    return "jdbc:h2:file:" + folder.resolve("ancora") + SETTINGS;
  }
}
