package ancora.core.clip;

import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * What one pass or mend adds to a take, and what it takes out of the layers below it.
 *
 * @param number 1 for the first recording, then upwards in the order in which layers were begun
 * @param notes that it adds, by rising id: in the order in which they were played
 * @param moves of controllers that it adds, in the order in which they were made
 * @param notesOut ids of the notes that it takes out, rising
 * @param movesOut ids of the moves that it takes out, rising
 */
@RecordBuilder
public record Layer(
    int number,
    List<Note> notes,
    List<ControllerMove> moves,
    List<Long> notesOut,
    List<Long> movesOut)
    implements LayerBuilder.With {

  public Layer {
    notes = List.copyOf(notes);
    moves = List.copyOf(moves);
    notesOut = List.copyOf(notesOut);
    movesOut = List.copyOf(movesOut);
  }

  /** A layer in which no controller moves, and that takes nothing out. */
  public Layer(int number, List<Note> notes) {
    this(number, notes, List.of(), List.of(), List.of());
  }

  /** A layer with nothing in it yet. */
  public static Layer empty(int number) {
    return new Layer(number, List.of());
  }

  /** Whether it neither adds nor takes out. */
  public boolean isEmpty() {
    return notes.isEmpty() && moves.isEmpty() && notesOut.isEmpty() && movesOut.isEmpty();
  }

  /** Whether it takes anything out. */
  public boolean takesOut() {
    return !notesOut.isEmpty() || !movesOut.isEmpty();
  }

  /** This layer with one more note, at its place among the ids. */
  public Layer with(Note note) {
    int place = notes.size();
    while (place > 0 && notes.get(place - 1).id() > note.id()) {
      place--;
    }
    List<Note> next = new ArrayList<>(notes.size() + 1);
    next.addAll(notes);
    next.add(place, note);
    return withNotes(next);
  }

  /** This layer with some more notes, each at its place among the ids. */
  public Layer with(Collection<Note> more) {
    List<Note> next = new ArrayList<>(notes);
    next.addAll(more);
    next.sort(Comparator.comparingLong(Note::id));
    return withNotes(next);
  }

  public Layer with(ControllerMove move) {
    List<ControllerMove> next = new ArrayList<>(moves.size() + 1);
    next.addAll(moves);
    next.add(move);
    return withMoves(next);
  }

  /** This layer that takes out just these. */
  public Layer withOut(Collection<Long> noteIds, Collection<Long> moveIds) {
    return new Layer(number, notes, moves, rising(noteIds), rising(moveIds));
  }

  /** This layer that takes out some more. */
  public Layer takingOut(Collection<Long> noteIds, Collection<Long> moveIds) {
    return withOut(joined(notesOut, noteIds), joined(movesOut, moveIds));
  }

  /** This layer that takes out some less. */
  public Layer puttingBack(Collection<Long> noteIds, Collection<Long> moveIds) {
    Set<Long> notesBack = new HashSet<>(noteIds);
    Set<Long> movesBack = new HashSet<>(moveIds);
    return withOut(
        notesOut.stream().filter(id -> !notesBack.contains(id)).toList(),
        movesOut.stream().filter(id -> !movesBack.contains(id)).toList());
  }

  public Layer map(UnaryOperator<Note> change) {
    return withNotes(notes.stream().map(change).toList());
  }

  public Layer mapMoves(UnaryOperator<ControllerMove> change) {
    return moves.isEmpty() ? this : withMoves(moves.stream().map(change).toList());
  }

  public Layer where(Predicate<Note> keep) {
    return withNotes(notes.stream().filter(keep).toList());
  }

  public Layer whereMoves(Predicate<ControllerMove> keep) {
    return moves.isEmpty() ? this : withMoves(moves.stream().filter(keep).toList());
  }

  /** This layer with one note changed; unchanged if it does not hold it. */
  public Layer mapNote(long noteId, UnaryOperator<Note> change) {
    int place = placeOf(noteId);
    if (place < 0) {
      return this;
    }
    List<Note> next = new ArrayList<>(notes);
    next.set(place, change.apply(notes.get(place)));
    return withNotes(next);
  }

  public boolean holds(long noteId) {
    return placeOf(noteId) >= 0;
  }

  /** The place of a note among the others, by their ids; below 0 if it is not here. */
  private int placeOf(long noteId) {
    int low = 0;
    int high = notes.size() - 1;
    while (low <= high) {
      int middle = (low + high) >>> 1;
      long id = notes.get(middle).id();
      if (id == noteId) {
        return middle;
      }
      low = id < noteId ? middle + 1 : low;
      high = id < noteId ? high : middle - 1;
    }
    return -1;
  }

  /** Layers by rising number. */
  static final Comparator<Layer> BY_NUMBER = Comparator.comparingInt(Layer::number);

  private static List<Long> joined(List<Long> some, Collection<Long> more) {
    List<Long> all = new ArrayList<>(some);
    all.addAll(more);
    return all;
  }

  private static List<Long> rising(Collection<Long> ids) {
    return List.copyOf(new TreeSet<>(ids));
  }
}
