package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.engine.Engine;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class FootboardWordsTest {

  private static final String MAIN = "{\"do\":\"mainPress\"}";
  private static final String KEEP = "{\"do\":\"keep\",\"ofLoopLength\":false,\"cue\":false}";

  private final Engine engine = Engine.of(Show.named("Quay").withNewPart("Kit", Sound.of(1)));

  @Test
  void whatEachDoesNextIsFoundByTrying() {
    Map<String, String> words = FootboardWords.of(engine, List.of(), 1_000_000, Map.of());
    assertThat(words).containsEntry(KEEP, "nothing was played on Kit yet").containsKey(MAIN);
  }

  /** Only what keeping would do costs the more, the more was played. */
  @Test
  void wordsOfKeepingMayBeThoseThatWereToldLast() {
    Map<String, String> told = Map.of(KEEP, "4 bars as Kit a", MAIN, "as before");
    Map<String, String> words = FootboardWords.of(engine, List.of(), 1_000_000, told);
    assertThat(words).containsEntry(KEEP, "4 bars as Kit a");
    assertThat(words.get(MAIN)).isNotEqualTo("as before");
  }

  /** Words of keeping are found rarely where that is dear; never is a page told of long ago. */
  @Test
  void wordsOfKeepingRestTheLongerTheDearerTheyWereAndTwoSecondsAtMost() {
    assertThat(FootboardWords.restAfter(5_000_000)).isEqualTo(100_000_000);
    assertThat(FootboardWords.restAfter(3_000_000_000L)).isEqualTo(2_000_000_000);
  }
}
