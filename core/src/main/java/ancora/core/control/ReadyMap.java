package ancora.core.control;

import ancora.core.catalogue.Catalogue;
import ancora.core.control.Assignment.Gesture;
import ancora.core.control.Control.Kind;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** The map that ships: for the stand-in devices, and for the keys of the computer. */
public final class ReadyMap {

  /** The stand-in footboard's name as a device. */
  public static final String FOOTBOARD = "stand-in footboard";

  /** The stand-in knobs' name as a device. */
  public static final String KNOBS = "stand-in knobs";

  /** The map for the stand-in devices: one pedal alone makes a whole loop. */
  public static final ControlMap STAND_IN =
      new ControlMap(
          "stand-in devices",
          List.of(
              pedal(1, Gesture.SHORT, new PressCommand.MainPress()),
              pedal(1, Gesture.LONG, new MendCommand.Peel()),
              pedal(1, Gesture.DOUBLE, usual("{part} tacet")),
              pedal(2, Gesture.SHORT, new MendCommand.Peel()),
              pedal(2, Gesture.LONG, new MendCommand.Restore()),
              pedal(3, Gesture.SHORT, usual("cue {section}")),
              pedal(3, Gesture.LONG, choice("cue {section}", "section", "the section before")),
              pedal(4, Gesture.SHORT, usual("erase {on}")),
              pedal(5, Gesture.SHORT, new PressCommand.HandOff()),
              pedal(5, Gesture.LONG, new KeepCommand.Keep(false, false)),
              pedal(6, Gesture.SHORT, new CueCommand.StartOrStop()),
              pedal(6, Gesture.LONG, new CueCommand.StopAll()),
              knob(1, choice("level of {part}: {level}", "level", "by knob, −60 to 6")),
              knob(2, usual("echo of {part}: {echo}")),
              knob(3, usual("room of {part}: {room}")),
              knob(4, usual("tempo: {by}"))));

  /** What the keys of the computer stand for, but for those that play. */
  public static final List<Assignment> KEYS = keys();

  /** All of it. */
  public static final ControlMap ALL = STAND_IN.and(new ControlMap("keys", KEYS));

  private ReadyMap() {}

  private static List<Assignment> keys() {
    List<Assignment> keys = new ArrayList<>();
    keys.add(key("Enter", new PressCommand.MainPress()));
    keys.add(key("NumpadEnter", new PressCommand.MainPress()));
    keys.add(key("Space", new CueCommand.StartOrStop()));
    keys.add(key("Backspace", new MendCommand.Peel()));
    keys.add(key("Shift Backspace", new MendCommand.Restore()));
    keys.add(key("Delete", new MendCommand.Clear(false)));
    keys.add(key("KeyU", new UndoCommand.Undo(false)));
    keys.add(key("Ctrl KeyZ", new UndoCommand.Undo(false)));
    keys.add(key("Shift KeyU", new UndoCommand.Redo()));
    keys.add(key("KeyY", new PressCommand.HandOff()));
    keys.add(key("Equal", new PressCommand.RecordAnew()));
    keys.add(key("KeyG", new KeepCommand.Keep(false, false)));
    keys.add(key("F2", choice("replace {on}", "on", "on and off")));
    keys.add(key("F3", usual("takes {on}")));
    keys.add(key("F4", usual("erase {on}")));
    keys.add(key("F6", usual("note repeat on {grid}, {on}")));
    keys.add(key("F7", usual("punch the bar that sounds, {on}")));
    keys.add(key("KeyN", usual("cue {section}")));
    keys.add(key("KeyB", choice("cue {section}", "section", "the section before")));
    keys.add(key("Period", new CueCommand.StopAll()));
    keys.add(key("Digit0", usual("{part} tacet")));
    keys.add(key("PageDown", usual("arm {part}")));
    keys.add(key("PageUp", choice("arm {part}", "part", "the part before")));
    keys.add(key("KeyM", usual("mute {part}, {muted}")));
    keys.add(key("KeyJ", usual("solo {part}, {solo}")));
    keys.add(key("KeyT", new SettingCommand.TapTempo()));
    keys.add(key("ArrowUp", choice("tempo: {by}", "by", "+1")));
    keys.add(key("ArrowDown", choice("tempo: {by}", "by", "−1")));
    keys.add(key("KeyK", usual("click, {on}")));
    keys.add(key("Escape", new HandCommand.Panic()));
    keys.add(page("KeyO", OnPage.What.SOUNDS));
    keys.add(page("KeyP", OnPage.What.PART));
    keys.add(page("KeyH", OnPage.What.HANDS));
    keys.add(page("KeyI", OnPage.What.SETTINGS));
    keys.add(page("KeyL", OnPage.What.LIGHT));
    keys.add(page("Shift Slash", OnPage.What.HELP));
    keys.add(page("F1", OnPage.What.HELP));
    keys.add(page("Slash", OnPage.What.WHAT_NOW));
    keys.add(page("F8", OnPage.What.SETUP));
    keys.add(page("F9", OnPage.What.WORKSHOP));
    keys.add(page("F10", OnPage.What.RUNS));
    keys.add(page("BracketLeft", OnPage.What.SOFTER_KEYS));
    keys.add(page("BracketRight", OnPage.What.HARDER_KEYS));
    for (char letter = 'a'; letter <= 'z'; letter++) {
      String place = "Key" + Character.toUpperCase(letter);
      keys.add(key("Alt " + place, choice("cue {clip} of {part}", "clip", "clip " + letter)));
      if (letter != 'u') {
        String capital = "section " + Character.toUpperCase(letter);
        keys.add(key("Shift " + place, choice("cue {section}", "section", capital)));
      }
    }
    return List.copyOf(keys);
  }

  private static Command usual(String words) {
    return Catalogue.named(words).usual();
  }

  private static Command choice(String words, String field, String chosen) {
    return Catalogue.named(words).with(Map.of(field, Catalogue.value(words, field, chosen)));
  }

  private static Assignment pedal(int number, Gesture gesture, Command command) {
    Control control = new Control(FOOTBOARD, Kind.CONTROL_CHANGE, 0, 79 + number);
    return new Assignment(control, gesture, command);
  }

  private static Assignment knob(int number, Command command) {
    Control control = new Control(KNOBS, Kind.CONTROL_CHANGE, 0, 15 + number);
    return new Assignment(control, Gesture.SHORT, command);
  }

  private static Assignment page(String key, OnPage.What what) {
    return key(key, new OnPage(what));
  }

  private static Assignment key(String key, Command command) {
    return new Assignment(Control.key(key), Gesture.SHORT, command);
  }
}
