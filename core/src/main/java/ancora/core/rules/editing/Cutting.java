package ancora.core.rules.editing;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Take;
import ancora.core.edit.Chosen;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Sounding;
import ancora.core.rules.shelf.Shelves;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** Clips made of others, or of nothing; each is one step. */
final class Cutting {

  private Cutting() {}

  static Result make(Stage stage, PartId part, int bars) {
    checkBars(bars);
    Show show = stage.show();
    Clip clip =
        Clip.of(
            show.nextClipId(),
            show.part(part).freeLetter(),
            new LoopWindow(0, bars * show.meter().barTicks()),
            Layer.empty(1));
    return made(
        stage, counted(stage, show.nextId() + 1).withClip(part, clip), part, "an empty clip");
  }

  static Result split(Stage stage, PartId part, ClipId id, Chosen notes) {
    Clip clip = stage.clip(part, id);
    Set<Long> chosen = notes.of(clip.take());
    refuseHeld(clip, chosen);
    boolean all = clip.notes().allMatch(note -> chosen.contains(note.id()));
    Refusal.unless(
        !chosen.isEmpty() && !all, "Choose some of the notes of clip %s, not all.", clip.letter());
    Show show = stage.show();
    List<Note> own =
        clip.take()
            .allLayers()
            .flatMap(layer -> layer.notes().stream())
            .filter(note -> chosen.contains(note.id()))
            .sorted(Comparator.comparingLong(Note::id))
            .toList();
    Clip split = like(clip, show.nextClipId(), show.part(part).freeLetter(), new Layer(1, own));
    Clip left = clip.with(where(clip.take(), note -> !chosen.contains(note.id())));
    Stage next = counted(stage, show.nextId() + 1).withClip(part, left).withClip(part, split);
    return made(stage, next, part, "notes to a clip of their own");
  }

  static Result cut(Stage stage, PartId part, ClipId id, int bars) {
    checkBars(bars);
    Clip clip = stage.clip(part, id);
    long length = bars * stage.show().meter().barTicks();
    Refusal.unless(
        length < clip.window().length(),
        "Clip %s is no longer than that: cut it into shorter pieces.",
        clip.letter());
    Ids ids = new Ids(stage.show().nextId());
    Stage next = stage;
    for (long from = clip.window().start(); from < clip.window().end(); from += length) {
      LoopWindow window = new LoopWindow(from, Math.min(length, clip.window().end() - from));
      Clip piece =
          clip.withId(new ClipId((int) ids.take()))
              .withLetter(next.show().part(part).freeLetter())
              .withWindow(window)
              .withRecordedAt(clip.recordedAt() + from - clip.window().start())
              .withTakes(List.of(piece(clip.take(), window)))
              .mapTakes(ids::copy);
      next = next.withClip(part, piece);
    }
    return made(stage, counted(next, ids.next()), part, "cut " + Steps.name(stage, part, clip));
  }

  private static Take piece(Take take, LoopWindow window) {
    Take inside = take.mapLayers(layer -> layer.whereMoves(move -> window.contains(move.place())));
    Take piece = where(inside, note -> window.contains(note.meant())).withStretches(List.of());
    // of layers with nothing in them only a first one stays
    return piece.allLayers().allMatch(Layer::isEmpty)
        ? piece.withLayers(List.of(Layer.empty(1)))
        : piece;
  }

  static Result repeat(Stage stage, PartId part, List<ClipId> clips, int times, Moment moment) {
    return Result.to(Shelves.reshape(stage, part, clips, new Reshaping.Times(times), moment));
  }

  static Result chain(Stage stage, PartId part, List<ClipId> clips) {
    Refusal.unless(clips.size() > 1, "Choose two clips or more to put one after another.");
    Show show = stage.show();
    Ids ids = new Ids(show.nextId() + 1);
    Clip first = stage.clip(part, clips.get(0));
    long start = first.window().start();
    long at = start;
    List<Note> notes = new ArrayList<>();
    List<ControllerMove> moves = new ArrayList<>();
    for (ClipId id : clips) {
      Clip clip = stage.clip(part, id);
      long later = at - clip.window().start();
      for (Note note : clip.notes().filter(n -> clip.window().contains(n.meant())).toList()) {
        Note played = note.held() ? note.released(note.length()) : note;
        notes.add(played.withId(ids.take()).meantAt(note.meant() + later));
      }
      clip.moves()
          .filter(move -> clip.window().contains(move.place()))
          .forEach(move -> moves.add(move.withId(0).withPlace(move.place() + later)));
      at += clip.window().length();
    }
    Refusal.unless(
        at - start <= RecordingSettings.MOST_BARS * show.meter().barTicks(),
        "One after another these clips are longer than %s bars: choose fewer.",
        RecordingSettings.MOST_BARS);
    checkSize(notes.size(), moves.size());
    Clip chained =
        Clip.of(
                show.nextClipId(),
                show.part(part).freeLetter(),
                new LoopWindow(start, at - start),
                new Layer(1, notes, moves, List.of(), List.of()))
            .withRecorded(first.recordedAt(), first.unit());
    Stage next = counted(stage, ids.next()).withClip(part, chained);
    return made(stage, next, part, "clips one after another");
  }

