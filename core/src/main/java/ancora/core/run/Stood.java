package ancora.core.run;

import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * How a part of a run stood in the whole, from an instant on.
 *
 * @param micros the instant, in microseconds
 * @param part the part
 * @param from what it was
 */
public record Stood(double micros, PartId part, From.OfBalance from) {

  /**
   * How all parts of a run stood, in the order in which they came to.
   *
   * @param map which of its ticks is heard when
   */
  public static List<Stood> of(Run run, TempoMap map) {
    List<Stood> all = new ArrayList<>();
    for (RunPart part : run.parts()) {
      for (From.OfBalance from : part.balances()) {
        all.add(new Stood(map.microsOf(Math.max(run.from(), from.tick())), part.id(), from));
      }
    }
    all.sort(Comparator.comparingDouble(Stood::micros));
    return all;
  }
}
