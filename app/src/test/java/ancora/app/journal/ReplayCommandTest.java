package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MidiSystem;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Journals done again, checked against events that were worked out by hand. */
class ReplayCommandTest {

  private static final Path DOCUMENT = Path.of("../docs/journal.md");
  private static final Path JOURNALS = Path.of("src/test/resources/journals");

  @TempDir Path folder;

  private record Ran(int exit, String out, String err) {}

  private static Ran run(String... arguments) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    int exit = ReplayCommand.run(arguments, new PrintStream(out), new PrintStream(err));
    return new Ran(
        exit, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
  }

  private static String block(String language) throws IOException {
    Matcher block =
        Pattern.compile("```" + language + "\n(.*?)```", Pattern.DOTALL)
            .matcher(Files.readString(DOCUMENT));
    assertThat(block.find()).isTrue();
    return block.group(1);
  }

  private Path file(String text) throws IOException {
    return Files.writeString(folder.resolve("journal.jsonl"), text);
  }

  private static String withoutClicks(Path events) throws IOException {
    return String.join(
            "\n",
            Files.readAllLines(events).stream().filter(line -> !line.contains("click")).toList())
        + "\n";
  }

  @Test
  void theExampleInTheDocumentIsTrue() throws IOException, InvalidMidiDataException {
    Path journal = file(block("jsonl"));
    Path events = folder.resolve("events.csv");
    Path midi = folder.resolve("out.mid");
    Path state = folder.resolve("state.json");
    Ran ran =
        run(
            journal.toString(),
            "--events",
            events.toString(),
            "--midi",
            midi.toString(),
            "--state",
            state.toString());
    assertThat(ran.err()).isEmpty();
    assertThat(ran.exit()).isZero();
    assertThat(ran.out()).startsWith("7 lines, 0 refused");
    assertThat(withoutClicks(events)).isEqualTo(block("csv"));
    assertThat(MidiSystem.getMidiFileFormat(midi.toFile()).getType()).isEqualTo(1);
    assertThat(Files.readString(state))
        .contains("\"rolling\" : false")
        .contains("\"letter\" : \"a\"");
  }

  static Stream<Path> journals() throws IOException {
    try (Stream<Path> files = Files.list(JOURNALS)) {
      return files.filter(f -> f.toString().endsWith(".jsonl")).sorted().toList().stream();
    }
  }

  /** Each journal has its events beside it, worked out by hand; how is said in the README there. */
  @ParameterizedTest
  @MethodSource("journals")
  void eachJournalSoundsAsWorkedOut(Path journal) throws IOException {
    Path events = folder.resolve("events.csv");
    Ran ran = run(journal.toString(), "--events", events.toString());
    assertThat(ran.err()).isEmpty();
    Path expected = Path.of(journal.toString().replace(".jsonl", ".csv"));
    assertThat(Files.readString(events)).isEqualTo(Files.readString(expected));
  }

  /** Another reader than the JDK's: @tonejs/midi, from npm. */
  @Test
  void theFileIsReadByAnotherLibrary() throws IOException, InterruptedException {
    Path midi = folder.resolve("out.mid");
    run(JOURNALS.resolve("12-cues-and-sections.jsonl").toString(), "--midi", midi.toString());
    Process node =
        new ProcessBuilder("node", "src/test/js-support/read-midi.mjs", midi.toString())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String read = new String(node.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(node.waitFor()).isZero();
    assertThat(read.strip())
        .isEqualTo(
            "{\"ppq\":960,\"tempos\":[[0,120]],\"meters\":[[4,4]],\"tracks\":["
                + "{\"name\":\"Keys\",\"notes\":[[0,60,96],[3840,62,96],[7680,60,96]]},"
                + "{\"name\":\"Bass\",\"notes\":[[0,40,96],[7680,40,96]]}]}");
  }

  @Test
  void untilABarItGoesOnOrStops() throws IOException {
    List<String> lines = block("jsonl").lines().toList();
    Path events = folder.resolve("events.csv");
    run(file(block("jsonl")).toString(), "--until", "2", "--events", events.toString());
    assertThat(withoutClicks(events).lines()).hasSize(5);
    Path running = file(String.join("\n", lines.subList(0, 7)));
    run(running.toString(), "--until", "4", "--events", events.toString());
    assertThat(withoutClicks(events).lines().toList()).last().asString().startsWith("9696,6050000");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "3|{\"at\":5,\"do\":\"start\"}|line 3: The message lacks the whole number “stamp”.",
        "3|{\"at\":1000500,\"stamp\":5,\"do\":\"fly\"}|line 3: There is no such command: fly.",
        "3|nonsense|line 3: that is not JSON.",
        "3|[]|line 3: that is not a JSON object.",
        "3|{\"at\":5,\"stamp\":5,\"do\":\"start\"}|line 3: it was applied before the line above it.",
        "1|{\"journal\":2,\"show\":{}}|line 1: this is a journal of format 2: only format 1 is read.",
        "1|{}|line 1: the first line is not the head of a journal",
        "1|{\"journal\":1,\"show\":{\"tempo\":90}}|line 1: The show needs a title",
      })
  void aBadLineIsRefusedWithItsNumber(int number, String text, String sentence) throws IOException {
    List<String> lines = new java.util.ArrayList<>(block("jsonl").lines().toList());
    lines.set(number - 1, text);
    Ran ran = run(file(String.join("\n", lines)).toString());
    assertThat(ran.exit()).isEqualTo(2);
    assertThat(ran.err()).startsWith(sentence);
  }

  @Test
  void wrongUseIsSaid() {
    assertThat(run().exit()).isEqualTo(2);
    assertThat(run("a", "b").err()).startsWith("usage:");
    assertThat(run("--midi").err()).startsWith("usage:");
    assertThat(run("nowhere.jsonl").err()).startsWith("There is no file nowhere.jsonl");
    assertThat(run("x", "--until", "soon").exit()).isEqualTo(2);
  }
}
