package ancora.core.plan;

import ancora.core.clip.Layer;
import ancora.core.note.Note;
import ancora.core.plan.OnePitch.SilencedNote;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The notes that layers add, pitch by pitch. Where layers change a little, what they do not touch
 * is shared: layers that are the same objects are not looked into.
 */
final class Material {

  private static final int PITCHES = Note.PEDAL + 1;

  private static final Comparator<Added> ORDER =
      Comparator.comparingInt(Added::layer).thenComparingLong(added -> added.note().id());

  private final List<Layer> layers;
  private final List<List<Added>> byPitch;
  private final Set<Long> out;

  private Material(List<Layer> layers, List<List<Added>> byPitch, Set<Long> out) {
    this.layers = layers;
    this.byPitch = byPitch;
    this.out = out;
  }

  /**
   * A note, and the layer that adds it.
   *
   * @param layer the number of the layer
   */
  private record Added(int layer, Note note) {}

  /**
   * What has become of material.
   *
   * @param now what it is
   * @param pitches the pitches that are not what they were
   * @param moves whether any move is not what it was
   * @param notes the ids of the notes that are not
   * @param out the ids of the notes that are taken out by now, or are not any more
   */
  record Becoming(Material now, BitSet pitches, boolean moves, Set<Long> notes, Set<Long> out) {

    /** The ids of the notes that are not what they were, if some are not, for another reason. */
    Set<Long> notesWith(Set<Long> more) {
      Set<Long> all = new HashSet<>(notes);
      all.addAll(out);
      all.addAll(more);
      return all;
    }

    /** The pitches that are not what they were, if some notes are not, for another reason. */
    BitSet pitchesWith(Set<Long> more) {
      if (notes.containsAll(more)) {
        return pitches;
      }
      BitSet all = now.pitchesOf(more);
      all.or(pitches);
      return all;
    }
  }

  private static List<List<Added>> nothing() {
    List<List<Added>> none = new ArrayList<>();
    for (int pitch = 0; pitch < PITCHES; pitch++) {
      none.add(List.of());
    }
    return none;
  }

  /** Of layers, by rising number. */
  static Material of(List<Layer> layers) {
    List<List<Added>> byPitch = nothing();
    Set<Long> out = new HashSet<>();
    for (Layer layer : layers) {
      out.addAll(layer.notesOut());
      for (Note note : layer.notes()) {
        List<Added> pitch = byPitch.get(note.pitch());
        if (pitch.isEmpty()) {
          pitch = new ArrayList<>();
          byPitch.set(note.pitch(), pitch);
        }
        pitch.add(new Added(layer.number(), note));
      }
    }
    return new Material(layers, byPitch, out);
  }

  /** The material of other layers. */
  Becoming next(List<Layer> now) {
    LayerDifference difference = new LayerDifference(layers, now);
    if (difference.isNone()) {
      return new Becoming(new Material(now, byPitch, out), new BitSet(), false, Set.of(), Set.of());
    }
    Set<Long> outNow = out;
    if (!difference.out.isEmpty()) {
      outNow = new HashSet<>();
      for (Layer layer : now) {
        outNow.addAll(layer.notesOut());
      }
    }
    BitSet pitches = difference.pitches();
    Material next = new Material(now, difference.applied(byPitch), outNow);
    if (!difference.out.isEmpty()) {
      pitches.or(pitchesOf(difference.out));
      pitches.or(next.pitchesOf(difference.out));
    }
    return new Becoming(next, pitches, difference.moves, difference.notes(), difference.out);
  }

  /** The pitches of some notes. */
  BitSet pitchesOf(Collection<Long> ids) {
    BitSet pitches = new BitSet();
    for (int pitch = 0; pitch < PITCHES; pitch++) {
      for (Added added : byPitch.get(pitch)) {
        if (ids.contains(added.note().id())) {
          pitches.set(pitch);
        }
      }
    }
    return pitches;
  }

  /** The pitches that there are. */
  BitSet pitches() {
    BitSet pitches = new BitSet();
    for (int pitch = 0; pitch < PITCHES; pitch++) {
      pitches.set(pitch, !byPitch.get(pitch).isEmpty());
    }
    return pitches;
  }

