package ancora.core.record;

import ancora.core.note.ControllerMove;
import java.util.ArrayList;
import java.util.List;

/** How moves of controllers are kept: no denser than one each 5 ms for each controller. */
public final class ControllerMoves {

  /** Moves of a controller are kept at least this far apart, in microseconds. */
  public static final long APART = 5_000;

  private ControllerMoves() {}

  /**
   * Moves with one more. Where it follows the latest of its controller too soon, it takes that
   * one's place, so that the value arrived at is kept.
   *
   * @param within ticks that are too soon
   */
  public static List<ControllerMove> with(
      List<ControllerMove> moves, ControllerMove move, long within) {
    List<ControllerMove> next = new ArrayList<>(moves);
    for (int i = next.size() - 1; i >= 0; i--) {
      ControllerMove before = next.get(i);
      if (before.controller().equals(move.controller())) {
        long since = move.place() - before.place();
        if (since >= 0 && since < within) {
          next.set(i, before.withValue(move.value()));
          return next;
        }
        break;
      }
    }
    next.add(move);
    return next;
  }
}
