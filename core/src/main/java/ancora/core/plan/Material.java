package ancora.core.plan;

import ancora.core.clip.Layer;
import ancora.core.note.Note;
import ancora.core.plan.OnePitch.SilencedNote;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import java.util.stream.Stream;

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

  /** What has become of material. */
  record Becoming(Material before, Material now, LayerDifference difference) {

    /** Whether any move is not what it was. */
    boolean moves() {
      return difference.moves;
    }

    /** The pitches that are not what they were, if some notes are not, for another reason. */
    BitSet pitches(Set<Long> more) {
      BitSet pitches = difference.pitches();
      Set<Long> besides = besides(more);
      if (!besides.isEmpty()) {
        pitches.or(before.pitchesOf(besides));
        pitches.or(now.pitchesOf(besides));
      }
      return pitches;
    }

    /** The places of a pitch at which notes are not what they were. */
    long[] places(int pitch, Set<Long> more) {
      Set<Long> besides = besides(more);
      LongStream found =
          besides.isEmpty()
              ? LongStream.empty()
              : LongStream.concat(before.places(pitch, besides), now.places(pitch, besides));
      return LongStream.concat(difference.places(pitch), found).distinct().toArray();
    }

    /** The notes that no layer has otherwise, but that are taken out by now, or not any more. */
    private Set<Long> besides(Set<Long> more) {
      Set<Long> all = new HashSet<>(difference.out);
      all.addAll(more);
      all.removeIf(difference.notes()::contains);
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
    Set<Long> outNow = out;
    if (!difference.out.isEmpty()) {
      outNow = new HashSet<>();
      for (Layer layer : now) {
        outNow.addAll(layer.notesOut());
      }
    }
    Material next = new Material(now, difference.applied(byPitch), outNow);
    return new Becoming(this, next, difference);
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
    return silenced(pitch, silencing, note -> true);
  }

  /** What sounds of a pitch at some places. */
  List<SilencedNote> silencedAt(int pitch, long[] places, Silencing silencing) {
    long[] sorted = LongStream.of(places).sorted().toArray();
    return silenced(pitch, silencing, note -> Arrays.binarySearch(sorted, note.meant()) >= 0);
  }

  private List<SilencedNote> silenced(int pitch, Silencing silencing, Predicate<Note> which) {
    List<SilencedNote> silenced = new ArrayList<>();
    for (Added added : byPitch.get(pitch)) {
      if (which.test(added.note()) && !out.contains(added.note().id())) {
        silenced.add(new SilencedNote(added.note(), silencing.of(added.layer(), added.note())));
      }
    }
    return silenced;
  }

  private LongStream places(int pitch, Set<Long> ids) {
    return byPitch.get(pitch).stream()
        .map(Added::note)
        .filter(note -> ids.contains(note.id()))
        .mapToLong(Note::meant);
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

    private Stream<Added> all() {
      return Stream.concat(less.stream(), more.stream());
    }

    Set<Long> notes() {
      return all().map(added -> added.note().id()).collect(Collectors.toSet());
    }

    LongStream places(int pitch) {
      return all().map(Added::note).filter(note -> note.pitch() == pitch).mapToLong(Note::meant);
    }

    BitSet pitches() {
      BitSet pitches = new BitSet();
      all().forEach(added -> pitches.set(added.note().pitch()));
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
