package ancora.core.stage;

import ancora.core.clip.LoopWindow;
import ancora.core.note.InputKey;
import ancora.core.show.PartId;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * A key that is down.
 *
 * @param key which
 * @param part the part that its press went to, and that its release goes to
 * @param noteId the note that it made
 * @param pitch the pitch that it made
 * @param velocity its velocity, or the newest pressure on it
 * @param onMicros instant of its press
 * @param erases whether it chooses what is erased: it is neither heard nor recorded
 * @param nextLine where the key is repeated: the next tick at which it sounds
 * @param repeated the latest notes that were made of its repeats
 * @param copied where its note is to be copied to once it is let go
 */
@RecordBuilder
public record HeldKey(
    InputKey key,
    PartId part,
    long noteId,
    int pitch,
    int velocity,
    long onMicros,
    boolean erases,
    OptionalLong nextLine,
    List<Repeated> repeated,
    Optional<Copied> copied)
    implements HeldKeyBuilder.With {

  /** A release is never later than this many repeats. */
  private static final int REMEMBERED = 1024;

  public HeldKey {
    repeated = List.copyOf(repeated);
  }

  /**
   * A repeat that was recorded.
   *
   * @param noteId the note that it made
   * @param line the tick at which it sounded
   */
  public record Repeated(long noteId, long line) {}

  /**
   * Its clip was doubled, or repeated, while it was down: the copies come when it is let go, with
   * its length, as long as the clip goes round as it did then.
   *
   * @param window how the clip goes round since
   * @param later how much later each copy lies, in ticks
   */
  public record Copied(LoopWindow window, List<Long> later) {
    public Copied {
      later = List.copyOf(later);
    }
  }

  /** This key as a stop leaves it: what was repeated is not repeated any more. */
  public HeldKey rested() {
    OptionalLong never = nextLine.isPresent() ? OptionalLong.of(Long.MAX_VALUE) : nextLine;
    return withNextLine(never).withRepeated(List.of());
  }

  public HeldKey with(Repeated repeat) {
    List<Repeated> next = new ArrayList<>(repeated);
    next.add(repeat);
    return withRepeated(next.subList(Math.max(0, next.size() - REMEMBERED), next.size()));
  }
}
