package ancora.core.player;

import ancora.core.time.TempoMap;
import java.util.List;

/**
 * What sounded from one start of the transport to its stop.
 *
 * @param map which tick was heard when
 * @param sounded in order
 */
public record Roll(TempoMap map, List<Sounded> sounded) {

  public Roll {
    sounded = List.copyOf(sounded);
  }
}
