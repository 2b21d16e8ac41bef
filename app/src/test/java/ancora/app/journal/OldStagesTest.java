package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.ClipId;
import ancora.core.stage.PartStage;
import ancora.core.time.EntryUnit;
import ancora.core.vamp.Cue;
import ancora.core.vamp.TakeSwitch;
import ancora.core.vamp.Vamp;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** A stage that an Ancora of before saved while it rolled is read by today's. */
class OldStagesTest {

  private static final ClipId CLIP = new ClipId(11);

  @Test
  void aPartThatWasSoundingGoesOn() {
    Cue cue = Cue.of(7680, 7680, EntryUnit.BAR, CLIP, 0, Vamp.Entry.PLAIN);
    PartStage part =
        PartStage.TACET
            .withVamp(Vamp.of(CLIP, 0, 3840))
            .withCue(Optional.of(cue.withReplaced(Optional.of(Cue.tacet(7680)))))
            .withHears(Optional.of(new TakeSwitch(7680, 2, 1_000_000, false)));
    JsonNode old = CoreJson.write(part);
    for (String entry : new String[] {"/vamp/entry", "/cue/entry", "/cue/replaced/entry"}) {
      assertThat(((ObjectNode) old.at(entry)).remove("take")).as(entry).isNotNull();
    }
    assertThat(((ObjectNode) old.at("/hears")).remove("forgiven")).isNotNull();
    assertThat(CoreJson.read(old, PartStage.class)).isEqualTo(part);
  }
}
