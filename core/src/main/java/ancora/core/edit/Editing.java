package ancora.core.edit;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.Take;
import java.util.List;
import java.util.function.IntPredicate;

/** Several edits of a take, one after another. */
public final class Editing {

  private Editing() {}

  /**
   * The take after some edits. A layer that they leave with nothing goes, but for the last one.
   *
   * @param stays numbers of layers that stay though nothing is left in them: they are being
   *     recorded
   */
  public static Take of(Take take, List<Edit> edits, Ground ground, IntPredicate stays) {
    Take next = take;
    for (Edit edit : edits) {
      next = edit.apply(next, ground);
    }
    Refusal.unless(
        next.noteCount() <= Clip.MOST_NOTES && next.moveCount() <= Clip.MOST_MOVES,
        "A take has %s notes at most, and %s moves of controllers: copy less.",
        Clip.MOST_NOTES,
        Clip.MOST_MOVES);
    return next.equals(take) ? take : next.withoutStray().withoutEmptied(take, stays);
  }
}
