package ancora.core.clip;

import ancora.core.note.Note;
import java.util.Optional;

/**
 * The sustain pedal's line: spans that are cut at the edges of what is replaced or put together.
 */
public final class Pedal {

  private Pedal() {}

  /** What of a span lies in a stretch; empty if nothing, or less than the shortest. */
  public static Optional<Note> within(Note span, long from, long to) {
    long begin = Math.max(span.meant(), from);
    long end = Math.min(span.meant() + span.length(), to);
    return end - begin < Note.SHORTEST
        ? Optional.empty()
        : Optional.of(span.meantAt(begin).withLength(end - begin));
  }
}
