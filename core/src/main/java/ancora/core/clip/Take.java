package ancora.core.clip;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * One whole version of a clip: a stack of layers, of which the sum sounds.
 *
 * @param number 1 and up in the order in which takes were made; none is used twice in a clip
 * @param name as the performer calls it; empty if it has no name but its number
 * @param partial whether it was played over less than the whole loop
 * @param layers those that are on, by rising number
 * @param off those that were peeled or undone, the one that went last at the end
 * @param nextLayer the number that the next layer gets; none is used twice
 * @param nextMove the id that the next move of a controller gets, within the take
 * @param stretches of a comp, what it is put together from; else empty
 */
@RecordBuilder
public record Take(
    int number,
    String name,
    boolean partial,
    List<Layer> layers,
    List<Layer> off,
    int nextLayer,
    long nextMove,
    List<Stretch> stretches)
    implements TakeBuilder.With {

  /** More layers than these are not kept once they are off. */
  private static final int MOST_OFF = 1000;

  public Take {
    name = Names.checkedOrEmpty("take", name);
    layers = List.copyOf(layers);
    off = List.copyOf(off);
    stretches = List.copyOf(stretches);
  }

  /** A take in which nothing is played yet. */
  public static Take empty(int number) {
    return new Take(number, "", false, List.of(), List.of(), 1, 1, List.of());
  }

  /** A take with layers, numbered upwards; moves that have no id yet get one. */
  public static Take of(int number, List<Layer> layers) {
    Take take = empty(number);
    for (Layer layer : layers) {
      Take counted = take;
      long id = take.nextMove;
      List<ControllerMove> moves = new ArrayList<>();
      for (ControllerMove move : layer.moves()) {
        moves.add(move.withId(id++));
      }
      take =
          counted
              .withLayers(added(counted.layers, layer.withMoves(moves)))
              .withNext(Math.max(counted.nextLayer, layer.number() + 1), id);
    }
    return take;
  }

  Take withNext(int layer, long move) {
    return new Take(number, name, partial, layers, off, layer, move, stretches);
  }

  /** All layers, on or off. */
  public Stream<Layer> allLayers() {
    return Stream.concat(layers.stream(), off.stream());
  }

  /** What sounds: what layers that are on add, but for what others that are on take out. */
  public Stream<Note> sounding() {
    Set<Long> out = notesOut();
    Stream<Note> added = layers.stream().flatMap(layer -> layer.notes().stream());
    return out.isEmpty() ? added : added.filter(note -> !out.contains(note.id()));
  }

  /** What controllers do, as {@link #sounding()}. */
  public Stream<ControllerMove> soundingMoves() {
    Set<Long> out = new HashSet<>();
    layers.forEach(layer -> out.addAll(layer.movesOut()));
    Stream<ControllerMove> added = layers.stream().flatMap(layer -> layer.moves().stream());
    return out.isEmpty() ? added : added.filter(move -> !out.contains(move.id()));
  }

  /** The notes that layers that are on take out. */
  public Set<Long> notesOut() {
    Set<Long> out = new HashSet<>();
    layers.forEach(layer -> out.addAll(layer.notesOut()));
    return out;
  }

  public int noteCount() {
    return layers.stream().mapToInt(layer -> layer.notes().size()).sum();
  }

  public int moveCount() {
    return layers.stream().mapToInt(layer -> layer.moves().size()).sum();
  }

  /** The layer with a number, on or off. */
  public Optional<Layer> layer(int layerNumber) {
    return with(layers, layerNumber).or(() -> with(off, layerNumber));
  }

  public boolean isOn(int layerNumber) {
    return with(layers, layerNumber).isPresent();
  }

  public boolean isOff(int layerNumber) {
    return with(off, layerNumber).isPresent();
  }

  public boolean holds(long noteId) {
    return layerOf(noteId).isPresent();
  }

  /** The layer that holds a note, on or off; it is most likely a new one. */
  public Optional<Layer> layerOf(long noteId) {
    return newest(layers, layer -> layer.holds(noteId))
        .or(() -> newest(off, layer -> layer.holds(noteId)));
  }

  private static Optional<Layer> with(List<Layer> in, int layerNumber) {
    return newest(in, layer -> layer.number() == layerNumber);
  }

  private static Optional<Layer> newest(List<Layer> in, Predicate<Layer> which) {
    for (int i = in.size() - 1; i >= 0; i--) {
      if (which.test(in.get(i))) {
        return Optional.of(in.get(i));
      }
    }
    return Optional.empty();
  }

  /** This take with a layer begun that has nothing in it yet; its number is {@link #nextLayer}. */
  public Take begun() {
    return withLayers(added(layers, Layer.empty(nextLayer))).withNext(nextLayer + 1, nextMove);
  }

  /** This take with a move in a layer, under the next id. */
  public Take withMove(int layerNumber, ControllerMove move) {
    return mapLayer(layerNumber, layer -> layer.with(move.withId(nextMove)))
        .withNext(nextLayer, nextMove + 1);
  }

  /** This take with what a layer of another take adds, in its layer of that number. */
  public Take joined(Layer other) {
    Take with = layer(other.number()).isPresent() ? this : with(Layer.empty(other.number()), true);
    Take next =
        with.mapLayer(
                other.number(),
                layer -> {
                  Layer joined = layer.with(other.notes());
                  return joined.takingOut(other.notesOut(), List.of());
                })
            .withNext(Math.max(nextLayer, other.number() + 1), nextMove);
    for (ControllerMove move : other.moves()) {
      next = next.withMove(other.number(), move);
    }
    return next;
  }

  /** This take with one layer changed, be it on or off; unchanged if there is none. */
  public Take mapLayer(int layerNumber, UnaryOperator<Layer> change) {
    return isOn(layerNumber)
        ? withLayers(mapped(layers, layerNumber, change))
        : withOff(mapped(off, layerNumber, change));
  }

  /** This take with each layer changed, on or off. */
  public Take mapLayers(UnaryOperator<Layer> change) {
    return withLayers(layers.stream().map(change).toList())
        .withOff(off.stream().map(change).toList());
  }

  /** This take without layers, on or off, that neither add nor take out what is still there. */
  public Take withoutEmptyLayers() {
    Take there = withoutStray();
    return there.allLayers().noneMatch(Layer::isEmpty)
        ? there
        : there
            .withLayers(there.layers.stream().filter(layer -> !layer.isEmpty()).toList())
            .withOff(there.off.stream().filter(layer -> !layer.isEmpty()).toList());
  }

  /**
   * This take without the layers that were not empty before and are now; one that is on is left.
   *
   * @param stays which layers are left even so, by their number
   */
  public Take withoutEmptied(Take before, IntPredicate stays) {
    List<Layer> left = left(layers, before, stays);
    List<Layer> last = left.isEmpty() && !layers.isEmpty() ? List.of(layers.get(0)) : left;
    return withLayers(last).withOff(left(off, before, stays));
  }

  private static List<Layer> left(List<Layer> layers, Take before, IntPredicate stays) {
    return layers.stream()
        .filter(
            layer ->
                !layer.isEmpty()
                    || stays.test(layer.number())
                    || before.layer(layer.number()).map(Layer::isEmpty).orElse(false))
        .toList();
  }

  /** This take with a layer in it, or in the place of the one with its number. */
  public Take with(Layer layer, boolean on) {
    Take without = without(layer.number());
    return on
        ? without.withLayers(added(without.layers, layer))
        : without.withOff(atTheEnd(without.off, layer));
  }

  /** This take without a layer. */
  public Take without(int layerNumber) {
    return withLayers(layers.stream().filter(layer -> layer.number() != layerNumber).toList())
        .withOff(off.stream().filter(layer -> layer.number() != layerNumber).toList());
  }

  /** This take, of whose layers none takes out what is in none of them any more. */
  public Take withoutStray() {
    if (allLayers().noneMatch(Layer::takesOut)) {
      return this;
    }
    Set<Long> notes = new HashSet<>();
    Set<Long> moves = new HashSet<>();
    allLayers()
        .forEach(
            layer -> {
              layer.notes().forEach(note -> notes.add(note.id()));
              layer.moves().forEach(move -> moves.add(move.id()));
            });
    return mapLayers(
        layer ->
            layer.withOut(
                layer.notesOut().stream().filter(notes::contains).toList(),
                layer.movesOut().stream().filter(moves::contains).toList()));
  }

  /** This take with nothing that begins in some stretch of its material. */
  Take without(LoopWindow stretch) {
    return mapLayers(
            layer ->
                layer
                    .where(note -> !stretch.contains(note.meant()))
                    .whereMoves(move -> !stretch.contains(move.place())))
        .withStretches(stretches.stream().filter(s -> !stretch.contains(s.from())).toList())
        .withoutStray();
  }

  /** This take with a layer off; unchanged if it is not on. */
  public Take takenOff(int layerNumber) {
    return layers.stream()
        .filter(layer -> layer.number() == layerNumber)
        .findFirst()
        .map(layer -> with(layer, false))
        .orElse(this);
  }

  /** This take with a layer on again; unchanged if it is not off. */
  public Take putBack(int layerNumber) {
    return off.stream()
        .filter(layer -> layer.number() == layerNumber)
        .findFirst()
        .map(layer -> with(layer, true))
        .orElse(this);
  }

  /**
   * The newest layer, begun last; the first recording is none that can be peeled, nor is one all of
   * whose notes have been deleted.
   */
  public Optional<Layer> peelable() {
    return layers.isEmpty()
        ? Optional.empty()
        : Optional.of(layers.get(layers.size() - 1))
            .filter(layer -> layer.number() != 1 && !layer.isEmpty());
  }

  /** Takes off the newest layer; refuses to take off the first recording. */
  public Take peeled() {
    return takenOff(
        peelable()
            .orElseThrow(() -> new Refusal("Only the first recording is left: clear takes it off."))
            .number());
  }

  /** Puts back the layer that went off last; refuses if none did. */
  public Take restored() {
    Refusal.unless(!off.isEmpty(), "No layer has been taken off.");
    return putBack(off.get(off.size() - 1).number());
  }

  /** What is written down of layers that are off is bounded. */
  private static List<Layer> atTheEnd(List<Layer> off, Layer layer) {
    List<Layer> next = new ArrayList<>(off);
    next.add(layer);
    return next.subList(Math.max(0, next.size() - MOST_OFF), next.size());
  }

  private static List<Layer> added(List<Layer> layers, Layer layer) {
    List<Layer> next = new ArrayList<>(layers);
    next.add(layer);
    next.sort(Layer.BY_NUMBER);
    return next;
  }

  private static List<Layer> mapped(List<Layer> in, int layerNumber, UnaryOperator<Layer> change) {
    List<Layer> next = new ArrayList<>(in);
    for (int i = next.size() - 1; i >= 0; i--) {
      if (next.get(i).number() == layerNumber) {
        next.set(i, change.apply(next.get(i)));
        return next;
      }
    }
    return in;
  }
}
