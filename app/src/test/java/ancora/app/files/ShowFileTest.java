package ancora.app.files;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.app.Mutation;
import ancora.app.RandomHands;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.engine.Engine;
import ancora.core.file.MidiFile;
import ancora.core.replay.Replay;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.run.Hearing;
import ancora.core.run.Rendering;
import ancora.core.run.Run;
import ancora.core.run.RunEdit;
import ancora.core.run.RunHistory;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Rule 20: a show as a file, which a validator of JSON Schema (2020-12) by others checks. */
class ShowFileTest {

  private static final JsonMapper JSON = JsonMapper.shared();
  private static final int BROKEN = Integer.getInteger("ancora.mutations", 800);

  private static Schema schema() throws IOException {
    return SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
        .getSchema(Files.readString(Path.of("../docs/show.schema.json")));
  }

  /** What a random performance made, with its runs. */
  private static ShowFile performed(long seed) {
    Random random = new Random(seed);
    RandomHands hands = new RandomHands(random);
    Replay replay = Replay.ofRuns(Stage.of(RandomHands.show(seed)));
    long now = 1_000_000;
    for (int i = 0; i < 300; i++) {
      now += random.nextInt(300_000);
      replay.advance(now);
      Command command = hands.next(replay.stage());
      replay.apply(command, now, now);
    }
    replay.apply(new CueCommand.Stop(), now, now);
    List<ShowFile.PerformedRun> runs = new ArrayList<>();
    for (Run run : replay.runs()) {
      runs.add(new ShowFile.PerformedRun(1_700_000_000_000_000L, "night " + runs.size(), run));
    }
    return new ShowFile(replay.stage().show(), runs);
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void whatGoesOutIsAsTheSchemaSaysAndComesInAsItself(long seed) throws IOException {
    ShowFile file = performed(seed);
    byte[] bytes = file.bytes();
    assertThat(schema().validate(JSON.readTree(bytes))).isEmpty();
    ShowFile read = ShowFile.read(bytes);
    assertThat(read).isEqualTo(file);
  }

  /** The test above would be content with empty shows. */
  @Test
  void randomPerformancesMakeMusicAndRuns() {
    long notes = 0;
    long passages = 0;
    for (long seed = 1; seed <= 12; seed++) {
      ShowFile file = performed(seed);
      notes +=
          file.show().parts().stream()
              .flatMap(part -> part.shelf().stream())
              .flatMap(Clip::allLayers)
              .map(Layer::notes)
              .mapToLong(List::size)
              .sum();
      passages +=
          file.runs().stream()
              .flatMap(run -> run.run().parts().stream())
              .mapToLong(part -> part.passages().size())
              .sum();
    }
    assertThat(notes).isGreaterThan(200);
    assertThat(passages).isGreaterThan(20);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "nothing | is no JSON object",
        "[] | is no JSON object",
        "{\"show\": | is not JSON, or it is cut off",
        "{} | is no show",
        "{\"format\":\"ancora show\"} | does not say its version",
        "{\"format\":\"ancora show\",\"version\":2,\"show\":{}} | by a later Ancora",
        "{\"format\":\"ancora show\",\"version\":1} | There is no show",
        "{\"format\":\"ancora show\",\"version\":1,\"show\":{}} | “title” is lacking",
      })
  void whatIsNoneIsRefusedInASentence(String text, String why) {
    byte[] bytes = text.equals("nothing") ? "null".getBytes() : text.getBytes();
    assertThatThrownBy(() -> ShowFile.read(bytes))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining(why);
  }

  @Test
  void seventeenPartsAreTooMany() throws IOException {
    Show show = Show.named("Crowd");
    for (int i = 0; i < Show.MOST_PARTS; i++) {
      show = show.withNewPart("Part " + i, Sound.of(1));
    }
    ObjectNode file = (ObjectNode) JSON.readTree(new ShowFile(show, List.of()).bytes());
    ObjectNode more = (ObjectNode) file.get("show").get("parts").get(0).deepCopy();
    ((tools.jackson.databind.node.ArrayNode) file.get("show").get("parts")).add(more.put("id", 17));
    byte[] bytes = file.toString().getBytes(StandardCharsets.UTF_8);
    assertThatThrownBy(() -> ShowFile.read(bytes)).hasMessageContaining("16 parts at most");
    assertThat(schema().validate(JSON.readTree(bytes))).isNotEmpty();
  }

