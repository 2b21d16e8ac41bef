package ancora.core.stage;

import ancora.core.show.PartId;
import ancora.core.time.TempoMap;

/** Whether time goes on. */
public sealed interface Transport {

  /** It stands still. */
  record Standing() implements Transport {}

  /**
   * It stands still, and the first note played on a part starts it.
   *
   * @param part the part whose first note it is
   */
  record AwaitingFirstNote(PartId part) implements Transport {}

  /**
   * It runs.
   *
   * @param map which tick is heard when
   * @param firstTick 0, or before it by the count-in
   */
  record Rolling(TempoMap map, long firstTick) implements Transport {
    public Rolling withMap(TempoMap newMap) {
      return new Rolling(newMap, firstTick);
    }
  }
}
