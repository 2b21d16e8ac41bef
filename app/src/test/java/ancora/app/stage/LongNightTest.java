package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import ancora.app.LongTable;
import ancora.app.PageStandIn;
import ancora.app.RandomHands;
import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.app.journal.JournalFile.Line;
import ancora.app.store.Disk;
import ancora.core.replay.Replay;
import ancora.core.rules.Command;
import ancora.core.stage.Stage;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;

/** An hour on stage, and a show in which was played for a thousand: what is long for a test. */
@EnabledIfSystemProperty(named = "ancora.long", matches = "true")
class LongNightTest {

  private static final int MINUTES = Integer.getInteger("ancora.minutes", 60);
  private static final long MINUTE = 60_000_000;

  /** What an hour of it may hold more than its first ten minutes, in bytes. */
  private static final long MORE = 200_000_000;

  @TempDir Path data;

  /** By the engine's own time: what was done, written down and done again, makes the same stage. */
  @Test
  void anHourOfHandsIsTheSameWhenItIsReplayed() {
    long seed = Long.getLong("ancora.seed", 3600);
    RandomHands hands = new RandomHands(new Random(seed));
    Random apart = new Random(seed);
    Stage began = Stage.of(RandomHands.show(seed));
    Replay played = Replay.ofRuns(began);
    List<Line> lines = new ArrayList<>();
    long heap = 0;
    for (long now = 1_000_000; now < MINUTES * MINUTE; now += 1 + apart.nextInt(120_000)) {
      played.advance(now);
      Command command = hands.next(played.stage());
      lines.add(new Line(now, now, command));
      played.apply(command, now, now);
      heap = heap == 0 && now > MINUTES * MINUTE / 6 ? heap() : heap;
    }
    long last = heap();
    LongTable.row(
        "%s minutes of hands in the core: commands, notes in clips".formatted(MINUTES),
        "%s, %s".formatted(lines.size(), notes(played.stage())));
    LongTable.row(
        "  heap after a sixth of it, and after all",
        "%.1f, %.1f MB".formatted(heap / 1e6, last / 1e6));
    assertThat(last).isLessThan(heap + MORE);
    Replay again = Replay.ofRuns(began);
    for (Line line : lines) {
      again.advance(line.at());
      Command read = CommandJson.read(CommandJson.write(line.command()));
      again.apply(read, line.stamp(), line.at());
    }
    assertThat(CoreJson.write(again.stage().show()))
        .isEqualTo(CoreJson.write(played.stage().show()));
    assertThat(again.runs()).isEqualTo(played.runs());
  }

  private static long notes(Stage stage) {
    return stage.show().parts().stream()
        .flatMap(part -> part.shelf().stream())
        .mapToLong(clip -> clip.notes().count())
        .sum();
  }

  private static long heap() {
    System.gc();
    return ManagementFactory.getMemoryMXBean().getHeapMemoryUsage().getUsed();
  }

  @Test
  void aShowOfAMillionLinesOpensWithAllOfThem() throws IOException {
    int lines = 1_000_000;
    ManyLines.in(data, lines);
    long began = System.nanoTime();
    try (House house = House.open(data);
        PageStandIn page = new PageStandIn(house.port(), 1, "one")) {
      assertThat(page.next("welcome").get("last").asLong()).isEqualTo(lines);
      double seconds = (System.nanoTime() - began) / 1e9;
      LongTable.row(
          "a show of %s lines: restart to open".formatted(lines), "%.1f s".formatted(seconds));
      long[] read = {0};
      house
          .bean(Disk.class)
          .journals()
          .after(
              1,
              0,
              row -> {
                assertThat(row.seq()).isEqualTo(++read[0]);
              });
      assertThat(read[0]).as("none is lost, and none doubled").isEqualTo(lines);
    }
  }
}
