package ancora.core.rules;

import ancora.core.Refusal;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;

/** Which meter a show may have. */
public final class Meters {

  private Meters() {}

  /** Refuses another meter while there is music in this one. */
  public static void checkMeter(Stage stage, Meter meter) {
    Show show = stage.show();
    boolean music = show.parts().stream().anyMatch(part -> !part.shelf().isEmpty());
    boolean recording =
        show.parts().stream().anyMatch(part -> stage.on(part.id()).first().isPresent());
    Refusal.unless(
        !music && !recording || meter.equals(show.meter()),
        "The meter stays %s while there are clips: clear them, or use another show.",
        show.meter());
  }
}
