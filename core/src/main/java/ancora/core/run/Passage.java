package ancora.core.run;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.note.ControllerMove;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;

/**
 * What one part sounded of one clip, from where it entered to where it left, or to where its
 * window, its take or the way it went round became another.
 *
 * @param number unique in its run
 * @param clip the clip, by its id in the show
 * @param letter the letter that it had
 * @param name the name that it had; empty if none
 * @param window the stretch of it that went round
 * @param phase a tick of the run at which the window's start fell
 * @param from the first tick of the run
 * @param until the first tick after it
 * @param notes by rising place, which counts from {@code from}; what rang may sound past the end
 * @param moves what it did to controllers, by rising place, likewise
 */
@RecordBuilder
public record Passage(
    int number,
    ClipId clip,
    String letter,
    String name,
    LoopWindow window,
    long phase,
    long from,
    long until,
    List<RunNote> notes,
    List<ControllerMove> moves)
    implements PassageBuilder.With {

  public Passage {
    notes = List.copyOf(notes);
    moves = List.copyOf(moves);
    if (until < from) {
      throw new IllegalArgumentException("a passage that ends before it begins");
    }
  }

  /** How many passes it went round in, those that it left or entered in the middle too. */
  public long passes() {
    long length = window.length();
    return Math.max(1, -Math.floorDiv(phase - until, length) - Math.floorDiv(from - phase, length));
  }

  /** This passage so many ticks later. */
  Passage later(long ticks) {
    return ticks == 0
        ? this
        : with(p -> p.phase(phase + ticks).from(from + ticks).until(until + ticks));
  }

  /** What there is of this passage from a tick on, which is before its end. */
  Passage since(long tick) {
    long gone = tick - from;
    if (gone <= 0) {
      return this;
    }
    return with(
        p ->
            p.from(tick)
                .notes(
                    notes.stream()
                        .filter(note -> note.place() >= gone)
                        .map(note -> note.later(-gone))
                        .toList())
                .moves(
                    moves.stream()
                        .filter(move -> move.place() >= gone)
                        .map(move -> move.withPlace(move.place() - gone))
                        .toList()));
  }

  /** Whether it goes on with what another ends in, so that the two are one. */
  boolean goesOnFrom(Passage before) {
    return clip.equals(before.clip)
        && window.equals(before.window)
        && before.until == from
        && Math.floorMod(phase - before.phase, window.length()) == 0;
  }

  /** This passage, and one that goes on from it. */
  Passage together(Passage next) {
    long later = next.from - from;
    List<RunNote> all = new ArrayList<>(notes);
    next.notes.forEach(note -> all.add(note.later(later)));
    List<ControllerMove> allMoves = new ArrayList<>(moves);
    next.moves.forEach(move -> allMoves.add(move.withPlace(move.place() + later)));
    return with(p -> p.until(next.until).notes(all).moves(allMoves));
  }
}
