package ancora.core.engine;

import ancora.core.clip.Layer;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.List;

/** Hands out ids to copied notes. */
final class Ids {

  private long next;

  /** Ids from a number on. */
  Ids(long first) {
    next = first;
  }

  /** The id that nothing has had yet. */
  long next() {
    return next;
  }

  /** The same layers, with notes of their own; one that is held has the length known so far. */
  List<Layer> copies(List<Layer> layers) {
    List<Layer> copies = new ArrayList<>();
    for (Layer layer : layers) {
      List<Note> notes = new ArrayList<>();
      for (Note note : layer.notes()) {
        Note copy = note.held() ? note.released(note.length()) : note;
        notes.add(copy.withId(next++));
      }
      copies.add(layer.withNotes(notes));
    }
    return copies;
  }
}
