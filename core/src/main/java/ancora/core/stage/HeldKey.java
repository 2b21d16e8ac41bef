package ancora.core.stage;

import ancora.core.note.InputKey;
import ancora.core.show.PartId;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
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
    List<Repeated> repeated)
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

  /** This key as a stop leaves it: what was repeated is not repeated any more. */
  public HeldKey rested() {
    OptionalLong never = nextLine.isPresent() ? OptionalLong.of(Long.MAX_VALUE) : nextLine;
    return new HeldKey(key, part, noteId, pitch, velocity, onMicros, erases, never, List.of());
  }

  public HeldKey with(Repeated repeat) {
    List<Repeated> next = new ArrayList<>(repeated);
    next.add(repeat);
    return new HeldKey(
        key,
        part,
        noteId,
        pitch,
        velocity,
        onMicros,
        erases,
        nextLine,
        next.subList(Math.max(0, next.size() - REMEMBERED), next.size()));
  }
}
