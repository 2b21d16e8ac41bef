package ancora.core.clip;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.sound.Sound;
import ancora.core.time.EntryUnit;
import io.soabase.recordbuilder.core.RecordBuilder;
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
 * @param letter a, b, c … z, aa, ab …: its place on the shelf
 * @param name as the performer calls it; empty if it has no name but its letter
 * @param window the stretch that loops
 * @param halvedFrom the longest window that it was halved from, if it was: doubled it is again what
 *     was there
 * @param unit the unit of its length
 * @param recordedAt A: the tick of the transport at which it was recorded
 * @param manner how it comes in and goes round
 * @param takes its versions, by rising number
 * @param heard numbers of the takes that were heard, the one that is heard now at the end
 * @param nextTake the number that the next take gets; none is used twice
 * @param sound what its part sounds like from its entry on; empty if as the part does
 */
@RecordBuilder
public record Clip(
    ClipId id,
    String letter,
    String name,
    LoopWindow window,
    Optional<LoopWindow> halvedFrom,
    EntryUnit unit,
    long recordedAt,
    Manner manner,
    List<Take> takes,
    List<Integer> heard,
    int nextTake,
    Optional<Sound> sound)
    implements ClipBuilder.With {

  /** A take is refused more notes than this. */
  public static final int MOST_NOTES = 4000;

  /** A take is refused more moves of controllers than this. */
  public static final int MOST_MOVES = 20_000;

  public Clip {
    name = Names.checkedOrEmpty("clip", name);
    takes = List.copyOf(takes);
    heard = List.copyOf(heard);
    if (heard.isEmpty()) {
      throw new IllegalArgumentException("no take of clip " + letter + " is heard");
    }
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
        Optional.empty(),
        EntryUnit.BAR,
        window.start(),
        Manner.DEFAULT,
        List.of(Take.of(1, List.of(layer))),
        List.of(1),
        2,
        Optional.empty());
  }

  /** The take that is heard. */
  public Take take() {
    return take(heard.get(heard.size() - 1));
  }

  /** A take by its number; refuses one that is not there. */
  public Take take(int number) {
    return findTake(number)
        .orElseThrow(
            () -> new Refusal("Clip " + letter + " has no take " + number + ": choose another."));
  }

  public Optional<Take> findTake(int number) {
    return takes.stream().filter(take -> take.number() == number).findFirst();
  }

  /** The notes that sound. */
  public Stream<Note> notes() {
    return take().sounding();
  }

  /** How many notes sound. */
  public int noteCount() {
    return (int) notes().count();
  }

  /** What controllers do. */
  public Stream<ControllerMove> moves() {
    return take().soundingMoves();
  }

  /** The layers of the take that is heard, those that are on. */
  public List<Layer> layers() {
    return take().layers();
  }

  /** This clip with other takes; of those that were heard, only those count that are there. */
  public Clip withTakes(List<Take> newTakes) {
    List<Take> sorted = newTakes.stream().sorted(Comparator.comparingInt(Take::number)).toList();
    List<Integer> still =
        heard.stream().filter(n -> sorted.stream().anyMatch(t -> t.number() == n)).toList();
    int last = sorted.get(sorted.size() - 1).number();
    return with(
        clip ->
            clip.takes(sorted)
                .heard(still.isEmpty() ? List.of(last) : still)
                .nextTake(Math.max(nextTake, last + 1)));
  }

  /** This clip with other layers in the take that is heard. */
  public Clip withLayers(List<Layer> layers) {
    return mapHeard(take -> Take.of(take.number(), layers));
  }

  /** This clip as it was recorded at a tick, in some unit of length. */
  public Clip withRecorded(long tick, EntryUnit lengthUnit) {
    return withUnit(lengthUnit).withRecordedAt(tick);
  }

  /** This clip with another of its takes heard; refuses one that it does not have. */
  public Clip withHeard(int number) {
    take(number);
    List<Integer> next = new ArrayList<>(heard);
    next.removeIf(n -> n == number);
    next.add(number);
    return withHeard(next);
  }

  /** This clip with a take in it, or in the place of the one with its number. */
  public Clip with(Take take) {
    List<Take> next = new ArrayList<>(takes);
    next.removeIf(t -> t.number() == take.number());
    next.add(take);
    return withTakes(next);
  }

  /** This clip without a take; of those that are left, the one heard before is heard. */
  public Clip without(int number) {
    return withTakes(takes.stream().filter(take -> take.number() != number).toList());
  }

  /** This clip with one of its takes changed. */
  public Clip mapTake(int number, UnaryOperator<Take> change) {
    return withTakes(takes.stream().map(t -> t.number() == number ? change.apply(t) : t).toList());
  }

  /** This clip with the take that is heard changed. */
  public Clip mapHeard(UnaryOperator<Take> change) {
    return mapTake(take().number(), change);
  }

  /** This clip with each take changed. */
  public Clip mapTakes(UnaryOperator<Take> change) {
    return withTakes(takes.stream().map(change).toList());
  }

  /** All that is here, be it on or off, in every take. */
  public Stream<Layer> allLayers() {
    return takes.stream().flatMap(Take::allLayers);
  }

  /** Refuses a clip of whose takes one has more notes than fit, since a layer came back. */
  public Clip checked() {
    for (Take take : takes) {
      Refusal.unless(
          take.noteCount() <= MOST_NOTES,
          "Take %s of clip %s would have more than %s notes: peel a layer first.",
          take.number(),
          letter,
          MOST_NOTES);
    }
    return this;
  }

  /** Whether a note is here, be it on or off, in any take. */
  public boolean holds(long noteId) {
    return takes.stream().anyMatch(take -> take.holds(noteId));
  }

  /** This clip with one note changed, be it on or off, in any take. */
  public Clip mapNote(long noteId, UnaryOperator<Note> change) {
    for (int i = takes.size() - 1; i >= 0; i--) {
      Optional<Layer> layer = takes.get(i).layerOf(noteId);
      if (layer.isPresent()) {
        int number = layer.get().number();
        return mapTake(
            takes.get(i).number(), t -> t.mapLayer(number, l -> l.mapNote(noteId, change)));
      }
    }
    return this;
  }

  /** This clip with a note once more, later, in the layer in which it is. */
  public Clip withCopy(long noteId, long id, long later) {
    return mapTakes(
        take ->
            take.layerOf(noteId)
                .map(
                    in ->
                        take.mapLayer(
                            in.number(),
                            layer ->
                                layer.notes().stream()
                                    .filter(note -> note.id() == noteId)
                                    .map(note -> note.withId(id).meantAt(note.meant() + later))
                                    .reduce(layer, Layer::with, (a, b) -> b)))
                .orElse(take));
  }

  /** This clip without a note; a layer that is empty then goes too. */
  public Clip withoutNote(long noteId) {
    return mapTakes(
        take ->
            take.holds(noteId)
                ? take.mapLayers(
                        layer ->
                            layer.holds(noteId) ? layer.where(note -> note.id() != noteId) : layer)
                    .withoutEmptyLayers()
                : take);
  }
}