  /** What sounds of a pitch: what is added, but for what is taken out. */
  List<SilencedNote> silenced(int pitch, Silencing silencing) {
    List<SilencedNote> silenced = new ArrayList<>(byPitch.get(pitch).size());
    for (Added added : byPitch.get(pitch)) {
      if (!out.contains(added.note().id())) {
        silenced.add(new SilencedNote(added.note(), silencing.of(added.layer(), added.note())));
      }
    }
    return silenced;
  }

  /** A note of a pitch, if it sounds. */
  Optional<SilencedNote> silenced(int pitch, long id, Silencing silencing) {
    for (Added added : byPitch.get(pitch)) {
      if (added.note().id() == id && !out.contains(id)) {
        return Optional.of(
            new SilencedNote(added.note(), silencing.of(added.layer(), added.note())));
      }
    }
    return Optional.empty();
  }

  /** How layers differ from others. */
  private static final class LayerDifference {
    private final List<Added> less = new ArrayList<>();
    private final List<Added> more = new ArrayList<>();
    private final Set<Long> out = new HashSet<>();
    private boolean moves;

    LayerDifference(List<Layer> before, List<Layer> now) {
      int i = 0;
      int j = 0;
      while (before != now && (i < before.size() || j < now.size())) {
        Layer old = i < before.size() ? before.get(i) : null;
        Layer next = j < now.size() ? now.get(j) : null;
        boolean gone = next == null || old != null && old.number() < next.number();
        boolean comes = old == null || next != null && next.number() < old.number();
        if (old != next) {
          int number = gone ? old.number() : next.number();
          compare(comes ? Layer.empty(number) : old, gone ? Layer.empty(number) : next);
        }
        i += comes ? 0 : 1;
        j += gone ? 0 : 1;
      }
    }

    boolean isNone() {
      return less.isEmpty() && more.isEmpty() && out.isEmpty() && !moves;
    }

    private void compare(Layer old, Layer next) {
      moves |= !old.moves().equals(next.moves()) || !old.movesOut().equals(next.movesOut());
      if (old.notes() != next.notes()) {
        compareNotes(old, next);
      }
      if (!old.notesOut().equals(next.notesOut())) {
        Set<Long> other = new HashSet<>(old.notesOut());
        next.notesOut().stream().filter(id -> !other.remove(id)).forEach(out::add);
        out.addAll(other);
      }
    }

    /** Notes are by rising id. */
    private void compareNotes(Layer old, Layer next) {
      int i = 0;
      int j = 0;
      while (i < old.notes().size() || j < next.notes().size()) {
        Note one = i < old.notes().size() ? old.notes().get(i) : null;
        Note other = j < next.notes().size() ? next.notes().get(j) : null;
        boolean gone = other == null || one != null && one.id() < other.id();
        boolean comes = one == null || other != null && other.id() < one.id();
        if (gone || comes || !one.equals(other)) {
          if (!comes) {
            less.add(new Added(old.number(), one));
          }
          if (!gone) {
            more.add(new Added(next.number(), other));
          }
        }
        i += comes ? 0 : 1;
        j += gone ? 0 : 1;
      }
    }

    Set<Long> notes() {
      Set<Long> notes = new HashSet<>();
      less.forEach(added -> notes.add(added.note().id()));
      more.forEach(added -> notes.add(added.note().id()));
      return notes;
    }

    BitSet pitches() {
      BitSet pitches = new BitSet();
      less.forEach(added -> pitches.set(added.note().pitch()));
      more.forEach(added -> pitches.set(added.note().pitch()));
      return pitches;
    }

    List<List<Added>> applied(List<List<Added>> byPitch) {
      less.sort(ORDER);
      more.sort(ORDER);
      List<List<Added>> next = new ArrayList<>(byPitch);
      pitches().stream()
          .forEach(
              pitch ->
                  next.set(
                      pitch,
                      Exchange.of(byPitch.get(pitch), of(less, pitch), of(more, pitch), ORDER)));
      return next;
    }

    private static List<Added> of(List<Added> all, int pitch) {
      return all.stream().filter(added -> added.note().pitch() == pitch).toList();
    }
  }
}