  static Result spreadLayers(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    refuseHeld(clip, ids(clip));
    Refusal.unless(clip.layers().size() > 1, "Clip %s has one layer only.", clip.letter());
    Set<Long> sounding = ids(clip);
    Show show = stage.show();
    Layer lowest = sounding(clip.layers().get(0), sounding);
    Stage next = stage.withClip(part, clip.mapHeard(take -> flattened(take, lowest)));
    for (Layer layer : clip.layers().subList(1, clip.layers().size())) {
      Layer own = sounding(layer, sounding).withNumber(1);
      if (!own.isEmpty()) {
        Show now = next.show();
        next =
            counted(next, now.nextId() + 1)
                .withClip(part, like(clip, now.nextClipId(), now.part(part).freeLetter(), own));
      }
    }
    return made(stage, next, part, "layers to clips of their own");
  }

  static Result flatten(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    refuseHeld(clip, ids(clip));
    Refusal.unless(
        clip.layers().size() > 1 || clip.layers().stream().anyMatch(Layer::takesOut),
        "Clip %s is one layer already.",
        clip.letter());
    List<Note> notes = clip.notes().sorted(Comparator.comparingLong(Note::id)).toList();
    Layer one = new Layer(1, notes, clip.moves().toList(), List.of(), List.of());
    Stage next = stage.withClip(part, clip.mapHeard(take -> flattened(take, one)));
    return made(stage, next, part, "flatten");
  }

  /** A layer that is off, and took out only what is gone by now, would be put back for nothing. */
  private static Take flattened(Take take, Layer one) {
    Take flat = take.withLayers(List.of(one)).withoutStray();
    return flat.withOff(flat.off().stream().filter(layer -> !layer.isEmpty()).toList());
  }

  static Result copy(Stage stage, PartId part, ClipId id, PartId to) {
    return made(stage, copied(stage, part, id, to), to, "copy a clip");
  }

  static Result moveTo(Stage stage, PartId part, ClipId id, PartId to, Moment moment) {
    Refusal.unless(!part.equals(to), "The clip is on that part already: choose another.");
    boolean sounds = stage.on(part).vamp().filter(v -> v.clip().equals(id)).isPresent();
    Stage ended = sounds ? Endings.endAll(stage, part, Sounding.tick(stage, moment)) : stage;
    Stage next = Shelves.delete(copied(ended, part, id, to), part, id);
    return made(ended, next, to, "move a clip");
  }

  private static Stage copied(Stage stage, PartId part, ClipId id, PartId to) {
    Clip clip = stage.clip(part, id);
    Show show = stage.show();
    Ids ids = new Ids(show.nextId() + 1);
    Clip copy =
        clip.withId(show.nextClipId()).withLetter(show.part(to).freeLetter()).mapTakes(ids::copy);
    return counted(stage, ids.next()).withClip(to, copy);
  }

  /** One step, and which clips have come by it. */
  private static Result made(Stage before, Stage after, PartId part, String words) {
    Set<ClipId> known = new HashSet<>();
    before.show().part(part).shelf().forEach(clip -> known.add(clip.id()));
    List<String> came =
        after.show().part(part).shelf().stream()
            .filter(clip -> !known.contains(clip.id()))
            .map(clip -> Steps.name(after, part, clip))
            .toList();
    Stage noted = Steps.noted(before, after, words);
    return came.isEmpty()
        ? Result.to(noted)
        : Result.to(noted, "Made: " + String.join(", ", came) + ".");
  }

  private static Stage counted(Stage stage, long nextId) {
    return stage.withShow(stage.show().withNextId(nextId));
  }

  /** A clip that goes round as another does. */
  private static Clip like(Clip clip, ClipId id, String letter, Layer layer) {
    return Clip.of(id, letter, clip.window(), layer)
        .withRecorded(clip.recordedAt(), clip.unit())
        .withManner(clip.manner());
  }

  private static Take where(Take take, Predicate<Note> keep) {
    Take left = take.mapLayers(layer -> layer.where(keep));
    Take without = left.withoutEmptyLayers();
    return without.layers().isEmpty()
        ? without.withLayers(
            List.of(
                left.layers().stream()
                    .findFirst()
                    .map(l -> Layer.empty(l.number()))
                    .orElse(Layer.empty(1))))
        : without;
  }

  private static Set<Long> ids(Clip clip) {
    Set<Long> ids = new HashSet<>();
    clip.notes().forEach(note -> ids.add(note.id()));
    return ids;
  }

  private static Layer sounding(Layer layer, Set<Long> sounding) {
    return layer.where(note -> sounding.contains(note.id())).withOut(List.of(), List.of());
  }

  private static void refuseHeld(Clip clip, Set<Long> chosen) {
    boolean held =
        clip.allLayers()
            .flatMap(layer -> layer.notes().stream())
            .anyMatch(note -> note.held() && chosen.contains(note.id()));
    Refusal.unless(!held, "Keys of clip %s are down: let them go first.", clip.letter());
  }

  private static void checkBars(int bars) {
    Refusal.unless(
        bars >= 1 && bars <= RecordingSettings.MOST_BARS,
        "A clip has 1 to %s bars.",
        RecordingSettings.MOST_BARS);
  }

  private static void checkSize(int notes, int moves) {
    Refusal.unless(
        notes <= Clip.MOST_NOTES && moves <= Clip.MOST_MOVES,
        "That would be more than %s notes in one clip: choose fewer.",
        Clip.MOST_NOTES);
  }
}
