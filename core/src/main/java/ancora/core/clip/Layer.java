package ancora.core.clip;

import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;

/**
 * The notes added in one pass.
 *
 * @param number 1 for the first recording, then upwards in the order in which layers were begun
 * @param notes in the order in which they were played
 */
public record Layer(int number, List<Note> notes) {

  public Layer {
    notes = List.copyOf(notes);
  }

  public Layer with(Note note) {
    List<Note> next = new ArrayList<>(notes.size() + 1);
    next.addAll(notes);
    next.add(note);
    return new Layer(number, next);
  }

  public Layer where(Predicate<Note> keep) {
    return new Layer(number, notes.stream().filter(keep).toList());
  }

  public boolean holds(long noteId) {
    return notes.stream().anyMatch(note -> note.id() == noteId);
  }
}
