package ancora.core.rules;

import ancora.core.Refusal;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;

/**
 * The one gate through which a show gets another meter, and a tempo that no hand has asked for: of
 * music that is kept, brought in or taken back. What is recorded lies in the ones that it began in.
 */
public final class TempoAndMeter {

  private TempoAndMeter() {}

  /** Whether nothing is recorded, counted in, or about to be. */
  public static boolean isOpen(Stage stage) {
    return !(stage.transport() instanceof Transport.AwaitingFirstNote)
        && stage.partStages().values().stream()
            .allMatch(on -> on.first().isEmpty() && on.open().isEmpty());
  }

  /** Whether a show has no music yet, nor is getting any: then it has no tempo of its own. */
  public static boolean isNobodys(Stage stage) {
    return !hasMusic(stage.show()) && isOpen(stage);
  }

  private static boolean hasMusic(Show show) {
    return show.parts().stream().anyMatch(part -> !part.shelf().isEmpty());
  }

  /** Refuses another meter while there is music in this one, or some is being recorded. */
  public static void checkMeter(Stage stage, Meter meter) {
    Refusal.unless(
        isNobodys(stage) || meter.equals(stage.show().meter()),
        "The meter stays %s while there are clips: clear them, or use another show.",
        stage.show().meter());
  }

  /** A tempo holds from the first tick that can still be heard in it. */
  public static Stage withTempo(Stage stage, Tempo tempo, Moment moment) {
    Stage next = stage.withShow(stage.show().withTempo(tempo));
    return stage.transport() instanceof Transport.Rolling rolling
        ? next.withTransport(rolling.withMap(rolling.map().withTempoFrom(tempo, moment.audible())))
        : next;
  }

  /**
   * A show without music gets the tempo and the meter of what comes to it; refused while something
   * is recorded, or about to be.
   */
  public static Stage taken(Stage stage, Tempo tempo, Meter meter, Moment moment) {
    Show show = stage.show();
    if (tempo.equals(show.tempo()) && meter.equals(show.meter())) {
      return stage;
    }
    Refusal.unless(
        isNobodys(stage),
        "Something is recorded, or about to be: its tempo and meter stay until that is over.");
    return withTempo(stage.withShow(show.withMeter(meter)), tempo, moment);
  }
}
