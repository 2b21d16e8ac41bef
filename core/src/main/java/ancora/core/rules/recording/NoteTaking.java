package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.EarlyNotes;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.LoopRecording;
import ancora.core.record.Played;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/** Notes taken into the recording that goes on, and found again wherever they are. */
public final class NoteTaking {

  private NoteTaking() {}

  /** Takes what was played since an instant and is in no clip yet. */
  public static Stage takeFromHindsight(
      Stage stage, PartId part, double sinceMicros, Moment moment) {
    long over = stage.map().orElseThrow().lastTickBy(moment.now());
    Stage next = stage;
    for (Played played : stage.on(part).hindsight().since(sinceMicros)) {
      if (played.plain() && !played.recorded()) {
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
    TempoMap map = stage.map().get();
    PartStage on = stage.on(part);
    Optional<Stage> onto =
        on.first().filter(first -> isForFirst(stage, part, first, played)).isPresent()
            ? Optional.empty()
            : on.recording().flatMap(r -> ontoLoop(stage, part, r, played, over));
    return onto.or(() -> on.first().flatMap(f -> intoFirst(stage, part, f, played)))
        .map(added -> recorded(added, part, played))
        .orElse(stage);
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

  private static Optional<Stage> ontoLoop(
      Stage stage, PartId part, LoopRecording recording, Played played, long over) {
    TempoMap map = stage.map().orElseThrow();
    Meter meter = stage.show().meter();
    long tick = map.tickAt(played.onMicros());
    if (played.isPedal() && addsToPedalLine(stage, part, recording)) {
      return Optional.empty();
    }
    InputGrid grid = gridFor(stage, part, played.pitch());
    boolean forBegin = !played.isPedal() && isEarlyForBegin(stage, part, recording, tick);
    OptionalLong ownLine =
        played.isPedal()
            ? OptionalLong.empty()
            : forBegin && (recording.way() == Way.TAKES || grid.grid() != Grid.OFF)
                ? OptionalLong.of(recording.from())
                : lineOfTake(stage, part, recording, tick);
    OptionalLong closing =
        played.isPedal() || ownLine.isPresent()
            ? OptionalLong.empty()
            : closingLine(stage, part, recording, tick);
    if (closing.isPresent() && startHas(stage, part, recording, played.pitch(), tick)) {
      return Optional.empty();
    }
    OptionalLong line = grid.grid() == Grid.OFF ? OptionalLong.empty() : closing;
    long meant = ownLine.orElse(line.orElse(grid.meant(tick, meter)));
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
    return Adding.add(stage, part, note, forBegin, over);
  }

  /** Whether a note is early for the line at which a recording onto a loop begins. */
  private static boolean isEarlyForBegin(
      Stage stage, PartId part, LoopRecording recording, long tick) {
    long from = recording.from();
    if (tick >= from || from != recording.since() || recording.closed().isPresent()) {
      return false;
    }
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), from);
    long bar = stage.show().meter().barTicks();
    boolean atLine =
        Math.floorMod(from, bar) == 0
            || vamp.filter(v -> Math.floorMod(from - v.phase(), bar) == 0).isPresent();
    TempoMap map = stage.map().orElseThrow();
    InputGrid grid = stage.show().part(part).inputGrid();
    Meter meter = stage.show().meter();
    long tolerance =
        recording.way() == Way.TAKES
            ? EarlyNotes.tolerance(grid, from, meter, map)
            : EarlyNotes.toleranceOnto(grid, from, meter, map);
    return atLine && from - tick <= tolerance;
  }

  /**
   * The line of the take for which a note is early, if it is: a take is a recording of its own, and
   * what is early for its line is at its start, whatever the take before has there.
   */
  private static OptionalLong lineOfTake(
      Stage stage, PartId part, LoopRecording recording, long tick) {
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    long since = Math.max(tick, recording.closed().orElse(tick));
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), since);
    if (recording.way() != Way.TAKES || clip.isEmpty() || vamp.isEmpty()) {
      return OptionalLong.empty();
    }
    TempoMap map = stage.map().orElseThrow();
    LoopWindow window = Sounding.windowAt(stage, part, vamp.get(), clip.get());
    long line = recording.nextBegin(tick, vamp.get().phase(), window.length());
    InputGrid grid = stage.show().part(part).inputGrid();
    boolean early =
        line - tick <= EarlyNotes.tolerance(grid, line, stage.show().meter(), map)
            && line < recording.until();
    return early ? OptionalLong.of(line) : OptionalLong.empty();
  }

  /**
   * The line for which a note is early at which its loop has closed, or takes were switched off: it
   * may be delivered late.
   */
  private static OptionalLong closingLine(
      Stage stage, PartId part, LoopRecording recording, long tick) {
    long line = recording.closed().orElse(Long.MIN_VALUE);
    if (tick >= line && recording.way() == Way.TAKES && !recording.isOpen()) {
      line = isLine(stage, part, recording) ? recording.until() : line;
    }
    boolean early = tick < line && line - tick <= tolerance(stage, part, line);
    return early ? OptionalLong.of(line) : OptionalLong.empty();
  }

  /** Whether a recording has ended at a line of its loop. */
  private static boolean isLine(Stage stage, PartId part, LoopRecording recording) {
    long until = recording.until();
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), until - 1);
    return clip.isPresent()
        && vamp.isPresent()
        && Math.floorMod(
                until - vamp.get().phase(),
                Sounding.windowAt(stage, part, vamp.get(), clip.get()).length())
            == 0;
  }

  private static long tolerance(Stage stage, PartId part, long line) {
    InputGrid grid = stage.show().part(part).inputGrid();
    return EarlyNotes.tolerance(grid, line, stage.show().meter(), stage.map().orElseThrow());
  }

  /** Where what closes there has its pitch at the start already, an early note is left. */
  private static boolean startHas(
      Stage stage, PartId part, LoopRecording recording, int pitch, long tick) {
    long tolerance = tolerance(stage, part, recording.closed().orElse(recording.until()));
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    boolean first = recording.closed().isPresent() && tick < recording.closed().getAsLong();
    if (recording.way() == Way.TAKES && !first) {
      return clip.flatMap(c -> Adding.takeAt(stage, part, c, tick))
          .filter(take -> startHas(take.sounding(), clip.get().window(), pitch, tolerance))
          .isPresent();
    }
    return clip.filter(c -> startHas(c.notes(), c.window(), pitch, tolerance)).isPresent();
  }

  private static boolean startHas(
      Stream<Note> notes, LoopWindow window, int pitch, long tolerance) {
    long start = window.start();
    return notes.anyMatch(
        n -> n.pitch() == pitch && n.meant() >= start && n.meant() <= start + tolerance);
  }

  /**
   * Whether a foot is heard but not recorded: what adds to a clip with a pedal line of its own adds
   * none.
   */
  static boolean addsToPedalLine(Stage stage, PartId part, LoopRecording recording) {
    return recording.way() == Way.ADD
        && !stage.show().recording().mergePedals()
        && stage.show().part(part).clip(recording.clip()).stream()
            .flatMap(clip -> clip.findTake(recording.take()).stream())
            .flatMap(take -> take.layers().stream())
            .filter(layer -> layer.number() < recording.old())
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
    if (noteIds.isEmpty()) {
      return stage;
    }
    Hindsight memory = stage.on(part).hindsight();
    for (long id : noteIds) {
      memory = memory.map(id, played -> played.withRecorded(false));
    }
    Hindsight left = memory;
    return stage.mapOn(part, on -> on.withHindsight(left));
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

  /** A first recording that has just closed has notes too. */
  private static Stage withoutFirst(Stage stage, PartId part, Collection<Long> noteIds) {
    Optional<Clip> closed =
        stage
            .on(part)
            .recording()
            .filter(recording -> recording.closed().isPresent())
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
