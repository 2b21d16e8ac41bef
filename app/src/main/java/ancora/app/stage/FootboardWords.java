package ancora.app.stage;

import ancora.core.engine.Command;
import ancora.core.engine.Engine;
import ancora.core.engine.Forecast;
import ancora.core.engine.Stage;
import java.util.LinkedHashMap;
import java.util.Map;

/** What each pedal does when it is pressed next, in words: what the engine forecasts, spoken. */
final class FootboardWords {

  private FootboardWords() {}

  /** Words by the name of the pedal. */
  static Map<String, String> of(Engine engine, long now) {
    Stage stage = engine.stage();
    Map<String, String> words = new LinkedHashMap<>();
    for (Pedal pedal : Pedal.values()) {
      Command command = pedal.command(stage);
      Forecast forecast = engine.forecast(command, now);
      words.put(pedal.word(), words(pedal, forecast, stage));
    }
    return words;
  }

  private static String words(Pedal pedal, Forecast forecast, Stage stage) {
    if (!forecast.isDone()) {
      return pedal.idle();
    }
    return pedal == Pedal.KEEP
        ? ForecastWords.kept(forecast)
        : ForecastWords.of(forecast, stage, pedal == Pedal.MAIN);
  }

  /** What the pedals of the footboard do. */
  enum Pedal {
    MAIN("main", "add a part first"),
    PEEL("peel", "nothing to take off"),
    RESTORE("restore", "nothing to put back"),
    CLEAR("clear", "nothing to clear"),
    STOP("stop", "nothing to stop"),
    NEXT("next", "no section comes next"),
    TACET("tacet", "nothing sounds here"),
    HAND_OFF("handOff", "nothing to hand off"),
    UNDO("undo", "nothing to undo"),
    KEEP("keep", "nothing played yet"),
    STOP_ALL("stopAll", "nothing sounds");

    private final String word;
    private final String idle;

    Pedal(String word, String idle) {
      this.word = word;
      this.idle = idle;
    }

    String word() {
      return word;
    }

    String idle() {
      return idle;
    }

    /** What the pedal asks for as things stand. */
    Command command(Stage stage) {
      return switch (this) {
        case MAIN -> new Command.MainPress();
        case PEEL -> new Command.Peel();
        case RESTORE -> new Command.Restore();
        case CLEAR -> new Command.Clear();
        case STOP -> stage.isStill() ? new Command.Start() : new Command.Stop();
        case NEXT -> new Command.CueNext();
        case TACET ->
            stage.armed().<Command>map(Command.CueTacet::new).orElse(new Command.StopAll());
        case HAND_OFF -> new Command.HandOff();
        case UNDO -> new Command.Undo();
        case KEEP -> new Command.Keep(false, false);
        case STOP_ALL -> new Command.StopAll();
      };
    }
  }
}
