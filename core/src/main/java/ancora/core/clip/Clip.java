package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.show.Names;
import ancora.core.time.EntryUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * A loop of notes: material on an unbounded axis, of which a window goes round.
 *
 * @param id within the show
 * @param letter a, b, c …: its place on the shelf
 * @param name as the performer calls it; empty if it has no name but its letter
 * @param window the stretch that loops
 * @param unit the unit of its length
 * @param recordedAt A: the tick of the transport at which it was recorded
 * @param manner how it comes in and goes round
 * @param take which of its versions this is
 * @param others its other takes, by number
 * @param layers oldest first
 * @param peeled layers taken off, the one taken off last at the end
 */
public record Clip(
    ClipId id,
    String letter,
    String name,
    LoopWindow window,
    EntryUnit unit,
    long recordedAt,
    Manner manner,
    Take.Head take,
    List<Take> others,
    List<Layer> layers,
    List<Layer> peeled) {

  /** A clip is refused more notes than this. */
  public static final int MOST_NOTES = 4000;

  /** A clip is refused more moves of controllers than this. */
  public static final int MOST_MOVES = 20_000;

  public Clip {
    name = Names.checkedOrEmpty("clip", name);
    others = List.copyOf(others);
    layers = List.copyOf(layers);
    peeled = List.copyOf(peeled);
  }

  /** A clip with one layer, in whole bars, recorded from the transport's start. */
  public static Clip of(ClipId id, String letter, LoopWindow window, List<Note> notes) {
    return of(id, letter, window, new Layer(1, notes));
  }

  /** A clip with a layer, in whole bars, recorded from the transport's start. */
  public static Clip of(ClipId id, String letter, LoopWindow window, Layer layer) {
    return new Clip(
        id,
        letter,
        "",
        window,
        EntryUnit.BAR,
        window.start(),
        Manner.DEFAULT,
        Take.Head.FIRST,
        List.of(),
        List.of(layer),
        List.of());
  }

  public Stream<Note> notes() {
    return layers.stream().flatMap(layer -> layer.notes().stream());
  }

  public int noteCount() {
    return layers.stream().mapToInt(layer -> layer.notes().size()).sum();
  }

  /** What controllers do, in all layers. */
  public Stream<Move> moves() {
    return layers.stream().flatMap(layer -> layer.moves().stream());
  }

  /** Whether the sustain pedal is down somewhere. */
  public boolean hasPedal() {
    return notes().anyMatch(Note::isPedal);
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
    return new Clip(
        id, letter, name, window, unit, recordedAt, manner, take, others, newLayers, peeled);
  }

  public Clip withPeeled(List<Layer> newPeeled) {
    return new Clip(
        id, letter, name, window, unit, recordedAt, manner, take, others, layers, newPeeled);
  }

  public Clip withLetter(String newLetter) {
    return new Clip(
        id, newLetter, name, window, unit, recordedAt, manner, take, others, layers, peeled);
  }

  public Clip withName(String newName) {
    return new Clip(
        id, letter, newName, window, unit, recordedAt, manner, take, others, layers, peeled);
  }

  public Clip withWindow(LoopWindow newWindow) {
    return new Clip(
        id, letter, name, newWindow, unit, recordedAt, manner, take, others, layers, peeled);
  }

  public Clip withManner(Manner newManner) {
    return new Clip(
        id, letter, name, window, unit, recordedAt, newManner, take, others, layers, peeled);
  }

  /** This music with what another clip is called and how it behaves. */
  public Clip calledAs(Clip other) {
    return withLetter(other.letter).withName(other.name).withManner(other.manner);
  }

  public Clip withTakes(Take.Head active, List<Take> otherTakes) {
    return new Clip(
        id, letter, name, window, unit, recordedAt, manner, active, otherTakes, layers, peeled);
  }

  /** This clip as it was recorded at a tick, in some unit of length. */
  public Clip withRecorded(long tick, EntryUnit lengthUnit) {
    return new Clip(
        id, letter, name, window, lengthUnit, tick, manner, take, others, layers, peeled);
  }

  /** This clip with a layer as a change makes it; it is begun if there is none of that number. */
  public Clip mapLayer(int layerNumber, UnaryOperator<Layer> change) {
    List<Layer> next = new ArrayList<>(layers);
    for (int i = 0; i < next.size(); i++) {
      if (next.get(i).number() == layerNumber) {
        next.set(i, change.apply(next.get(i)));
        return withLayers(next);
      }
    }
    next.add(change.apply(Layer.empty(layerNumber)));
    return withLayers(next);
  }

  /** This clip without layers that have nothing in them. */
  public Clip withoutEmptyLayers() {
    return withLayers(layers.stream().filter(layer -> !layer.isEmpty()).toList());
  }

  /** This clip with a note in a layer, which is begun if there is none of that number. */
  public Clip withNote(int layerNumber, Note note) {
    Refusal.unless(
        noteCount() < MOST_NOTES,
        "Clip %s is full with %s notes: record into another one.",
        letter,
        MOST_NOTES);
    return mapLayer(layerNumber, layer -> layer.with(note));
  }

  /** This clip without a note; a layer that is empty then goes too. */
  public Clip withoutNote(long noteId) {
    return withLayers(
        layers.stream()
            .map(layer -> layer.holds(noteId) ? layer.where(note -> note.id() != noteId) : layer)
            .filter(layer -> !layer.isEmpty())
            .toList());
  }

  /** All that is here, be it on or peeled off, in every take. */
  public Stream<Layer> allLayers() {
    return Stream.concat(
        Stream.concat(layers.stream(), peeled.stream()),
        others.stream().flatMap(t -> Stream.concat(t.layers().stream(), t.peeled().stream())));
  }

  /** Whether a note is here, be it on or peeled off, in any take. */
  public boolean holds(long noteId) {
    return allLayers().anyMatch(layer -> layer.holds(noteId));
  }

  /** This clip with one note changed, be it on or peeled off, in any take. */
  public Clip mapNote(long noteId, UnaryOperator<Note> change) {
    return withLayers(mapNote(layers, noteId, change))
        .withPeeled(mapNote(peeled, noteId, change))
        .withTakes(
            take,
            others.stream()
                .map(
                    t ->
                        new Take(
                            t.head(),
                            mapNote(t.layers(), noteId, change),
                            mapNote(t.peeled(), noteId, change)))
                .toList());
  }

  /** This clip with each note of the take that is heard changed, be it on or peeled off. */
  public Clip mapNotes(UnaryOperator<Note> change) {
    return withLayers(layers.stream().map(layer -> layer.map(change)).toList())
        .withPeeled(peeled.stream().map(layer -> layer.map(change)).toList());
  }

  /** This clip with each move changed, be it on or peeled off. */
  public Clip mapMoves(UnaryOperator<Move> change) {
    return withLayers(layers.stream().map(layer -> layer.mapMoves(change)).toList())
        .withPeeled(peeled.stream().map(layer -> layer.mapMoves(change)).toList());
  }

  /** All takes, this one among them, by number. */
  public List<Take> takes() {
    return Stream.concat(Stream.of(new Take(take, layers, peeled)), others.stream())
        .sorted(Comparator.comparingInt(t -> t.head().number()))
        .toList();
  }

  /** This clip with another of its takes heard; refuses one that it does not have. */
  public Clip withActive(int number) {
    if (number == take.number()) {
      return this;
    }
    Take next =
        others.stream()
            .filter(t -> t.head().number() == number)
            .findFirst()
            .orElseThrow(
                () ->
                    new Refusal("Clip " + letter + " has no take " + number + ": choose another."));
    List<Take> rest = takes().stream().filter(t -> !t.equals(next)).toList();
    return withTakes(next.head(), rest).withLayers(next.layers()).withPeeled(next.peeled());
  }

  /** Takes off the newest layer; refuses to take off the first recording, and where none is on. */
  public Clip peel() {
    boolean first = layers.size() == 1 && layers.get(0).number() == 1;
    Refusal.unless(
        !layers.isEmpty() && !first,
        "Only the first recording is left in %s: clear takes it off.",
        letter);
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
                    ? layer.map(note -> note.id() == noteId ? change.apply(note) : note)
                    : layer)
        .toList();
  }
}
