package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.note.Move;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.List;

/** What a performer may do to a clip's window, or which of its takes is heard. */
public sealed interface Reshaping {

  /** Nothing is moved farther than this, in ticks. */
  long FARTHEST = 10_000_000;

  /**
   * The clip after it; refuses what cannot be.
   *
   * @param nextId notes that it makes get ids from here on
   */
  Clip apply(Clip clip, long nextId);

  /**
   * Another window over the same material.
   *
   * @param start W
   * @param length N
   */
  record ToWindow(long start, long length) implements Reshaping {
    public ToWindow {
      Refusal.unless(
          length >= 1 && length <= FARTHEST && Math.abs(start) <= FARTHEST,
          "A loop is a whole number of its units long, at least one, and lies within reach.");
    }

    @Override
    public Clip apply(Clip clip, long nextId) {
      boolean moved = start != clip.window().start();
      return clip.withWindow(new LoopWindow(start, length))
          .withManner(moved ? clip.manner().withPickup(0) : clip.manner());
    }
  }

  /** Half as long, from the same start. */
  record Halve() implements Reshaping {
    @Override
    public Clip apply(Clip clip, long nextId) {
      return new ToWindow(clip.window().start(), clip.window().length() / 2).apply(clip, nextId);
    }
  }

  /**
   * Twice as long: the second half is the material that is there, as after a halving, or else a
   * copy of the first.
   */
  record Twice() implements Reshaping {
    @Override
    public Clip apply(Clip clip, long nextId) {
      LoopWindow once = clip.window();
      LoopWindow twice = new LoopWindow(once.start(), 2 * once.length());
      LoopWindow second = new LoopWindow(once.end(), once.length());
      if (clip.notes().anyMatch(note -> second.contains(note.meant()))) {
        return clip.withWindow(twice);
      }
      List<Layer> layers = new ArrayList<>();
      long id = nextId;
      for (Layer layer : clip.layers()) {
        Layer copied = layer;
        for (Move move : layer.moves()) {
          if (once.contains(move.place())) {
            copied = copied.with(move.withPlace(move.place() + once.length()));
          }
        }
        for (Note note : layer.notes()) {
          if (once.contains(note.meant())) {
            copied = copied.with(note.withId(id++).meantAt(note.meant() + once.length()));
          }
        }
        layers.add(copied);
      }
      Clip doubled = clip.withLayers(layers).withWindow(twice);
      Refusal.unless(
          doubled.noteCount() <= Clip.MOST_NOTES,
          "Clip %s would have more than %s notes: thin it first.",
          clip.letter(),
          Clip.MOST_NOTES);
      return doubled;
    }
  }

  /**
   * The loop's notes go round by some ticks; material outside the window stays.
   *
   * @param ticks later, or earlier if negative
   */
  record Shift(long ticks) implements Reshaping {
    public Shift {
      Refusal.unless(Math.abs(ticks) <= FARTHEST, "Shift a loop by less than its length.");
    }

    @Override
    public Clip apply(Clip clip, long nextId) {
      LoopWindow window = clip.window();
      return clip.mapNotes(
              note ->
                  window.contains(note.meant())
                      ? note.meantAt(window.wrap(note.meant() + ticks))
                      : note)
          .mapMoves(
              move ->
                  window.contains(move.place())
                      ? move.withPlace(window.wrap(move.place() + ticks))
                      : move);
    }
  }

  /**
   * Another take is heard.
   *
   * @param number which
   */
  record ToTake(int number) implements Reshaping {
    @Override
    public Clip apply(Clip clip, long nextId) {
      return clip.withActive(number);
    }
  }
}
