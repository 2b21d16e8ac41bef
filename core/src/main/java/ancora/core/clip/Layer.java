package ancora.core.clip;

import ancora.core.note.Move;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * What was added in one pass.
 *
 * @param number 1 for the first recording, then upwards in the order in which layers were begun
 * @param notes in the order in which they were played
 * @param moves of controllers, in the order in which they were made
 */
public record Layer(int number, List<Note> notes, List<Move> moves) {

  public Layer {
    notes = List.copyOf(notes);
    moves = List.copyOf(moves);
  }

  /** A layer in which no controller moves. */
  public Layer(int number, List<Note> notes) {
    this(number, notes, List.of());
  }

  /** A layer with nothing in it yet. */
  public static Layer empty(int number) {
    return new Layer(number, List.of(), List.of());
  }

  public boolean isEmpty() {
    return notes.isEmpty() && moves.isEmpty();
  }

  public Layer with(Note note) {
    return withNotes(appended(notes, note));
  }

  public Layer with(Move move) {
    return withMoves(appended(moves, move));
  }

  public Layer withNotes(List<Note> newNotes) {
    return new Layer(number, newNotes, moves);
  }

  public Layer withMoves(List<Move> newMoves) {
    return new Layer(number, notes, newMoves);
  }

  public Layer map(UnaryOperator<Note> change) {
    return withNotes(notes.stream().map(change).toList());
  }

  public Layer mapMoves(UnaryOperator<Move> change) {
    return moves.isEmpty() ? this : withMoves(moves.stream().map(change).toList());
  }

  public Layer where(Predicate<Note> keep) {
    return withNotes(notes.stream().filter(keep).toList());
  }

  public Layer whereMoves(Predicate<Move> keep) {
    return moves.isEmpty() ? this : withMoves(moves.stream().filter(keep).toList());
  }

  public boolean holds(long noteId) {
    return notes.stream().anyMatch(note -> note.id() == noteId);
  }

  private static <T> List<T> appended(List<T> list, T one) {
    List<T> next = new ArrayList<>(list.size() + 1);
    next.addAll(list);
    next.add(one);
    return next;
  }
}
