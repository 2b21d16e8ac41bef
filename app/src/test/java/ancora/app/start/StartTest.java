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
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A start that cannot be is refused in one sentence. */
class StartTest {

  @TempDir Path folder;

  private String refused(Path data, int port, String... more)
      throws IOException, InterruptedException {
    Process process = House.begun(data, port, more);
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
  void aDoorToTheRoomThatIsTaken() throws IOException, InterruptedException {
    try (House house = House.open(folder.resolve("data"))) {
      assertThat(refused(folder.resolve("other"), 0, "--ancora.listen=" + house.port()))
          .startsWith("Port %s is in use: ".formatted(house.port()))
          .doesNotContain("\n");
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = ':',
      value = {
        "Windows 11:rundll32 url.dll,FileProtocolHandler lamp",
        "Mac OS X:open lamp",
        "Linux:xdg-open lamp"
      })
  void theBrowserIsOpenedAsTheSystemDoesIt(String system, String all) {
    assertThat(String.join(" ", Browser.opener(system, "lamp"))).isEqualTo(all);
  }

  @Test
  void whatAnswersAtAPortIsKnownForAnAncora() {
    try (House house = House.open(folder.resolve("data"))) {
      assertThat(Browser.isAncora(house.port())).isTrue();
    }
    assertThat(Browser.isAncora(1)).isFalse();
  }

  @Test
  void aFileInPlaceOfAFolder() throws IOException, InterruptedException {
    Path file = Files.writeString(folder.resolve("file"), "no folder");
    assertThat(refused(file, 0))
        .isEqualTo("The folder %s cannot be made: choose another (--data=FOLDER).".formatted(file));
  }
}
