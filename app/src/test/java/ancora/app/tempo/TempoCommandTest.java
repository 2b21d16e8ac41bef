package ancora.app.tempo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tunes in abc notation (the standard 2.1), made for this test, are set as MIDI files by a program
 * that others wrote, abc2midi; the tempo that it was told is found in them again.
 */
class TempoCommandTest {

  @TempDir Path folder;

  private record Ran(int exit, String out, String err) {}

  private static Ran run(String... arguments) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    int exit = TempoCommand.run(List.of(arguments), new PrintStream(out), new PrintStream(err));
    return new Ran(
        exit, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
  }

  private Path set(String meter, String tempo, String notes)
      throws IOException, InterruptedException {
    Path abc = folder.resolve("tune.abc");
    Path midi = folder.resolve("tune.mid");
    Files.writeString(
        abc,
        "X:1\nT:The Gallery Stair\nM:%s\nL:1/8\nQ:%s\nK:D\n%s\n".formatted(meter, tempo, notes));
    Process process =
        new ProcessBuilder("abc2midi", abc.toString(), "-o", midi.toString())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("abc2midi.log").toFile())
            .start();
    assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
    assertThat(midi).exists();
    return midi;
  }

  @ParameterizedTest
  @CsvSource({
    "4/4, 1/4=96,  96,  4, D2 F2 A2 d2 | c d e c A2 F2 | G2 B2 d2 B2 | A F E F D4 | D2 F2 A2 d2 | e d c B A2 F2 | G2 E2 A2 G2 | F2 E2 D4 |]",
    "4/4, 1/4=132, 132, 4, D F A F d2 A2 | B d A F G2 E2 | F A d A f2 d2 | e c A G E2 D2 | D F A F d2 A2 | B d A F G2 E2 | F2 A2 d2 f2 | e c A c d4 |]",
    "3/4, 1/4=108, 108, 3, D2 F2 A2 | d4 c2 | B2 A2 G2 | F4 E2 | D2 F2 A2 | d4 e2 | f2 e2 c2 | d6 | D2 F2 A2 | B4 A2 |]",
    "2/4, 1/4=76,  76,  4, D2 FA | d2 cA | B2 GF | E2 A2 | D2 FA | d2 cA | BG EC | D4 | F2 Ad | f2 ed | c2 AG | D4 |]"
  })
  void theTempoOfATuneIsFoundAgain(String meter, String tempo, double bpm, int beats, String notes)
      throws IOException, InterruptedException {
    Path midi = set(meter, tempo, notes);
    Ran ran = run(midi.toString(), "--json");
    assertThat(ran.err()).isEmpty();
    JsonNode found = JsonMapper.shared().readTree(ran.out());
    double octaves = Math.log(found.get("bpm").asDouble() / bpm) / Math.log(2);
    assertThat(octaves - Math.rint(octaves))
        .as("%s is heard as %s", tempo, found)
        .isCloseTo(0, within(0.01));
    if (Math.rint(octaves) == 0 && beats == 3) {
      assertThat(found.get("beatsInBar").asInt()).isEqualTo(beats);
    }
    assertThat(run(midi.toString()).out()).contains("beats a minute");
  }

  @Test
  void badInputGetsASentence() throws IOException {
    Path text = Files.writeString(folder.resolve("no.mid"), "MThd is how it begins, no more");
    Path cut =
        Files.write(
            folder.resolve("cut.mid"),
            new byte[] {'M', 'T', 'h', 'd', 0, 0, 0, 6, 0, 1, 0, 1, 0, 96, 'M', 'T', 'r', 'k', 0});
    assertThat(run().err()).startsWith("usage:");
    assertThat(run(text.toString()).err()).contains("broken at its beginning");
    assertThat(run(cut.toString()).err()).contains("cut off in track 1");
    assertThat(run(folder.toString()).err()).contains("There is no file");
    assertThat(run(folder.resolve("none.mid").toString()).err()).contains("There is no file");
    assertThat(run(text.toString()).exit()).isEqualTo(2);
  }
}
