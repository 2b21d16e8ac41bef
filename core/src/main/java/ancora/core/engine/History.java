package ancora.core.engine;

import java.util.ArrayList;
import java.util.List;

/**
 * The edits of a show, one history for all of it.
 *
 * @param done the latest at the end
 * @param undone the one undone last at the end
 */
public record History(List<Edit> done, List<Edit> undone) {

  /** Nothing edited yet. */
  public static final History EMPTY = new History(List.of(), List.of());

  public History {
    done = List.copyOf(done);
    undone = List.copyOf(undone);
  }

  /** This history with one more edit, after which nothing can be redone. */
  History with(Edit edit) {
    return edit.isNothing() ? this : new History(append(done, edit), List.of());
  }

  History undone(Edit redo) {
    return new History(done.subList(0, done.size() - 1), append(undone, redo));
  }

  History redone(Edit undo) {
    return new History(append(done, undo), undone.subList(0, undone.size() - 1));
  }

  /** What sounded when something was edited does not come back after a stop. */
  History afterStop() {
    return new History(
        done.stream().map(Edit::withoutEnded).toList(),
        undone.stream().map(Edit::withoutEnded).toList());
  }

  private static List<Edit> append(List<Edit> edits, Edit edit) {
    List<Edit> next = new ArrayList<>(edits);
    next.add(edit);
    return next;
  }
}
