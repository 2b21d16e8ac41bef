package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.EarlyNotes;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.Played;
import ancora.core.record.Taken;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/** Notes taken into the recording that goes on, and found again wherever they are. */
public final class NoteTaking {

  private NoteTaking() {}

  /** Takes what was played since an instant and is in no clip yet. */
  public static Stage takeFromHindsight(
      Stage stage, PartId part, double sinceMicros, Moment moment) {
    return takeFromHindsight(
        stage, part, sinceMicros, stage.map().orElseThrow().lastTickBy(moment.now()));
  }

  static Stage takeFromHindsight(Stage stage, PartId part, double sinceMicros, long over) {
    Stage next = stage;
    for (Played played : stage.on(part).hindsight().since(sinceMicros)) {
      // with one that comes late the others may have come as well
      if (played.plain() && !next.on(part).hindsight().isRecorded(played.noteId())) {
        next = take(next, part, played, over);
      }
    }
    return next;
  }

  /** Takes some notes anew, as things are by now. */
  static Stage takeAgain(Stage stage, PartId part, Collection<Long> noteIds, long over) {
    Stage next = stage;
    for (Played played : stage.on(part).hindsight().since(Double.NEGATIVE_INFINITY)) {
      next = noteIds.contains(played.noteId()) ? take(next, part, played, over) : next;
    }
    return next;
  }

  /**
   * Records a note if a recording goes on at its stamp; else it stays in hindsight alone.
   *
   * @param over the last tick that is over
   */
  public static Stage take(Stage stage, PartId part, Played played, long over) {
    if (stage.map().isEmpty()) {
      return stage;
    }
    if (FirstRecordings.isOfLapsed(stage, part, played, over)) {
      return FirstRecordings.lateIntoLapsed(stage, part, over);
    }
    PartStage on = stage.on(part);
    Optional<Stage> onto =
        on.first().filter(first -> isForFirst(stage, part, first, played)).isPresent()
            ? Optional.empty()
            : Onto.of(stage, part).flatMap(loop -> onto(loop, played, over));
    return onto.or(() -> on.first().flatMap(f -> intoFirst(stage, part, f, played)))
        .map(added -> recorded(added, part, played))
        .orElse(stage);
  }

  /** What is to be said where a key is heard, but what is recorded onto has as much as fits. */
  public static Optional<String> full(Stage stage, PartId part, Moment moment) {
    boolean full =
        stage.on(part).first().filter(f -> f.notes().size() >= Clip.MOST_NOTES).isPresent()
            || Onto.of(stage, part)
                .filter(on -> on.recording().isOpen())
                .filter(on -> isFull(on, moment.tick(on.map())))
                .isPresent();
    return full
        ? Optional.of(
            "%s has %s notes, as many as fit: what is played is in hindsight."
                .formatted(stage.show().part(part).name(), Clip.MOST_NOTES))
        : Optional.empty();
  }

  private static boolean isFull(Onto on, long tick) {
    return on.loopAt(tick)
        .filter(loop -> Adding.isFull(on, on.recording().lapAt(tick, loop)))
        .isPresent();
  }

  /** Whether a note comes after a first recording's start, or early for it. */
  private static boolean isForFirst(Stage stage, PartId part, FirstRecording first, Played played) {
    TempoMap map = stage.map().orElseThrow();
    InputGrid grid = stage.show().part(part).inputGrid();
    long early = EarlyNotes.toleranceAtStart(grid, first.start(), stage.show().meter(), map);
    return map.tickAt(played.onMicros()) >= first.start() - early;
  }

  private static Optional<Stage> intoFirst(
      Stage stage, PartId part, FirstRecording first, Played played) {
    TempoMap map = stage.map().orElseThrow();
    return first.notes().size() >= Clip.MOST_NOTES
        ? Optional.empty()
        : first
            .take(played, stage.show().part(part).inputGrid(), stage.show().meter(), map)
            .map(note -> stage.mapOn(part, p -> p.withFirst(first.with(note))));
  }

