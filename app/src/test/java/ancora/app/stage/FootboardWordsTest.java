package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.control.ControlMap;
import ancora.core.control.ReadyMap;
import ancora.core.engine.Engine;
import ancora.core.rules.press.PressCommand;
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
    Map<String, String> words =
        FootboardWords.of(engine, List.of(), 1_000_000, FootboardWords.Told.NOTHING);
    assertThat(words).containsEntry(KEEP, "nothing was played on Kit yet").containsKey(MAIN);
  }

  /** Only what keeping would do costs the more, the more was played. */
  @Test
  void wordsOfKeepingMayBeThoseThatWereToldLast() {
    Map<String, String> told = Map.of(KEEP, "4 bars as Kit a", MAIN, "as before");
    Map<String, String> words =
        FootboardWords.of(engine, List.of(), 1_000_000, new FootboardWords.Told(told, true, false));
    assertThat(words).containsEntry(KEEP, "4 bars as Kit a");
    assertThat(words.get(MAIN)).isNotEqualTo("as before");
  }

  /** A press that may be a long one has just been done: that would be as it was said before it. */
  @Test
  void whatALongPressWouldDoIsWhatItWouldHaveBeenFromTheStageBefore() {
    List<ControlMap.Pedal> pedals = ReadyMap.STAND_IN.pedals();
    Map<String, String> before =
        FootboardWords.of(engine, pedals, 1_000_000, FootboardWords.Told.NOTHING);
    engine.apply(new PressCommand.MainPress(), 1_000_000, 1_000_000);
    Map<String, String> meanwhile =
        FootboardWords.of(engine, pedals, 3_100_000, new FootboardWords.Told(before, false, true));
    Map<String, String> after =
        FootboardWords.of(engine, pedals, 3_100_000, FootboardWords.Told.NOTHING);
    String tacet = "DOUBLE {\"do\":\"cueTacet\",\"part\":\"armed\"}";
    assertThat(meanwhile.get(tacet)).isEqualTo(before.get(tacet)).isNotEqualTo(after.get(tacet));
    assertThat(meanwhile.get(MAIN)).isEqualTo(after.get(MAIN)).isNotEqualTo(before.get(MAIN));
  }

  /** Words of keeping are found rarely where that is dear; never is a page told of long ago. */
  @Test
  void wordsOfKeepingRestTheLongerTheDearerTheyWereAndTwoSecondsAtMost() {
    assertThat(FootboardWords.restAfter(5_000_000)).isEqualTo(100_000_000);
    assertThat(FootboardWords.restAfter(3_000_000_000L)).isEqualTo(2_000_000_000);
  }
}
