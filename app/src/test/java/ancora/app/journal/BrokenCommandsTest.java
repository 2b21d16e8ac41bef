package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.Mutation;
import ancora.app.ProtocolExamples;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.engine.Engine;
import ancora.core.note.Note;
import ancora.core.rules.cues.CueCommand;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import java.io.IOException;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Each command of the protocol, broken in 2000 ways, is done or refused in a sentence. */
class BrokenCommandsTest {

  private static final int MUTATIONS = Integer.getInteger("ancora.mutations", 600);
  private static final JsonMapper JSON = JsonMapper.shared();

  private static Stage stage() {
    Clip clip =
        Clip.of(
            new ClipId(7),
            "a",
            new LoopWindow(0, 7680),
            List.of(Note.of(1, 60, 90, 0, 0, 480), Note.of(2, 64, 90, 960, 960, 480)));
    return Stage.of(
        Show.named("Storm")
            .withNewPart("Kit", Sound.STANDARD_KIT)
            .withNewPart("Keys", Sound.of(4))
            .mapPart(new PartId(1), part -> part.withShelf(List.of(clip)))
            .withNextId(100));
  }

  @Test
  void eachIsDoneOrRefusedInASentence() throws IOException {
    Stage still = stage();
    Engine started = Engine.of(still);
    started.apply(new CueCommand.Start(), 0, 0);
    Stage rolling = started.stage();
    Random random = new Random(Long.getLong("ancora.seed", 20_261_128));
    int done = 0;
    int refused = 0;
    for (JsonNode example : ProtocolExamples.all()) {
      if (!example.has("do")) {
        continue;
      }
      for (int i = 0; i < MUTATIONS; i++) {
        String broken = Mutation.onTheWire(Mutation.of((ObjectNode) example, random));
        String why = whyNot(i % 2 == 0 ? still : rolling, broken);
        if (why.isEmpty()) {
          done++;
        } else {
          refused++;
          assertThat(why).as(broken).hasSizeBetween(5, 240);
        }
      }
    }
    assertThat(refused).as("so many were refused").isGreaterThan(10 * MUTATIONS);
    assertThat(done).as("so many were done").isGreaterThan(MUTATIONS);
  }

  /** What a command is refused for; empty if it was done. */
  private static String whyNot(Stage stage, String text) throws JacksonException {
    try {
      Engine.of(stage).apply(CommandJson.read(JSON.readTree(text)), 2_000_000, 2_000_000);
      return "";
    } catch (Refusal refusal) {
      return refusal.getMessage();
    } catch (RuntimeException fault) {
      throw new AssertionError(text.substring(0, Math.min(300, text.length())), fault);
    }
  }
}
