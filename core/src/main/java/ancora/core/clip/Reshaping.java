package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;

/** What a performer may do to a clip's window. It holds for all takes, and layers that are off. */
public sealed interface Reshaping {

  /** Nothing is moved farther than this, in ticks. */
  long FARTHEST = 10_000_000;

  private static boolean isWithin(long ticks) {
    return ticks >= -FARTHEST && ticks <= FARTHEST;
  }

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
          length >= 1 && length <= FARTHEST && isWithin(start),
          "A loop is a whole number of beats long, or half or a quarter of one, within reach.");
    }

    @Override
    public Clip apply(Clip clip, long nextId) {
      boolean moved = start != clip.window().start();
      return clip.withWindow(new LoopWindow(start, length))
          .withHalvedFrom(Optional.empty())
          .withManner(moved ? clip.manner().withPickup(0) : clip.manner());
    }
  }

  /** Half as long, from the same start. */
  record Halve() implements Reshaping {
    @Override
    public Clip apply(Clip clip, long nextId) {
      Refusal.unless(clip.window().length() % 2 == 0, "This loop has no half.");
      LoopWindow whole = clip.window();
      return clip.withWindow(new LoopWindow(whole.start(), whole.length() / 2))
          .withHalvedFrom(clip.halvedFrom().or(() -> Optional.of(whole)));
    }
  }

  /** Twice as long: after a halving what was there, whatever that is; else the loop once more. */
  record Twice() implements Reshaping {
    @Override
    public Clip apply(Clip clip, long nextId) {
      LoopWindow twice = new LoopWindow(clip.window().start(), clip.window().length() * 2);
      Optional<LoopWindow> from = clip.halvedFrom().filter(whole -> whole.end() >= twice.end());
      return from.isEmpty()
          ? new Times(2).apply(clip, nextId)
          : clip.withWindow(twice).withHalvedFrom(from.filter(whole -> whole.end() > twice.end()));
    }
  }

  /**
   * Some times as long: the loop again and again, whatever lay behind its window.
   *
   * @param times how often in all, 2 to 64
   */
  record Times(int times) implements Reshaping {
    public Times {
      Refusal.unless(times >= 2 && times <= 64, "Repeat a clip to 2 to 64 times in all.");
    }

    @Override
    public Clip apply(Clip clip, long nextId) {
      LoopWindow once = clip.window();
      LoopWindow behind = new LoopWindow(once.end(), (times - 1) * once.length());
      List<Take> takes = new ArrayList<>();
      long id = nextId;
      for (Take take : clip.takes()) {
        Take next = take.without(behind);
        for (int time = 1; time < times; time++) {
          Copies copies = new Copies(once, time * once.length(), id, next.nextMove());
          next = copies.of(next);
          id = copies.nextId;
        }
        // a layer that had nothing but what lay behind is none any more
        takes.add(next.withoutEmptied(take, layer -> false));
      }
      Clip longer =
          clip.withTakes(takes)
              .withWindow(new LoopWindow(once.start(), times * once.length()))
              .withHalvedFrom(Optional.empty());
      Refusal.unless(
          longer.takes().stream()
              .allMatch(
                  take ->
                      take.noteCount() <= Clip.MOST_NOTES && take.moveCount() <= Clip.MOST_MOVES),
          "Clip %s would have more than %s notes: thin it first.",
          clip.letter(),
          Clip.MOST_NOTES);
      return longer;
    }
  }

  /** Copies of what lies in a window, behind it; what a layer takes out, it takes out of both. */
  final class Copies {
    private final LoopWindow once;
    private final long later;
    private final Map<Long, Long> notes = new HashMap<>();
    private final Map<Long, Long> moves = new HashMap<>();
    private long nextId;
    private long nextMove;

    private Copies(LoopWindow once, long later, long nextId, long nextMove) {
      this.once = once;
      this.later = later;
      this.nextId = nextId;
      this.nextMove = nextMove;
    }

    private Take of(Take take) {
      Take copied = take.mapLayers(this::of);
      return copied
          .mapLayers(
              layer ->
                  layer.takingOut(copied(layer.notesOut(), notes), copied(layer.movesOut(), moves)))
          .withNext(take.nextLayer(), nextMove)
          .withStretches(
              Stream.concat(
                      take.stretches().stream(),
                      take.stretches().stream()
                          .filter(stretch -> once.contains(stretch.from()))
                          .map(this::behind))
                  .limit(Stretch.MOST)
                  .toList());
    }

    private Layer of(Layer layer) {
      List<Note> behind = new ArrayList<>(layer.notes());
      for (Note note : layer.notes()) {
        // a key that is down has no length yet: its copy comes when it is let go
        if (once.contains(note.meant()) && !note.held()) {
          notes.put(note.id(), nextId);
          behind.add(note.withId(nextId++).meantAt(note.meant() + later));
        }
      }
      List<ControllerMove> moved = new ArrayList<>(layer.moves());
      for (ControllerMove move : layer.moves()) {
        if (once.contains(move.place())) {
          moves.put(move.id(), nextMove);
          moved.add(move.withId(nextMove++).withPlace(move.place() + later));
        }
      }
      return layer.withNotes(behind).withMoves(moved);
    }

    private Stretch behind(Stretch stretch) {
      return new Stretch(stretch.from() + later, stretch.to() + later, stretch.take());
    }

    private static List<Long> copied(Collection<Long> out, Map<Long, Long> copies) {
      return out.stream().map(copies::get).filter(Objects::nonNull).toList();
    }
  }

  /**
   * The loop's notes go round by some ticks; material outside the window stays.
   *
   * @param ticks later, or earlier if negative
   */
  record Shift(long ticks) implements Reshaping {
    public Shift {
      Refusal.unless(isWithin(ticks), "Shift a loop by less than its length.");
    }

    @Override
    public Clip apply(Clip clip, long nextId) {
      LoopWindow window = clip.window();
      return clip.mapTakes(
          take ->
              take.mapLayers(
                      layer ->
                          layer
                              .map(note -> shifted(note, window))
                              .mapMoves(move -> shifted(move, window)))
                  .withStretches(
                      take.stretches().stream().flatMap(s -> shifted(s, window)).toList()));
    }

    private Note shifted(Note note, LoopWindow window) {
      return window.contains(note.meant()) ? note.meantAt(window.wrap(note.meant() + ticks)) : note;
    }

    private ControllerMove shifted(ControllerMove move, LoopWindow window) {
      return window.contains(move.place())
          ? move.withPlace(window.wrap(move.place() + ticks))
          : move;
    }

    /** One that comes to lie over the line is two. */
    private Stream<Stretch> shifted(Stretch stretch, LoopWindow window) {
      if (stretch.from() < window.start() || stretch.to() > window.end()) {
        return Stream.of(stretch);
      }
      long from = window.wrap(stretch.from() + ticks);
      long to = from + stretch.to() - stretch.from();
      return to <= window.end()
          ? Stream.of(new Stretch(from, to, stretch.take()))
          : Stream.of(
              new Stretch(from, window.end(), stretch.take()),
              new Stretch(window.start(), to - window.length(), stretch.take()));
    }
  }
}
