package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.catalogue.Blank;
import ancora.core.catalogue.Catalogue;
import ancora.core.catalogue.Entry;
import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.note.InputGrid;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Adjustment;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Whatever is put on a control does what it is said to do, in every situation a performer is in; or
 * it is refused, in a sentence, and then it was said that it would be.
 */
class ParityTest {

  private static final long NOW = 5 * BAR + 700;

  /** Twelve situations, all as they are at one instant. */
  static Map<String, Stage> situations() {
    Map<String, Stage> all = new LinkedHashMap<>();
    all.put("an empty show", Stage.of(Show.named("Quay")));
    all.put("parts without clips", Concert.of(show -> show).stage());
    all.put("clips that stand ready", two().stage());
    all.put("rolling, with nothing in it", Concert.of(s -> s).start().until(NOW).stage());
    all.put("a first recording", first().until(NOW).stage());
    all.put("one that is to close", first().press(NOW - 1000).until(NOW).stage());
    all.put("a loop that vamps", vamping().until(NOW).stage());
    all.put("overdub", vamping().press(BAR).play(67, 2 * BAR, 2 * BAR + 99).until(NOW).stage());
    all.put(
        "takes", vamping().at(100, new MendCommand.Takes(true)).hit(64, BAR).until(NOW).stage());
    all.put("replace", vamping().at(NOW - 99, new MendCommand.Replace(true)).until(NOW).stage());
    all.put("erase held", vamping().at(NOW - 99, new MendCommand.EraseHeld(true)).stage());
    Concert cued = vamping().at(10, new CueCommand.MakeSection("Lamp")).cue(B, NOW - 100);
    all.put("a clip that is cued", cued.until(NOW).stage());
    Concert peeled = overdubbed().at(3 * BAR, new MendCommand.Peel());
    all.put("a layer that is peeled", peeled.until(NOW).stage());
    all.put("a layer that is undone", overdubbed().at(NOW, new UndoCommand.Undo(true)).stage());
    Concert off = Concert.with(clip(A, note(1, 60, 37, 60), note(2, 62, 961, 100)));
    off.at(0, new SettingCommand.SetInputGrid(KEYS, InputGrid.SIXTEENTHS));
    all.put("notes off the grid", off.start().until(NOW).stage());
    Clip takes =
        clip(A, note(1, 60, 0, 100))
            .with(Take.of(2, List.of(new Layer(1, List.of(note(2, 62, 0, 60))))));
    all.put("several takes", Concert.with(takes).start().until(NOW).stage());
    Concert kept = Concert.of(s -> s);
    for (int i = 0; i < 16; i++) {
      long on = i * 480 + (i < 8 ? 0 : 2 * BAR);
      kept.play(60, on, on + 99);
    }
    all.put("something kept", kept.at(5 * BAR, new KeepCommand.Keep(false, false)).stage());
    return all;
  }

  private static Concert two() {
    return Concert.with(clip(A, note(1, 60, 0, 100)), clip(B, note(2, 62, 960, 100)));
  }

  private static Concert vamping() {
    return two().start().at(5, new PressCommand.ArmAlongside(BASS, false));
  }

  /** With three layers; and two takes of another clip. */
  private static Concert overdubbed() {
    Concert concert = vamping().press(BAR).play(67, BAR + 400, BAR + 499);
    return concert.play(69, 2 * BAR + 400, 2 * BAR + 480).press(3 * BAR - 99);
  }

  private static Concert first() {
    return Concert.of(show -> show).start().press(BAR).hit(60, 2 * BAR);
  }

  static Stream<Entry> entries() {
    return Catalogue.ALL.stream().filter(entry -> !(entry.usual() instanceof OnPage));
  }

  /** As it is usually, and with each blank as one of its first choices. */
  private static List<Command> commands(Entry entry) {
    List<Map<String, Object>> fillings = new ArrayList<>();
    fillings.add(Map.of());
    for (Blank blank : entry.blanks()) {
      blank.choices().stream()
          .limit(5)
          .forEach(choice -> fillings.add(Map.of(blank.field(), choice.value())));
    }
    return fillings.stream().map(filled -> used(entry, filled)).distinct().toList();
  }

  /** What is held is held down; what is turned is turned to its middle. */
  private static Command used(Entry entry, Map<String, Object> filled) {
    Map<String, Object> values = new HashMap<>(filled);
    entry
        .filled(entry.with(filled))
        .orElseThrow()
        .forEach(
            (field, value) -> {
              if (value instanceof Adjustment.Held) {
                values.put(field, true);
              } else if (value instanceof Adjustment.Knob knob) {
                values.put(field, knob.turned(OptionalDouble.of(0), 0.5));
              }
            });
    return entry.with(values);
  }

  @ParameterizedTest
  @MethodSource("entries")
  void whatIsSaidIsWhatIsDone(Entry entry) {
    situations()
        .forEach(
            (situation, stage) -> {
              for (Command command : commands(entry)) {
                check(stage, command, situation + ": " + Catalogue.words(command));
              }
            });
  }

  private static void check(Stage stage, Command command, String what) {
    long now = Concert.micros(NOW) + 1000;
    Engine engine = Engine.of(stage);
    engine.advance(now);
    Stage before = engine.stage();
    Forecast said = engine.forecast(command, now);
    assertThat(engine.stage()).as("a forecast changes nothing").isSameAs(before);
    assertThat(engine.lit(command, now)).as(what).isNotNull();
    Outcome outcome = engine.apply(command, now, now);
    if (outcome instanceof Outcome.Refused refused) {
      assertThat(said.refusal()).as(what).contains(refused.why());
      assertThat(refused.why()).as(what).matches("(?s)[A-Z“].{5,}[.]");
      assertThat(engine.stage()).as(what).isEqualTo(before);
    } else {
      assertThat(said.refusal()).as(what).isEmpty();
      assertThat(said.word()).as(what).isEqualTo(((Outcome.Done) outcome).word());
      // what is due at this instant by itself is no effect of the press
      Stage waited = Engine.of(before).stage();
      assertThat(said.effects())
          .as(what)
          .isEqualTo(Effects.between(waited, applied(before, command, now)));
    }
  }

  private static Stage applied(Stage before, Command command, long now) {
    Engine engine = Engine.of(before);
    engine.advance(now);
    engine.apply(command, now, now);
    return engine.stage();
  }

  /**
   * In each situation most of what there is can be done by somebody: the table is no list of no.
   */
  @Test
  void everyEntryCanBeDoneSomewhere() {
    Map<String, Stage> situations = situations();
    List<String> never = new ArrayList<>();
    for (Entry entry : entries().toList()) {
      boolean done =
          situations.values().stream()
              .anyMatch(
                  stage ->
                      commands(entry).stream()
                          .anyMatch(
                              c -> Engine.of(stage).forecast(c, Concert.micros(NOW)).isDone()));
      if (!done) {
        never.add(entry.words());
      }
    }
    assertThat(never).isEmpty();
    assertThat(situations).hasSizeGreaterThanOrEqualTo(12);
  }
}
