package ancora.core.control;

import static ancora.core.catalogue.Asked.asked;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.catalogue.Catalogue;
import ancora.core.control.Assignment.Gesture;
import ancora.core.control.Control.Kind;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.Sequence;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class ControlMapTest {

  private static final Control PEDAL = new Control(ReadyMap.FOOTBOARD, Kind.CONTROL_CHANGE, 0, 80);
  private static final Command MAIN = new PressCommand.MainPress();
  private static final Command PEEL = new MendCommand.Peel();

  private static Assignment on(Gesture gesture, Command command) {
    return new Assignment(PEDAL, gesture, command);
  }

  private static Assignment on(Control control, Command command) {
    return new Assignment(control, Gesture.SHORT, command);
  }

  private static ControlMap map(Assignment... assignments) {
    return new ControlMap("x", List.of(assignments));
  }

  /**
   * With nothing but the main pedal: press records and closes, long peels, double stops the part.
   */
  @Test
  void oneStandInPedalAloneMakesAWholeLoop() {
    assertThat(ReadyMap.ALL.of(PEDAL))
        .extracting(Assignment::words)
        .containsExactly("main press", "peel", "the armed part tacet");
  }

  @Test
  void aControlTaughtAnewDoesTheNewThingOnly() {
    ControlMap map = ReadyMap.ALL.with(on(Gesture.SHORT, new UndoCommand.Undo()));
    assertThat(map.assignments()).hasSize(ReadyMap.ALL.assignments().size());
    assertThat(map.of(PEDAL))
        .filteredOn(a -> a.gesture() == Gesture.SHORT)
        .extracting(Assignment::words)
        .containsExactly("undo");
  }

  @Test
  void theReadyMapIsAddedWhereThereIsNothingYet() {
    ControlMap own = map(on(Gesture.SHORT, PEEL));
    ControlMap added = own.and(ReadyMap.ALL);
    assertThat(added.of(PEDAL)).extracting(Assignment::words).containsExactly("peel");
    assertThat(added.of(Control.key("Enter"))).hasSize(1);
    assertThat(added.name()).isEqualTo("x");
    assertThat(added.and(ReadyMap.ALL)).isEqualTo(added);
  }

  @Test
  void aLongPressIsSure() {
    Assignment undo = on(Gesture.LONG, new UndoCommand.Undo());
    assertThat(undo.command()).isEqualTo(new UndoCommand.Undo(true));
    Command both = new Sequence("", List.of(PEEL, new MendCommand.Clear()));
    assertThat(((Sequence) on(Gesture.LONG, both).command()).commands())
        .containsExactly(PEEL, new MendCommand.Clear(true));
    assertThat(on(Gesture.SHORT, new UndoCommand.Undo()).command())
        .isEqualTo(new UndoCommand.Undo(false));
  }

  @Test
  void thePedalsAreThoseOfTheBoardsOnesOwnFirst() {
    assertThat(ReadyMap.ALL.pedals()).hasSize(6);
    assertThat(ReadyMap.ALL.pedals().get(1).gestures())
        .extracting(Assignment::words)
        .containsExactly("peel", "restore");
    Control pad = new Control("pads", Kind.NOTE, 9, 36);
    Control knob = new Control("pads", Kind.CONTROL_CHANGE, 0, 7);
    Control own = new Control("board", Kind.PROGRAM_CHANGE, 0, 3);
    ControlMap map =
        map(
            on(Gesture.SHORT, PEEL),
            new Assignment(pad, Gesture.LONG, asked("arm {part}")),
            on(pad, asked("overdub on and off")),
            on(own, MAIN),
            on(Control.key("KeyX"), MAIN),
            on(knob, asked("level of {part}: {level}", "level", "by knob, −60 to 6")));
    assertThat(map.pedals())
        .extracting(pedal -> pedal.control().device())
        .as("what a pad does is no pedal's; nor what a key of the computer does")
        .containsExactly("board", ReadyMap.FOOTBOARD);
    ControlMap padded = map(on(pad, MAIN), new Assignment(pad, Gesture.LONG, PEEL));
    assertThat(padded.pedals()).as("but with the main press").hasSize(1);
    assertThat(padded.pedals().get(0).gestures())
        .extracting(Assignment::gesture)
        .containsExactly(Gesture.SHORT, Gesture.LONG);
    assertThat(map().pedals())
        .as("without any the stand-in's")
        .isEqualTo(ReadyMap.STAND_IN.pedals());
  }

  @Test
  void pedalsAreShownInTheOrderThatIsGivenThem() {
    Control last = new Control(ReadyMap.FOOTBOARD, Kind.CONTROL_CHANGE, 0, 85);
    ControlMap ordered = ReadyMap.ALL.ordered(List.of(last, PEDAL, last));
    assertThat(ordered.pedals()).extracting(ControlMap.Pedal::control).startsWith(last, PEDAL);
    assertThat(ordered.assignments())
        .containsExactlyInAnyOrderElementsOf(ReadyMap.ALL.assignments());
  }

  @Test
  void whatCannotBeIsRefusedInASentence() {
    Assignment main = on(Gesture.SHORT, MAIN);
    refused(() -> map(main, main), "two things by a short press");
    refused(() -> new ControlMap(3, "x", List.of(), Lamps.USUAL), "format 3");
    refused(() -> on(Gesture.LONG, asked("erase {on}")), "“erase while held” needs the control");
    refused(() -> map(main, on(Gesture.EACH, PEEL)), "one thing only");
    Control program = new Control("board", Kind.PROGRAM_CHANGE, 0, 3);
    refused(() -> new Assignment(program, Gesture.RELEASE, MAIN), "over at once");
    refused(() -> new Control("", Kind.NOTE, 0, 60), "name");
    refused(() -> new Control("x", Kind.NOTE, 16, 60), "Channel 16");
    refused(() -> new Control("x", Kind.NOTE, 0, 128), "Control 128");
    refused(() -> new Control("x", Kind.NOTE, 0, 1, "KeyU"), "named by its place");
    refused(() -> Control.key("é"), "named by its place");
    refused(() -> on(Control.key("KeyU"), asked("tempo: {by}")), "does not turn");
    refused(() -> on(Gesture.SHORT, new SettingCommand.Rename("x")), "choose from the list");
    refused(() -> new Lamps(0, 0, 0, 0, 0, 128), "0 to 127");
    List<Assignment> many = new ArrayList<>();
    for (int i = 0; i < 513; i++) {
      many.add(on(new Control("x" + i / 128, Kind.NOTE, 0, i % 128), MAIN));
    }
    refused(() -> new ControlMap("x", many), "512");
  }

  @Test
  void aSequenceHasWhatIsPressedAlone() {
    refused(() -> new Sequence("", List.of(MAIN)), "2 to 8 commands");
    refused(() -> new Sequence("x".repeat(61), List.of(MAIN, PEEL)), "60 characters");
    Sequence two = new Sequence("", List.of(MAIN, PEEL));
    refused(() -> new Sequence("", List.of(two, PEEL)), "no other sequence");
    Command held = new Sequence("", List.of(MAIN, asked("erase {on}")));
    refused(() -> on(Gesture.SHORT, held), "leave it out of the sequence");
    Command page = new Sequence("", List.of(MAIN, new OnPage(OnPage.What.RUNS)));
    refused(() -> on(Gesture.SHORT, page), "leave it out of the sequence");
  }

  /** What cannot be taken back has no long or double press beside it. */
  @ParameterizedTest
  @EnumSource(
      value = Gesture.class,
      names = {"LONG", "DOUBLE"})
  void whatCannotBeTakenBackIsAlone(Gesture gesture) {
    for (Command alone :
        List.of(
            new HandCommand.Panic(),
            new SettingCommand.TapTempo(),
            new CueCommand.Stop(),
            asked("erase {on}"))) {
      refused(() -> map(on(Gesture.SHORT, alone), on(gesture, PEEL)), "cannot be taken back");
    }
    map(on(Gesture.SHORT, new CueCommand.StartOrStop()), on(gesture, PEEL));
    map(on(Gesture.SHORT, MAIN), on(gesture, PEEL));
  }

  @Test
  void everyKeyThatShipsIsOfTheCatalogue() {
    assertThat(ReadyMap.KEYS).allSatisfy(a -> assertThat(Catalogue.entry(a.command())).isPresent());
    assertThat(ReadyMap.ALL.assignments())
        .hasSize(ReadyMap.KEYS.size() + ReadyMap.STAND_IN.assignments().size());
  }

  private static void refused(
      org.assertj.core.api.ThrowableAssert.ThrowingCallable no, String why) {
    assertThatThrownBy(no).isInstanceOf(Refusal.class).hasMessageContaining(why);
  }
}
