package ancora.app.stage;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.engine.Command;
import ancora.core.engine.Engine;
import ancora.core.engine.MainPress.Decision;
import ancora.core.engine.Outcome;
import ancora.core.engine.Stage;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.time.Meter;
import ancora.core.time.Position;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * What each pedal does when it is pressed next, in words. The engine is asked: by its own decision,
 * or by doing the thing on a copy.
 */
final class FootboardWords {

  private FootboardWords() {}

  /** Words by the name of the pedal. */
  static Map<String, String> of(Engine engine, long now) {
    Stage stage = engine.stage();
    Map<String, String> words = new TreeMap<>();
    words.put(
        "main",
        engine
            .forecastMainPress(now)
            .map(decision -> mainPress(decision, stage))
            .orElse("add a part first"));
    words.put("peel", peel(stage, now));
    words.put("restore", restore(stage, now));
    words.put("clear", clear(stage, now));
    words.put("stop", stop(stage));
    return words;
  }

  static String mainPress(Decision decision, Stage stage) {
    Part part = stage.show().part(decision.part());
    Meter meter = stage.show().meter();
    RecordingSettings settings = stage.show().recording();
    String then = settings.overdubAfter() ? "add to it" : "vamp";
    String countIn =
        settings.countInBars() == 0
            ? ""
            : "count in " + count(settings.countInBars(), "bar") + ", then ";
    return switch (decision.kind()) {
      case COUNT_IN -> countIn + "record " + part.name();
      case AWAIT_FIRST_NOTE -> "wait for the first note, and record from it";
      case START_OVERDUB -> countIn + "play " + part.name() + " and add to it";
      case RECORD -> "record " + part.name() + " from " + place(decision.tick(), meter);
      case CALL_OFF_RECORDING -> "call the recording off";
      case CLOSE -> "close the loop at " + place(decision.tick(), meter) + ", then " + then;
      case CALL_OFF_CLOSING -> "do not close at " + place(decision.tick(), meter) + ": record on";
      case OVERDUB -> "add to " + part.name();
      case STOP_OVERDUB -> "stop adding; " + part.name() + " goes on vamping";
    };
  }

  private static String peel(Stage stage, long now) {
    Optional<Stage> after = after(stage, new Command.Peel(), now);
    if (after.isEmpty()) {
      return "nothing to take off";
    }
    return changed(stage, after.get())
        .map(clip -> "take off " + layer(clip.newest()))
        .orElse("drop this recording, start afresh");
  }

  private static String restore(Stage stage, long now) {
    return after(stage, new Command.Restore(), now)
        .flatMap(after -> changed(after, stage))
        .map(clip -> "put back " + layer(clip.newest()))
        .orElse("nothing to put back");
  }

  private static String clear(Stage stage, long now) {
    Optional<Clip> gone =
        after(stage, new Command.Clear(), now).flatMap(after -> changed(stage, after));
    if (gone.isPresent()) {
      return "take clip " + gone.get().letter() + " off the shelf";
    }
    return stage.cleared().isEmpty() ? "nothing to clear" : "bring back what was cleared";
  }

  private static String stop(Stage stage) {
    if (stage.map().isPresent()) {
      return "stop everything";
    }
    boolean ready =
        stage.show().parts().stream().anyMatch(part -> stage.on(part.id()).ready().isPresent());
    return ready ? "start what is ready" : "start the click";
  }

  private static Optional<Stage> after(Stage stage, Command command, long now) {
    Engine copy = Engine.of(stage);
    return copy.apply(command, now, now) instanceof Outcome.Done
        ? Optional.of(copy.stage())
        : Optional.empty();
  }

  /** The armed part's clip in the first stage that the second has otherwise, or not at all. */
  private static Optional<Clip> changed(Stage first, Stage second) {
    Optional<PartId> armed = first.armed();
    if (armed.isEmpty()) {
      return Optional.empty();
    }
    List<Clip> other = second.show().part(armed.get()).shelf();
    return first.show().part(armed.get()).shelf().stream()
        .filter(clip -> !other.contains(clip))
        .findFirst();
  }

  private static String layer(Layer layer) {
    return "layer " + layer.number() + " (" + count(layer.notes().size(), "note") + ")";
  }

  private static String count(int n, String what) {
    return n + " " + what + (n == 1 ? "" : "s");
  }

  private static String place(long tick, Meter meter) {
    Position position = Position.of(tick, meter);
    return position.beat() == 1 && position.tick() == 0
        ? "bar " + position.bar()
        : "bar " + position.bar() + " beat " + position.beat();
  }
}
