package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.FirstRecording;
import ancora.core.record.Overdub;
import ancora.core.record.PassLog;
import ancora.core.record.Played;
import ancora.core.show.PartId;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** Notes taken into the recording that goes on, and found again wherever they are. */
final class NoteTaking {

  private NoteTaking() {}

  /** Takes what was played since an instant and is in no clip yet. */
  static Stage takeFromHindsight(Stage stage, PartId part, double sinceMicros) {
    Stage next = stage;
    for (Played played : stage.on(part).hindsight().since(sinceMicros)) {
      if (played.plain() && !played.recorded()) {
        next = take(next, part, played);
      }
    }
    return next;
  }

  /** Records a note if a recording goes on at its stamp; else it stays in hindsight alone. */
  static Stage take(Stage stage, PartId part, Played played) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    TempoMap map = stage.map().get();
    PartStage on = stage.on(part);
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      if (first.notes().size() >= Clip.MOST_NOTES) {
        return stage;
      }
      return first
          .take(played, stage.show().part(part).inputGrid(), stage.show().meter(), map)
          .map(
              note -> recorded(stage, part, played).mapOn(part, p -> p.withFirst(first.with(note))))
          .orElse(stage);
    }
    long tick = map.tickAt(played.onMicros());
    return on.overdub()
        .filter(overdub -> overdub.covers(tick))
        .map(overdub -> overdub(stage, part, overdub, played, tick))
        .orElse(stage);
  }

  private static Stage overdub(
      Stage stage, PartId part, Overdub overdub, Played played, long tick) {
    TempoMap map = stage.map().orElseThrow();
    Meter meter = stage.show().meter();
    if (played.isPedal() && hasOldPedal(stage, part, overdub)) {
      return stage;
    }
    InputGrid grid = gridFor(stage, part, played.pitch());
    long meant = grid.meant(tick, meter);
    long length =
        played.isHeld()
            ? Note.SHORTEST
            : grid.length(tick, map.tickAt(played.offMicros()), meant, meter);
    Note note =
        new Note(
            played.noteId(),
            played.pitch(),
            played.velocity(),
            tick,
            meant,
            length,
            played.isHeld());
    Optional<Stage> added = addInPass(stage, part, overdub, note);
    return added.map(s -> recorded(s, part, played)).orElse(stage);
  }

  /** Whether a clip had a pedal line before an overdub began. */
  static boolean hasOldPedal(Stage stage, PartId part, Overdub overdub) {
    return !stage.show().recording().mergePedals()
        && overdub.clipOn(stage.show().part(part)).stream()
            .flatMap(clip -> clip.layers().stream())
            .limit(overdub.layersBefore())
            .flatMap(layer -> layer.notes().stream())
            .anyMatch(Note::isPedal);
  }

  static InputGrid gridFor(Stage stage, PartId part, int pitch) {
    return pitch == Note.PEDAL ? InputGrid.OFF : stage.show().part(part).inputGrid();
  }

  /**
   * Adds a note to the clip that sounds, or that sounded when it was played.
   *
   * @param note with its onsets as ticks of the transport
   * @return empty if it has no place there: it stays in hindsight
   */
  static Optional<Stage> addInPass(Stage stage, PartId part, Overdub overdub, Note note) {
    PartStage on = stage.on(part);
    boolean gone =
        on.vamp().map(v -> !v.clip().equals(overdub.clip())).orElse(true)
            || on.vamp().get().from() > note.meant() && on.left().isPresent();
    Optional<Vamp> vamp =
        gone ? on.left().map(Left::vamp).filter(v -> v.clip().equals(overdub.clip())) : on.vamp();
    Optional<Clip> shelved = overdub.clipOn(stage.show().part(part));
    if (vamp.isEmpty() || shelved.isEmpty() || shelved.get().noteCount() >= Clip.MOST_NOTES) {
      return Optional.empty();
    }
    Clip clip = shelved.get();
    LoopWindow window = clip.window();
    long place = vamp.get().placeAt(note.meant(), window);
    if (!overdub.takesAt(place) || overdub.rests(note.meant(), window.length())) {
      return Optional.empty();
    }
    PassLog.Added added =
        vamp.get()
            .passes()
            .forgetting(note.played() - 2 * window.length())
            .add(
                clip,
                new Note(
                    note.id(),
                    note.pitch(),
                    note.velocity(),
                    place + note.played() - note.meant(),
                    place,
                    note.length(),
                    note.held()),
                overdub.passOf(note.played(), vamp.get().phase(), window.length()),
                overdub.passOf(note.meant(), vamp.get().phase(), window.length()),
                note.meant());
    Stage with = stage.withClip(part, added.clip());
    return Optional.of(
        gone ? with : with.mapOn(part, p -> p.withVamp(vamp.get().withPasses(added.log()))));
  }

  /** Notes played at a tick or later are left to hindsight. */
  static Stage leaveSince(Stage stage, PartId part, Overdub overdub, long tick) {
    TempoMap map = stage.map().orElseThrow();
    Clip clip = stage.clip(part, overdub.clip());
    Set<Long> since =
        stage.on(part).hindsight().since(map.microsOf(tick) - 1e6).stream()
            .filter(p -> p.recorded() && map.tickAt(p.onMicros()) >= tick)
            .map(Played::noteId)
            .collect(Collectors.toSet());
    List<Long> left = clip.notes().map(Note::id).filter(since::contains).toList();
    Stage next = stage;
    for (long id : left) {
      next =
          next.withClip(part, next.clip(part, clip.id()).withoutNote(id))
              .mapOn(
                  part,
                  p ->
                      p.withHindsight(p.hindsight().map(id, played -> played.withRecorded(false))));
    }
    return next;
  }

  private static Stage recorded(Stage stage, PartId part, Played played) {
    return stage.mapOn(
        part,
        on -> on.withHindsight(on.hindsight().map(played.noteId(), p -> p.withRecorded(true))));
  }

  /** A note of a part, wherever it is by now. */
  static Stage mapNote(Stage stage, PartId part, long noteId, UnaryOperator<Note> change) {
    PartStage on = stage.on(part);
    if (on.first().isPresent()
        && on.first().get().notes().stream().anyMatch(note -> note.id() == noteId)) {
      FirstRecording first = on.first().get();
      return stage.mapOn(
          part,
          p ->
              p.withFirst(
                  first.withNotes(
                      first.notes().stream()
                          .map(note -> note.id() == noteId ? change.apply(note) : note)
                          .toList())));
    }
    return stage.show().part(part).shelf().stream()
        .filter(clip -> clip.holds(noteId))
        .findFirst()
        .map(clip -> stage.withClip(part, clip.mapNote(noteId, change)))
        .orElse(stage);
  }

  /** Takes a note out, wherever it is by now. */
  static Stage withoutNote(Stage stage, PartId part, long noteId) {
    PartStage on = stage.on(part);
    Stage next =
        on.first().isEmpty()
            ? stage
            : stage.mapOn(
                part,
                p ->
                    p.withFirst(
                        on.first()
                            .get()
                            .withNotes(
                                on.first().get().notes().stream()
                                    .filter(note -> note.id() != noteId)
                                    .toList())));
    return next.show().part(part).shelf().stream()
        .filter(clip -> clip.holds(noteId) && clip.noteCount() > 1)
        .findFirst()
        .map(clip -> next.withClip(part, clip.withoutNote(noteId)))
        .orElse(next);
  }
}
