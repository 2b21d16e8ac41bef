package ancora.app.health;

import ancora.app.stage.StageHouse;
import ancora.app.store.Disk;
import ancora.app.store.DiskRoom;
import javax.sql.DataSource;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.Health.Builder;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.boot.jdbc.health.DataSourceHealthIndicator;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Whether the house is well, part by part, under {@code /actuator/health}: engine, journal,
 * database and disk. Each that is not says in a sentence what to do.
 */
@Configuration
class HouseHealth {

  private static final String WHY = "why";

  /** The stages of all shows that are open answer. */
  @Bean
  HealthIndicator engineHealthIndicator(StageHouse house) {
    return () -> {
      try {
        return up().withDetail("open", house.open()).build();
      } catch (RuntimeException silent) {
        return down("A show does not answer: keep what is to be kept, and start Ancora again.");
      }
    };
  }

  /** What is played comes to the disk. */
  @Bean
  HealthIndicator journalHealthIndicator(Disk disk) {
    return () ->
        disk.lamp().isLitByJournal()
            ? down("The disk takes nothing: what is played is kept in memory. Free space on it.")
            : up().build();
  }

  @Bean
  HealthIndicator databaseHealthIndicator(DataSource source) {
    return new DataSourceHealthIndicator(source);
  }

  /** There is room for more than journals. */
  @Bean
  HealthIndicator diskHealthIndicator(DiskRoom room) {
    return () ->
        room.isEnough()
            ? up().withDetail("bytes", room.left()).build()
            : down("Less than %s MiB are left: free space.".formatted(DiskRoom.LEAST >> 20));
  }

  private static Builder up() {
    return new Builder().up();
  }

  private static Health down(String why) {
    return new Builder().down().withDetail(WHY, why).build();
  }
}