  /**
   * Something is otherwise at any place: it is refused in one sentence, or it is a show with which
   * the engine goes on.
   */
  @Test
  void brokenAnywhereItIsAShowOrRefused() throws IOException {
    ObjectNode whole = (ObjectNode) JSON.readTree(performed(3).bytes());
    Random random = new Random(Long.getLong("ancora.seed", 11));
    Schema schema = schema();
    int read = 0;
    for (int i = 0; i < BROKEN; i++) {
      ObjectNode broken = Mutation.of(whole, random);
      byte[] bytes = Mutation.onTheWire(broken).getBytes(StandardCharsets.UTF_8);
      ShowFile file;
      try {
        file = ShowFile.read(bytes);
      } catch (Refusal refusal) {
        assertThat(refusal.getMessage()).hasSizeBetween(5, 240).doesNotContain("ancora.", "java.");
        continue;
      }
      read++;
      // what older files lack is completed
      assertThat(schema.validate(JSON.readTree(bytes)))
          .as("what comes in is as the schema says")
          .allMatch(error -> error.getKeyword().equals("required"));
      for (ShowFile.PerformedRun performed : file.runs()) {
        goesOut(performed.run(), file.show());
      }
      Engine engine = Engine.of(file.show());
      engine.apply(new CueCommand.Start(), 1_000_000, 1_000_000);
      engine.plan();
      engine.advance(9_000_000);
      engine.plan();
      engine.apply(new CueCommand.Stop(), 9_000_000, 9_000_000);
    }
    assertThat(read).isBetween(BROKEN / 50, BROKEN * 9 / 10);
  }

  /** A run that came in can be heard, and written; or that is refused in a sentence. */
  private static void goesOut(Run run, Show show) {
    try {
      RunHistory.of(run).with(new RunEdit.Trim(1, 1));
      MidiFile.of("run", run, MidiFile.Type.TRACKS);
      Hearing.of(run, run.from(), Optional.empty(), 0).plan(show);
      Rendering.of(run, show.master());
    } catch (Refusal refusal) {
      assertThat(refusal.getMessage()).endsWith(".");
    }
  }

  /** Files that are small and name much: refused in a sentence, before memory is taken for them. */
  @Test
  void whatNamesMoreThanCanBeIsRefusedBeforeItIsMade() {
    String show = new String(new ShowFile(Show.named("Pier"), List.of()).bytes(), UTF_8);
    String head = show.substring(0, show.lastIndexOf('['));
    String note = "[0,60,90,10]";
    String round = "{\"from\":0,\"length\":3840,\"times\":1999999,\"notes\":[%s]}".formatted(note);
    String passage =
        ("{\"number\":%d,\"clip\":1,\"letter\":\"a\",\"name\":\"\",\"phase\":0,\"from\":0,\"until\":3840,"
                + "\"window\":{\"start\":0,\"length\":3840},\"rounds\":[%s],\"moves\":[]}")
            .formatted(1, round);
    String run =
        "{\"began\":1,\"name\":\"\",\"run\":{\"parts\":[{\"hands\":[],\"passages\":[%s]}]}}"
            .formatted(String.join(",", java.util.Collections.nCopies(100, passage)));
    assertThatThrownBy(() -> ShowFile.read((head + "[" + run + "]}").getBytes(UTF_8)))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("more notes than can come in at once");
    String braces = "{}" + ",{}".repeat(5_000_000);
    assertThatThrownBy(() -> ShowFile.read((head + "[[" + braces + "]]}").getBytes(UTF_8)))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("more in it than a show or a run can have");
    assertThatThrownBy(() -> ShowFile.read((show + " {}").getBytes(UTF_8)))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("something after the show");
  }
}
