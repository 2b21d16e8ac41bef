package ancora.app.stage;

import ancora.core.control.Action;
import ancora.core.control.ControlMap;
import ancora.core.engine.Act;
import ancora.core.engine.Engine;
import ancora.core.engine.Forecast;
import ancora.core.stage.Stage;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** What each pedal does when it is pressed next, in words: what the engine forecasts, spoken. */
final class FootboardWords {

  /** What the Stage has words for whether or not a pedal does it too. */
  private static final List<Action> OF_THE_STAGE = List.of(Action.MAIN, Action.KEEP);

  /** What these would do is found by doing it to all that was played. */
  private static final Set<Action> KEEPING = Set.of(Action.KEEP, Action.KEEP_BARS);

  /** Where these do nothing now, the reason is not always the same. */
  private static final Set<Action> SAYING_WHY =
      Set.of(
          Action.MAIN,
          Action.KEEP,
          Action.RECORD_ANEW,
          Action.REPLACE,
          Action.ERASE,
          Action.PUNCH,
          Action.TAKES,
          Action.OVERDUB);

  private static final long RESTS_TIMES = 20;
  private static final long RESTS_MOST_NANOS = 2_000_000_000;

  private FootboardWords() {}

  /**
   * How long the words of keeping rest after they were found, in ns: so many times as long as that
   * took, that it takes a small part of the time only; yet what they say is never older than 2 s,
   * on a machine that was slow for once as well.
   *
   * @param took ns, not negative
   */
  static long restAfter(long took) {
    return Math.min(RESTS_MOST_NANOS, RESTS_TIMES * took);
  }

  /**
   * Words by the name of the action, with its number after it if it has one.
   *
   * @param known words that were told; those of keeping are taken from here, if they are there
   */
  static Map<String, String> of(
      Engine engine, List<ControlMap.Pedal> pedals, long now, Map<String, String> known) {
    Map<String, String> words = new LinkedHashMap<>();
    OF_THE_STAGE.forEach(action -> words.put(action.name(), of(engine, action, 0, now, known)));
    pedals.stream()
        .flatMap(pedal -> pedal.gestures().stream())
        .forEach(
            a ->
                words.computeIfAbsent(
                    key(a.action(), a.number()),
                    key -> of(engine, a.action(), a.number(), now, known)));
    return words;
  }

  private static String of(
      Engine engine, Action action, int number, long now, Map<String, String> known) {
    String was = KEEPING.contains(action) ? known.get(key(action, number)) : null;
    return was != null ? was : found(engine, action, number, now);
  }

  private static String key(Action action, int number) {
    return number == 0 ? action.name() : action.name() + " " + number;
  }

  private static String found(Engine engine, Action action, int number, long now) {
    Stage stage = engine.stage();
    Forecast forecast = engine.forecast(new Act(action, number), now);
    if (!forecast.isDone()) {
      return SAYING_WHY.contains(action)
          ? why(forecast.refusal().orElseThrow(), stage)
          : idle(action);
    }
    return action == Action.KEEP
        ? ForecastWords.kept(forecast)
        : ForecastWords.of(forecast, stage, action);
  }

  /** What a refusal begins with, before it says what to do; small unless it begins with a name. */
  private static String why(String refusal, Stage stage) {
    String why = refusal.split(": |\\.$", 2)[0];
    boolean named = stage.show().parts().stream().anyMatch(part -> why.startsWith(part.name()));
    return named ? why : why.substring(0, 1).toLowerCase(Locale.ROOT) + why.substring(1);
  }

  /** What is said of a pedal that does nothing now. */
  private static String idle(Action action) {
    return switch (action) {
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
      case STOP_ALL -> "nothing sounds";
      case CUE_CLIP, CUE_NEXT_CLIP -> "no such clip yet";
      case ARM, ARM_NEXT, ARM_PREVIOUS, MUTE, SOLO -> "no such part";
      default -> "not now";
    };
  }
}
