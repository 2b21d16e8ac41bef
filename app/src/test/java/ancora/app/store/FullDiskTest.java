package ancora.app.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ancora.app.House;
import ancora.app.LongTable;
import ancora.app.PageStandIn;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.stream.LongStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A small disk, of its own, is filled and emptied while somebody plays: what the hands did, the
 * journal and the stage agree, and nothing that was acknowledged is lost. Only root may have such a
 * disk; for others {@link JournalWriterTest} has one that is pretended.
 */
class FullDiskTest {

  private static final int TIMES = Boolean.getBoolean("ancora.long") ? 20 : 3;
  private static final int KEYS = 1_200;
  private static final int MEGABYTES = 96;

  @TempDir Path folder;
  private Path disk;

  @BeforeEach
  void mount() throws IOException, InterruptedException {
    disk = Files.createDirectory(folder.resolve("disk"));
    assumeTrue(
        did("mount", "-t", "tmpfs", "-o", "size=" + MEGABYTES + "m", "tmpfs", disk.toString()),
        "only root can have a small disk");
  }

  @AfterEach
  void unmount() throws IOException, InterruptedException {
    did("umount", disk.toString());
  }

  private static boolean did(String... command) throws IOException, InterruptedException {
    try {
      Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
      process.getInputStream().readAllBytes();
      return process.waitFor(1, TimeUnit.MINUTES) && process.exitValue() == 0;
    } catch (IOException noSuchCommand) {
      return false;
    }
  }

  /** Takes all room that is left. */
  private Path fill() throws IOException {
    Path filler = disk.resolve("filler");
    byte[] some = new byte[64 << 10];
    try (OutputStream out = Files.newOutputStream(filler)) {
      for (; ; ) {
        out.write(some);
      }
    } catch (IOException full) {
      return filler;
    }
  }

  @Test
  void aDiskThatFillsAndIsEmptiedLosesNothing() throws IOException {
    Path data = disk.resolve("shows");
    Set<Long> acknowledged = new TreeSet<>();
    long sent = 0;
    for (int time = 0; time < TIMES; time++) {
      try (House house = House.open(data)) {
        if (time == 0) {
          house
              .bean(ShowStore.class)
              .add(Show.named("Gale").withNewPart("Kit", Sound.STANDARD_KIT), false);
        }
        try (PageStandIn page = new PageStandIn(house.port(), 1, "hands")) {
          long last = page.next("welcome").get("last").asLong();
          assertThat(last).as("what was acknowledged is known").isEqualTo(sent);
          page.goOnFrom(last);
          Path filler = fill();
          long stamp = page.now();
          for (int i = 0; i < KEYS; i++) {
            String what = i % 2 == 0 ? "keyDown" : "keyUp";
            sent =
                page.command(
                    "{\"do\":\"%s\",\"device\":\"pads\",\"channel\":9,\"pitch\":%d,\"velocity\":90}"
                        .formatted(what, 36 + i / 2 % 20),
                    stamp);
          }
          if (time % 2 == 0) {
            // the database is not written to, or the journal waits as well
            while (!house.bean(DiskLamp.class).isLit()) {
              page.now();
            }
          }
          Files.delete(filler);
          long all = sent;
          page.next(m -> m.path("ack").asLong() == all);
          LongStream.rangeClosed(last + 1, all).forEach(acknowledged::add);
        }
        List<Long> journal =
            house.bean(Journals.class).after(1, 0).stream()
                .filter(row -> row.client().equals("hands"))
                .map(JournalRow::clientSeq)
                .toList();
        assertThat(journal).doesNotHaveDuplicates().containsAll(acknowledged);
        assertThat(house.bean(HouseNews.class).sentences()).isEmpty();
      }
    }
    LongTable.row(
        "a small disk filled and emptied %s times: commands kept".formatted(TIMES),
        "%,d of %,d".formatted(acknowledged.size(), sent));
  }
}
