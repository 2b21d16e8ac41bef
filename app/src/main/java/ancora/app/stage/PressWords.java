package ancora.app.stage;

import ancora.core.engine.MainPress.Decision;
import ancora.core.engine.Stage;
import ancora.core.show.Part;
import ancora.core.show.RecordingSettings;
import ancora.core.time.Meter;
import ancora.core.time.Position;

/** What the next main press will do, in words. */
final class PressWords {

  private PressWords() {}

  static String of(Decision decision, Stage stage) {
    Part part = stage.show().part(decision.part());
    Meter meter = stage.show().meter();
    RecordingSettings settings = stage.show().recording();
    String then = settings.overdubAfter() ? "add to it" : "vamp";
    String countIn =
        settings.countInBars() == 0 ? "" : "count in " + bars(settings.countInBars()) + ", then ";
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

  private static String bars(int bars) {
    return bars == 1 ? "1 bar" : bars + " bars";
  }

  private static String place(long tick, Meter meter) {
    Position position = Position.of(tick, meter);
    return position.beat() == 1 && position.tick() == 0
        ? "bar " + position.bar()
        : "bar " + position.bar() + " beat " + position.beat();
  }
}
