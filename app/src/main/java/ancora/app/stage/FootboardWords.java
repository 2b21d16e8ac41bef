package ancora.app.stage;

import ancora.core.control.Action;
import ancora.core.control.ControlMap;
import ancora.core.engine.Command;
import ancora.core.engine.Engine;
import ancora.core.engine.Forecast;
import ancora.core.engine.Stage;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What each pedal does when it is pressed next, in words: what the engine forecasts, spoken. */
final class FootboardWords {

  /** What the Stage has words for whether or not a pedal does it too. */
  private static final List<Action> OF_THE_STAGE = List.of(Action.MAIN, Action.KEEP);

  /** Ways of recording: one at a time. */
  private static final Set<Action> WAYS =
      Set.of(Action.REPLACE, Action.ERASE, Action.PUNCH, Action.TAKES);

  private FootboardWords() {}

  /** Words by the name of the action, with its number after it if it has one. */
  static Map<String, String> of(Engine engine, List<ControlMap.Pedal> pedals, long now) {
    Map<String, String> words = new LinkedHashMap<>();
    OF_THE_STAGE.forEach(action -> words.put(action.name(), of(engine, action, 0, now)));
    pedals.stream()
        .flatMap(pedal -> pedal.gestures().stream())
        .forEach(
            a ->
                words.computeIfAbsent(
                    key(a.action(), a.number()), key -> of(engine, a.action(), a.number(), now)));
    return words;
  }

  private static String key(Action action, int number) {
    return number == 0 ? action.name() : action.name() + " " + number;
  }

  private static String of(Engine engine, Action action, int number, long now) {
    Stage stage = engine.stage();
    Forecast forecast = engine.forecast(new Command.Act(action, number), now);
    if (!forecast.isDone()) {
      return sounds(stage) && WAYS.contains(action) ? "one way at a time" : idle(action);
    }
    return action == Action.KEEP
        ? ForecastWords.kept(forecast)
        : ForecastWords.of(forecast, stage, action);
  }

  private static boolean sounds(Stage stage) {
    return stage.armed().flatMap(part -> stage.on(part).vamp()).isPresent();
  }

  /** What is said of a pedal that does nothing now. */
  private static String idle(Action action) {
    return switch (action) {
      case MAIN, RECORD_ANEW -> "add a part first";
      case CLOSE -> "nothing is recorded";
      case PEEL -> "nothing to take off";
      case RESTORE -> "nothing to put back";
      case CLEAR -> "nothing to clear";
      case START_STOP -> "nothing to stop";
      case NEXT_SECTION, PREVIOUS_SECTION, CUE_SECTION -> "no section comes next";
      case TACET, CUT, HALVE, DOUBLE, SHIFT_EARLIER, SHIFT_LATER -> "nothing sounds here";
      case HAND_OFF -> "nothing to hand off";
      case UNDO -> "nothing to undo";
      case REDO -> "nothing to do again";
      case KEEP -> "nothing played yet";
      case STOP_ALL -> "nothing sounds";
      case REPLACE, ERASE, PUNCH, TAKES, OVERDUB -> "no loop sounds here";
      case CUE_CLIP, CUE_NEXT_CLIP -> "no such clip yet";
      case ARM, ARM_NEXT, ARM_PREVIOUS, MUTE, SOLO -> "no such part";
      default -> "not now";
    };
  }
}
