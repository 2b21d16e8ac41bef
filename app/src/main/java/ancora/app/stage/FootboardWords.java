package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.core.catalogue.Catalogue;
import ancora.core.catalogue.Entry;
import ancora.core.control.Assignment;
import ancora.core.control.Assignment.Gesture;
import ancora.core.control.ControlMap;
import ancora.core.engine.Engine;
import ancora.core.engine.Forecast;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.address.Addressed;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import ancora.core.stage.Stage;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** What each pedal does when it is pressed next, in words: what the engine forecasts, spoken. */
final class FootboardWords {

  /** What the Stage has words for whether or not a pedal does it too. */
  private static final List<Command> OF_THE_STAGE =
      List.of(new PressCommand.MainPress(), new KeepCommand.Keep(false, false));

  /** What these would do is found by doing it to all that was played. */
  private static final Set<Class<?>> KEEPING =
      Set.of(KeepCommand.Keep.class, KeepCommand.KeepBars.class);

  /**
   * What is said of a pedal that does nothing now; of others the reason, which is not one alone.
   */
  private static final Map<Class<?>, String> IDLE =
      Map.ofEntries(
          Map.entry(PressCommand.Close.class, "nothing is recorded"),
          Map.entry(MendCommand.Peel.class, "nothing to take off"),
          Map.entry(MendCommand.Restore.class, "nothing to put back"),
          Map.entry(MendCommand.Clear.class, "nothing to clear"),
          Map.entry(PressCommand.HandOff.class, "nothing to hand off"),
          Map.entry(UndoCommand.Undo.class, "nothing to undo"),
          Map.entry(UndoCommand.Redo.class, "nothing to do again"),
          Map.entry(CueCommand.StopAll.class, "nothing sounds"));

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
   * Words that were told.
   *
   * @param all by their keys
   * @param keepingToo whether those of keeping hold still
   * @param othersToo whether those of long and double presses hold still: a press that may turn out
   *     to be one has just been done, and they are what it would be from the stage before that
   */
  record Told(Map<String, String> all, boolean keepingToo, boolean othersToo) {
    static final Told NOTHING = new Told(Map.of(), false, false);
  }

  /** Words by the key of what a pedal, or the Stage, has. */
  static Map<String, String> of(Engine engine, List<ControlMap.Pedal> pedals, long now, Told told) {
    Map<String, String> words = new LinkedHashMap<>();
    for (Command command : OF_THE_STAGE) {
      words.put(key(command), of(engine, command, now, told));
    }
    pedals.stream()
        .flatMap(pedal -> pedal.gestures().stream())
        .forEach(
            a -> {
              String key = key(a);
              String was = told.othersToo() && isOther(a) ? told.all().get(key) : null;
              words.computeIfAbsent(
                  key, k -> was == null ? of(engine, a.command(), now, told) : was);
            });
    return words;
  }

  private static boolean isOther(Assignment assignment) {
    return assignment.gesture() == Gesture.LONG || assignment.gesture() == Gesture.DOUBLE;
  }

  /** What is done by a gesture is known by its command; by a long or double press apart. */
  static String key(Assignment assignment) {
    String key = key(assignment.command());
    return isOther(assignment) ? assignment.gesture().name() + " " + key : key;
  }

  /** What a command is known by: itself, as it is written. */
  static String key(Command command) {
    return CommandJson.write(command).toString();
  }

  private static String of(Engine engine, Command command, long now, Told told) {
    boolean keeps = KEEPING.contains(kind(command)) && told.keepingToo();
    String was = keeps ? told.all().get(key(command)) : null;
    return was != null ? was : found(engine, command, now);
  }

  private static Class<?> kind(Command command) {
    return command instanceof Addressed addressed ? addressed.of() : command.getClass();
  }

  /** What a command would do now, in words. */
  static String found(Engine engine, Command command, long now) {
    if (command instanceof OnPage) {
      return Catalogue.words(command);
    }
    Stage stage = engine.stage();
    Forecast forecast = engine.forecast(asPressed(stage, command), now);
    if (!forecast.isDone()) {
      String idle = IDLE.get(kind(command));
      return idle == null ? why(forecast.refusal().orElseThrow(), stage) : idle;
    }
    return kind(command) == KeepCommand.Keep.class
        ? ForecastWords.kept(forecast)
        : ForecastWords.of(forecast, stage, command);
  }

  /** What lasts as long as its pedal is held begins with it. */
  private static Command asPressed(Stage stage, Command command) {
    boolean held = command instanceof Addressed && Entry.holdOf(command) == Entry.Hold.WHILE_HELD;
    return held ? Catalogue.entry(command).orElseThrow().with(Map.of("on", true)) : command;
  }

  /** What a refusal begins with, before it says what to do; small unless it begins with a name. */
  private static String why(String refusal, Stage stage) {
    List<String> names = stage.show().parts().stream().map(Part::name).toList();
    // a name may have a colon in it
    int named = names.stream().filter(refusal::startsWith).mapToInt(String::length).max().orElse(0);
    String rest = refusal.substring(named).split(": |\\.$", 2)[0];
    String why = refusal.substring(0, named) + rest;
    return named > 0 ? why : why.substring(0, 1).toLowerCase(Locale.ROOT) + why.substring(1);
  }
}
