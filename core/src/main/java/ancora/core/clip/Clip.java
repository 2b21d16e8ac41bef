package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * A loop of notes: material on an unbounded axis, of which a window goes round.
 *
 * @param id within the show
 * @param letter a, b, c …: its place on the shelf
 * @param window the stretch that loops
 * @param ring whether notes sound on across the line to their natural end; else they are cut there
 * @param layers oldest first
 * @param peeled layers taken off, the one taken off last at the end
 */
public record Clip(
    ClipId id,
    String letter,
    LoopWindow window,
    boolean ring,
    List<Layer> layers,
    List<Layer> peeled) {

  /** A clip is refused more notes than this. */
  public static final int MOST_NOTES = 4000;

  public Clip {
    layers = List.copyOf(layers);
    peeled = List.copyOf(peeled);
  }

  /** A clip with one layer, which rings across the line. */
  public static Clip of(ClipId id, String letter, LoopWindow window, List<Note> notes) {
    return new Clip(id, letter, window, true, List.of(new Layer(1, notes)), List.of());
  }

  public Stream<Note> notes() {
    return layers.stream().flatMap(layer -> layer.notes().stream());
  }

  public int noteCount() {
    return layers.stream().mapToInt(layer -> layer.notes().size()).sum();
  }

  /** The newest layer. */
  public Layer newest() {
    return layers.get(layers.size() - 1);
  }

  public Optional<Layer> layer(int number) {
    return layers.stream().filter(layer -> layer.number() == number).findFirst();
  }

  /** The number that the next layer gets. */
  public int nextLayerNumber() {
    return layers.stream().mapToInt(Layer::number).max().orElse(0) + 1;
  }

  public Clip withLayers(List<Layer> newLayers) {
    return new Clip(id, letter, window, ring, newLayers, peeled);
  }

  public Clip withPeeled(List<Layer> newPeeled) {
    return new Clip(id, letter, window, ring, layers, newPeeled);
  }

  public Clip withLetter(String newLetter) {
    return new Clip(id, newLetter, window, ring, layers, peeled);
  }

  public Clip withRing(boolean newRing) {
    return new Clip(id, letter, window, newRing, layers, peeled);
  }

  /** This clip with a note in a layer, which is begun if there is none of that number. */
  public Clip withNote(int layerNumber, Note note) {
    Refusal.unless(
        noteCount() < MOST_NOTES,
        "Clip %s is full with %s notes: record into another one.",
        letter,
        MOST_NOTES);
    List<Layer> next = new ArrayList<>(layers);
    for (int i = 0; i < next.size(); i++) {
      if (next.get(i).number() == layerNumber) {
        next.set(i, next.get(i).with(note));
        return withLayers(next);
      }
    }
    next.add(new Layer(layerNumber, List.of(note)));
    return withLayers(next);
  }

  /** This clip without a note; a layer that is empty then goes too. */
  public Clip withoutNote(long noteId) {
    return withLayers(
        layers.stream()
            .map(layer -> layer.holds(noteId) ? layer.where(note -> note.id() != noteId) : layer)
            .filter(layer -> !layer.notes().isEmpty())
            .toList());
  }

  /** Whether a note is here, be it on or peeled off. */
  public boolean holds(long noteId) {
    return Stream.concat(layers.stream(), peeled.stream()).anyMatch(layer -> layer.holds(noteId));
  }

  /** This clip with one note changed, be it on or peeled off. */
  public Clip mapNote(long noteId, UnaryOperator<Note> change) {
    return withLayers(mapNote(layers, noteId, change)).withPeeled(mapNote(peeled, noteId, change));
  }

  /** Takes off the newest layer; refuses to take off the first recording. */
  public Clip peel() {
    Refusal.unless(
        layers.size() > 1, "Only the first recording is left in %s: clear takes it off.", letter);
    List<Layer> off = new ArrayList<>(peeled);
    off.add(newest());
    return withLayers(layers.subList(0, layers.size() - 1)).withPeeled(off);
  }

  /** Puts back the layer peeled off last; refuses if there is none. */
  public Clip restore() {
    Refusal.unless(!peeled.isEmpty(), "Nothing has been peeled off %s.", letter);
    List<Layer> on = new ArrayList<>(layers);
    on.add(peeled.get(peeled.size() - 1));
    return withLayers(on).withPeeled(peeled.subList(0, peeled.size() - 1));
  }

  private static List<Layer> mapNote(List<Layer> in, long noteId, UnaryOperator<Note> change) {
    return in.stream()
        .map(
            layer ->
                layer.holds(noteId)
                    ? new Layer(
                        layer.number(),
                        layer.notes().stream()
                            .map(note -> note.id() == noteId ? change.apply(note) : note)
                            .toList())
                    : layer)
        .toList();
  }
}
