package ancora.core.replay;

import ancora.core.run.Run;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import ancora.core.standin.Concert;
import ancora.core.time.TempoMap;
import java.util.List;

/** The concert of the stand-in, performed in virtual time. */
public final class PerformedConcert {

  private PerformedConcert() {}

  /** The run that comes of it; the show needs sections. */
  public static Run of(Show show) {
    Replay replay = Replay.ofRuns(Stage.of(show));
    TempoMap map = TempoMap.of(0, 0, show.tempo());
    for (Concert.Request request : Concert.of(show)) {
      long micros = Math.round(map.microsOf(Math.max(0, request.tick())));
      replay.apply(request.command(), micros, micros);
    }
    List<Run> runs = replay.runs();
    return runs.get(runs.size() - 1);
  }
}