  private static Optional<Stage> onto(Onto on, Played played, long over) {
    long tick = on.map().tickAt(played.onMicros());
    if (played.isPedal() && addsToPedalLine(on)) {
      return Optional.empty();
    }
    InputGrid grid = gridFor(on.stage(), on.part(), played.pitch());
    Optional<EarlyFor> early = played.isPedal() ? Optional.empty() : EarlyFor.of(on, tick);
    if (early.filter(e -> e.isThere(on, played.pitch(), tick)).isPresent()) {
      return Optional.empty();
    }
    long meant =
        early
            .filter(EarlyFor::moves)
            .map(EarlyFor::line)
            .orElseGet(() -> grid.meant(tick, on.meter()));
    long length =
        played.isHeld()
            ? 0
            : grid.length(tick, on.map().tickAt(played.offMicros()), meant, on.meter());
    Taken note = Taken.of(played, tick, meant, length);
    boolean forBegin = early.filter(e -> e.what() == EarlyFor.What.BEGIN).isPresent();
    return Adding.add(on, note, forBegin, over);
  }

  /**
   * Whether a foot is heard but not recorded: what adds to a clip with a pedal line of its own adds
   * none.
   */
  static boolean addsToPedalLine(Onto on) {
    return on.recording().way() == Way.ADD
        && !on.stage().show().recording().mergePedals()
        && on.clip().findTake(on.recording().take()).stream()
            .flatMap(take -> take.layers().stream())
            .filter(layer -> layer.number() < on.recording().old())
            .flatMap(layer -> layer.notes().stream())
            .anyMatch(Note::isPedal);
  }

  static InputGrid gridFor(Stage stage, PartId part, int pitch) {
    return pitch == Note.PEDAL ? InputGrid.of(Grid.OFF) : stage.show().part(part).inputGrid();
  }

  private static Stage recorded(Stage stage, PartId part, Played played) {
    return stage.mapOn(
        part,
        on -> on.withHindsight(on.hindsight().map(played.noteId(), p -> p.withRecorded(true))));
  }

  /** Notes are in no clip any more: they are in hindsight alone. */
  public static Stage left(Stage stage, PartId part, Collection<Long> noteIds) {
    return recorded(stage, part, noteIds, false);
  }

  /** Notes are in a clip again. */
  public static Stage back(Stage stage, PartId part, Collection<Long> noteIds) {
    return recorded(stage, part, noteIds, true);
  }

  private static Stage recorded(
      Stage stage, PartId part, Collection<Long> noteIds, boolean recorded) {
    Hindsight memory = stage.on(part).hindsight();
    for (long id : noteIds) {
      memory = memory.map(id, played -> played.withRecorded(recorded));
    }
    Hindsight now = memory;
    return noteIds.isEmpty() ? stage : stage.mapOn(part, on -> on.withHindsight(now));
  }

  /** A note of a part, wherever it is by now. */
  public static Stage mapNote(Stage stage, PartId part, long noteId, UnaryOperator<Note> change) {
    PartStage on = stage.on(part);
    if (on.first().isPresent()
        && on.first().get().notes().stream().anyMatch(note -> note.id() == noteId)) {
      FirstRecording first = on.first().get();
      List<Note> notes =
          first.notes().stream()
              .map(note -> note.id() == noteId ? change.apply(note) : note)
              .toList();
      return stage.mapOn(part, p -> p.withFirst(first.withNotes(notes)));
    }
    Optional<Clip> recordedOnto =
        on.recording().flatMap(recording -> stage.show().part(part).clip(recording.clip()));
    return Stream.concat(recordedOnto.stream(), stage.show().part(part).shelf().stream())
        .filter(clip -> clip.holds(noteId))
        .findFirst()
        .map(clip -> stage.withClip(part, clip.mapNote(noteId, change)))
        .orElse(stage);
  }

  /** Takes notes out, wherever they are by now. */
  public static Stage without(Stage stage, PartId part, Collection<Long> noteIds) {
    if (noteIds.isEmpty()) {
      return stage;
    }
    Stage next =
        stage.mapOn(
            part,
            p ->
                p.withFirst(
                    p.first()
                        .map(
                            first ->
                                first.withNotes(
                                    first.notes().stream()
                                        .filter(note -> !noteIds.contains(note.id()))
                                        .toList()))));
    return withoutFirst(Endings.without(next, part, noteIds), part, noteIds);
  }

  /** A first recording that has just closed has notes too, also if something is added to it. */
  private static Stage withoutFirst(Stage stage, PartId part, Collection<Long> noteIds) {
    Optional<Clip> closed =
        stage
            .on(part)
            .recording()
            .flatMap(recording -> stage.show().part(part).clip(recording.clip()));
    if (closed.isEmpty()) {
      return stage;
    }
    Clip clip = closed.get();
    for (long id : noteIds) {
      clip = clip.holds(id) ? clip.withoutNote(id) : clip;
    }
    return clip == closed.get() ? stage : stage.withClip(part, clip);
  }
}
