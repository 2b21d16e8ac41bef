package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.search.Search;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * A journal sounds the same tomorrow. The order in which {@code Map.of}, {@code Set.of} and their
 * copies are gone through is another in each run of the JVM (so the Javadoc of {@code
 * java.util.Set}, "Unmodifiable Sets"): it is never seen.
 */
class SameInEveryRunTest {

  private static final int RUNS = 2;
  private static final int PERFORMANCES = Search.samples(40);

  @Test
  void performancesAreTheSameInEveryRunOfTheJvm() throws Exception {
    List<Process> runs = new ArrayList<>();
    for (int i = 0; i < RUNS; i++) {
      runs.add(run());
    }
    List<List<String>> digests = new ArrayList<>();
    for (Process run : runs) {
      String output = new String(run.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(run.waitFor()).as(output).isZero();
      digests.add(output.lines().toList());
    }
    assertThat(digests.get(0)).hasSize(PERFORMANCES);
    assertThat(digests).allSatisfy(run -> assertThat(run).isEqualTo(digests.get(0)));
  }

  private static Process run() throws IOException {
    return new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-XX:TieredStopAtLevel=1",
            "-XX:+UseSerialGC",
            "-cp",
            System.getProperty("surefire.test.class.path", System.getProperty("java.class.path")),
            Digest.class.getName(),
            String.valueOf(PERFORMANCES))
        .redirectErrorStream(true)
        .start();
  }
}
