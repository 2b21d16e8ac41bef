package ancora.app.start;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A start that cannot be is refused in one sentence. */
class StartTest {

  @TempDir Path folder;

  private String refused(Path data, int port) throws IOException, InterruptedException {
    Process process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty(
                    "surefire.test.class.path", System.getProperty("java.class.path")),
                "ancora.app.Ancora",
                "--spring.main.banner-mode=off",
                "--ancora.port=" + port,
                "--ancora.data=" + data)
            .redirectErrorStream(true)
            .start();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor(5, TimeUnit.MINUTES)).isTrue();
    assertThat(process.exitValue()).isNotZero();
    return said.strip();
  }

  @Test
  void twoServersOnOneFolderAndOnOnePort() throws IOException, InterruptedException {
    Path data = folder.resolve("data");
    try (House house = House.open(data)) {
      assertThat(refused(data, 0))
          .isEqualTo(
              "Another Ancora has these shows open: end that one, or choose another folder"
                  + " (--data=FOLDER).");
      assertThat(refused(folder.resolve("other"), house.port()))
          .startsWith("Port %s is in use: ".formatted(house.port()))
          .doesNotContain("\n");
    }
  }

  @Test
  void aFileInPlaceOfAFolder() throws IOException, InterruptedException {
    Path file = Files.writeString(folder.resolve("file"), "no folder");
    assertThat(refused(file, 0))
        .isEqualTo("The folder %s cannot be made: choose another (--data=FOLDER).".formatted(file));
  }
}
