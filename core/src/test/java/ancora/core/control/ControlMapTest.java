package ancora.core.control;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.control.Assignment.Gesture;
import ancora.core.control.Control.Kind;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class ControlMapTest {

  private static final Control PEDAL =
      new Control(ControlMap.FOOTBOARD, Kind.CONTROL_CHANGE, 0, 80);

  /**
   * With nothing but the main pedal: press records and closes, long peels, double stops the part.
   */
  @Test
  void oneStandInPedalAloneMakesAWholeLoop() {
    assertThat(ControlMap.STAND_IN.assignments())
        .filteredOn(a -> a.control().equals(PEDAL))
        .extracting(Assignment::gesture, Assignment::action)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(Gesture.SHORT, Action.MAIN),
            org.assertj.core.groups.Tuple.tuple(Gesture.LONG, Action.PEEL),
            org.assertj.core.groups.Tuple.tuple(Gesture.DOUBLE, Action.TACET));
  }

  @Test
  void aControlTaughtAnewDoesTheNewThingOnly() {
    ControlMap map = ControlMap.STAND_IN.with(new Assignment(PEDAL, Gesture.SHORT, Action.UNDO, 0));
    assertThat(map.assignments()).hasSize(ControlMap.STAND_IN.assignments().size());
    assertThat(map.assignments())
        .filteredOn(a -> a.control().equals(PEDAL) && a.gesture() == Gesture.SHORT)
        .extracting(Assignment::action)
        .containsExactly(Action.UNDO);
  }

  @Test
  void theFootboardIsWhereTheMainPressIs() {
    assertThat(ControlMap.STAND_IN.pedals()).hasSize(6);
    assertThat(ControlMap.STAND_IN.pedals().get(1).gestures())
        .extracting(Assignment::action)
        .containsExactly(Action.PEEL, Action.RESTORE);
    Control pad = new Control("pads", Kind.NOTE, 9, 36);
    ControlMap own =
        new ControlMap(
            1,
            "own",
            List.of(
                new Assignment(PEDAL, Gesture.SHORT, Action.PEEL, 0),
                new Assignment(pad, Gesture.LONG, Action.ARM, 2),
                new Assignment(pad, Gesture.SHORT, Action.MAIN, 0),
                new Assignment(
                    new Control("pads", Kind.CONTROL_CHANGE, 0, 7),
                    Gesture.SHORT,
                    Action.LEVEL,
                    1)));
    assertThat(own.pedals()).hasSize(1);
    assertThat(own.pedals().get(0).gestures())
        .extracting(Assignment::gesture)
        .as("in the order of gestures; knobs are not pressed")
        .containsExactly(Gesture.SHORT, Gesture.LONG);
    assertThat(new ControlMap(1, "none", List.of()).pedals())
        .as("without a main press the stand-in's")
        .isEqualTo(ControlMap.STAND_IN.pedals());
  }

  @Test
  void whatCannotBeIsRefusedInASentence() {
    Assignment main = new Assignment(PEDAL, Gesture.SHORT, Action.MAIN, 0);
    assertThatThrownBy(() -> new ControlMap(1, "x", List.of(main, main)))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("two things by a short press");
    assertThatThrownBy(() -> new ControlMap(2, "x", List.of()))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("format 2");
    assertThatThrownBy(() -> new Assignment(PEDAL, Gesture.LONG, Action.ERASE, 0))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("short press");
    assertThatThrownBy(() -> new Assignment(PEDAL, Gesture.SHORT, Action.ARM, 27))
        .isInstanceOf(Refusal.class);
    Assignment each = new Assignment(PEDAL, Gesture.EACH, Action.PEEL, 0);
    assertThatThrownBy(() -> new ControlMap(1, "x", List.of(main, each)))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("one thing only");
    assertThat(new ControlMap(1, "x", List.of(each)).pedals()).hasSize(6);
    Control program = new Control("board", Kind.PROGRAM_CHANGE, 0, 3);
    assertThatThrownBy(() -> new Assignment(program, Gesture.RELEASE, Action.MAIN, 0))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("over at once");
    assertThatThrownBy(() -> new Control("", Kind.NOTE, 0, 60)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new Control("x", Kind.NOTE, 16, 60)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new Control("x", Kind.NOTE, 0, 128)).isInstanceOf(Refusal.class);
    List<Assignment> many = new ArrayList<>();
    for (int i = 0; i < 257; i++) {
      Control control = new Control("x" + i / 128, Kind.NOTE, 0, i % 128);
      many.add(new Assignment(control, Gesture.SHORT, Action.MAIN, 0));
    }
    assertThatThrownBy(() -> new ControlMap(1, "x", many)).hasMessageContaining("256");
  }
}
