package ancora.core.edit;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Which notes of a take are meant. But for those meant by their ids they are of what sounds. */
public sealed interface Chosen {

  /** The ids of the notes that are meant. */
  Set<Long> of(Take take);

  /**
   * Whether a controller's move at a place goes along with them: where a whole stretch is meant.
   */
  default boolean takesAlong(ControllerMove move) {
    return false;
  }

  /** All that sounds. */
  record All() implements Chosen {
    @Override
    public Set<Long> of(Take take) {
      return ids(take.sounding(), note -> true);
    }

    @Override
    public boolean takesAlong(ControllerMove move) {
      return true;
    }
  }

  /**
   * Some notes, be they taken out or peeled off.
   *
   * @param ids at least one
   */
  record Ids(List<Long> ids) implements Chosen {
    public Ids {
      Refusal.unless(!ids.isEmpty() && ids.size() <= Clip.MOST_NOTES, "Choose some notes first.");
      ids = List.copyOf(ids);
    }

    @Override
    public Set<Long> of(Take take) {
      Set<Long> wanted = Set.copyOf(ids);
      return Chosen.ids(
          take.allLayers().flatMap(layer -> layer.notes().stream()),
          note -> wanted.contains(note.id()));
    }
  }

  /** What sounds of a layer. */
  record OfLayer(int layer) implements Chosen {
    @Override
    public Set<Long> of(Take take) {
      Set<Long> sounding = ids(take.sounding(), note -> true);
      return take.layers().stream()
          .filter(one -> one.number() == layer)
          .map(Layer::notes)
          .flatMap(List::stream)
          .map(Note::id)
          .filter(sounding::contains)
          .collect(Collectors.toSet());
    }
  }

  /** All notes of a pitch. */
  record OfPitch(int pitch) implements Chosen {
    @Override
    public Set<Long> of(Take take) {
      return ids(take.sounding(), note -> note.pitch() == pitch);
    }
  }

  /**
   * All that is meant for a stretch.
   *
   * @param from its first place
   * @param to the first place after it
   */
  record Within(long from, long to) implements Chosen {
    public Within {
      Refusal.unless(from < to, "A stretch ends after it begins.");
    }

    @Override
    public Set<Long> of(Take take) {
      return ids(take.sounding(), note -> note.meant() >= from && note.meant() < to);
    }

    @Override
    public boolean takesAlong(ControllerMove move) {
      return move.place() >= from && move.place() < to;
    }
  }

  private static Set<Long> ids(Stream<Note> notes, Predicate<Note> which) {
    return notes.filter(which).map(Note::id).collect(Collectors.toSet());
  }
}
