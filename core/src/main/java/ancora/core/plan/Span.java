package ancora.core.plan;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import java.util.List;

/**
 * A stretch of time in which a part sounds a clip.
 *
 * @param id the same from plan to plan for the same stretch
 * @param clip the clip
 * @param window what goes round
 * @param phase a tick at which the window's start sounds, or would sound
 * @param from the first tick
 * @param until the first tick after it; {@link ancora.core.time.Ticks#OPEN} for no end
 * @param underWay whether notes that have begun before {@code from} are attacked there
 * @param letRing whether its notes sound on to their natural end when it is over
 * @param notes by rising place
 * @param moves what controllers do, by rising place
 */
public record Span(
    String id,
    ClipId clip,
    LoopWindow window,
    long phase,
    long from,
    long until,
    boolean underWay,
    boolean letRing,
    List<PlannedNote> notes,
    List<ControllerMove> moves) {

  public Span {
    notes = List.copyOf(notes);
    moves = List.copyOf(moves);
  }
}
