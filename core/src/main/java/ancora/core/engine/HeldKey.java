package ancora.core.engine;

import ancora.core.note.InputKey;
import ancora.core.show.PartId;

/**
 * A key that is down.
 *
 * @param key which
 * @param part the part that its press went to, and that its release goes to
 * @param noteId the note that it made
 * @param onMicros instant of its press
 */
public record HeldKey(InputKey key, PartId part, long noteId, long onMicros) {}
