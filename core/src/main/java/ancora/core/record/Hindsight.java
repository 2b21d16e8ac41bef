package ancora.core.record;

import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * The memory of all that was played on a part, pedal and controllers included, whether or not the
 * transport ran: the last ten minutes, and at least the last 20 000 events of each kind.
 *
 * @param played notes, and the pedal, in the order of arrival
 * @param moves of controllers, no denser than {@link ControllerMoves#APART}
 */
public record Hindsight(Pages<Played> played, Pages<PlayedMove> moves) {

  /** Nothing played yet. */
  public static final Hindsight EMPTY = new Hindsight(Pages.empty(), Pages.empty());

  /** What is older than this may be forgotten, in microseconds: ten minutes. */
  public static final long SPAN = 600_000_000;

  /** At least this many notes are remembered (a note is two events). */
  public static final int LEAST_NOTES = 10_000;

  /** At least this many moves are remembered. */
  public static final int LEAST_MOVES = 20_000;

  public int size() {
    return played.size();
  }

  /** All notes, in the order of arrival. */
  public Stream<Played> notes() {
    return played.stream();
  }

  /** Notes that went down at an instant or later, in the order of arrival. */
  public List<Played> since(double micros) {
    return played.newest(note -> note.onMicros() >= micros);
  }

  /** Whether a note that is remembered is in a clip, or will be. */
  public boolean isRecorded(long noteId) {
    return played.findNewest(note -> note.noteId() == noteId).filter(Played::recorded).isPresent();
  }

  /** Moves at an instant or later, in the order of arrival. */
  public List<PlayedMove> movesSince(double micros) {
    return moves.newest(move -> move.micros() >= micros);
  }

  public Hindsight with(Played note) {
    long old = note.onMicros() - SPAN;
    return new Hindsight(played.with(note).forgetting(p -> p.onMicros() < old, LEAST_NOTES), moves);
  }

  /** With a move; one that follows the last of its controller too soon takes its place. */
  public Hindsight with(PlayedMove move) {
    boolean tooSoon =
        moves
            .last()
            .filter(last -> last.controller().equals(move.controller()))
            .filter(last -> move.micros() - last.micros() < ControllerMoves.APART)
            .isPresent();
    long old = move.micros() - SPAN;
    return new Hindsight(
        played,
        tooSoon
            ? moves.mapNewest(
                last -> true,
                last -> new PlayedMove(last.controller(), move.value(), last.micros()))
            : moves.with(move).forgetting(m -> m.micros() < old, LEAST_MOVES));
  }

  /** This memory with one note changed; unchanged if the note is forgotten. */
  public Hindsight map(long noteId, UnaryOperator<Played> change) {
    return new Hindsight(played.mapNewest(note -> note.noteId() == noteId, change), moves);
  }
}
