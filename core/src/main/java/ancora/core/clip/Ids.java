package ancora.core.clip;

import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** Hands out ids to copied notes. */
public final class Ids {

  private long next;

  /** Ids from a number on. */
  public Ids(long first) {
    next = first;
  }

  /** The id that nothing has had yet. */
  public long next() {
    return next;
  }

  /** An id that nothing has had yet, which is had from now on. */
  public long take() {
    return next++;
  }

  /** The first id from one on that no note of a clip has. */
  public static long after(Clip clip, long first) {
    long most =
        clip.allLayers()
            .flatMap(layer -> layer.notes().stream())
            .mapToLong(Note::id)
            .max()
            .orElse(0);
    return Math.max(first, most + 1);
  }

  /** The same take, with notes of its own; one that is held has the length known so far. */
  public Take copy(Take take) {
    Map<Long, Long> ids = new HashMap<>();
    return take.mapLayers(layer -> withOwnNotes(layer, ids))
        .mapLayers(
            layer ->
                layer.withOut(
                    layer.notesOut().stream().map(ids::get).filter(Objects::nonNull).toList(),
                    layer.movesOut()));
  }

  private Layer withOwnNotes(Layer layer, Map<Long, Long> ids) {
    List<Note> notes = new ArrayList<>();
    for (Note note : layer.notes()) {
      ids.put(note.id(), next);
      Note copy = note.held() ? note.released(note.length()) : note;
      notes.add(copy.withId(next++));
    }
    return layer.withNotes(notes);
  }
}
