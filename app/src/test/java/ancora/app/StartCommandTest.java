package ancora.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StartCommandTest {

  @AfterEach
  void forget() {
    System.clearProperty("ancora.kept");
    System.clearProperty("ancora.from");
  }

  @Test
  void othersComeInAtTheNextPortIfNoneIsSaid() {
    assertThat(StartCommand.configuration(List.of("run", "--listen", "--port=9000")))
        .contains("--ancora.port=9000", "--ancora.listen=9001", "--ancora.plain=false");
    assertThat(StartCommand.configuration(List.of("run", "--listen", "--port=65535")))
        .contains("--ancora.listen=65534");
    assertThat(StartCommand.configuration(List.of("demo", "--listen=443", "--plain", "--open")))
        .contains(
            "--ancora.demo=true",
            "--ancora.listen=443",
            "--ancora.plain=true",
            "--ancora.opens-browser=true");
    assertThat(StartCommand.configuration(List.of("run")))
        .contains("--ancora.port=8111", "--ancora.demo=false", "--ancora.opens-browser=false")
        .noneMatch(option -> option.startsWith("--ancora.listen"));
  }

  /**
   * A package keeps shows in the user's own folder, and sees what is named from where he stands.
   */
  @Test
  void aPackageKeepsItsShowsElsewhere() {
    System.setProperty("ancora.kept", "/home/keeper/shows");
    System.setProperty("ancora.from", "/tmp/quay");
    assertThat(StartCommand.configuration(List.of("run")))
        .contains("--ancora.data=" + Path.of("/home/keeper/shows"));
    assertThat(StartCommand.configuration(List.of("run", "--data=tonight")))
        .contains("--ancora.data=" + Path.of("/tmp/quay/tonight"));
  }

  @ParameterizedTest
  @CsvSource({
    "run --port=0, '0' is not a port",
    "run --port=65536, '65536' is not a port",
    "run --port=lamp, 'lamp' is not a port",
    "run --lamp, usage: ",
    "run demo, usage: ",
    "--port=9000, usage: ",
    "run --port=1 --port=2, usage: ",
    "run --listen=1 --listen=2, usage: "
  })
  void whatIsNotUnderstoodIsRefused(String words, String sentence) {
    assertThatThrownBy(() -> StartCommand.configuration(List.of(words.split(" "))))
        .isInstanceOf(Refusal.class)
        .hasMessageStartingWith(sentence);
  }
}
