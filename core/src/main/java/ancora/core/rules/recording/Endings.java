package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.record.Lap;
import ancora.core.record.Lap.Brought;
import ancora.core.record.Lap.Kind;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.Steps;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.vamp.Loop;
import ancora.core.vamp.Vamp;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Recordings.Recordings onto a loop end: by themselves, by a press, or by what takes their clip
 * away.
 */
public final class Endings {

  private Endings() {}

  // switching off

  /** The tick at which a recording ends by itself, if it does. */
  public static OptionalLong ownEnd(Stage stage, PartId part) {
    Optional<Onto> on = Onto.of(stage, part).filter(onto -> onto.recording().isOpen());
    Optional<Loop> loop = on.flatMap(Onto::loop);
    if (loop.isEmpty()) {
      return OptionalLong.empty();
    }
    LoopRecording recording = on.get().recording();
    if (recording.way() == Way.REPLACE) {
      return OptionalLong.of(recording.line() + loop.get().length());
    }
    if (recording.way() == Way.PUNCH && !stage.show().recording().punchGoesOn()) {
      Take take = on.get().clip().take(recording.take());
      return recording.laps().stream()
          .filter(lap -> lap.isPlayed() && lap.hasLayer() && !take.isOff(lap.layer()))
          .flatMap(lap -> lap.brought().stream())
          .filter(Brought::isPlayed)
          .mapToLong(b -> rangeEnd(recording, loop.get(), counts(recording, b)))
          .min();
    }
    return OptionalLong.empty();
  }

  /** The tick that something played counts for: of a note that lies as it was played, later. */
  private static long counts(LoopRecording recording, Brought brought) {
    boolean asPlayed = brought.kind() == Kind.NOTE && brought.tick() == brought.meant();
    return asPlayed ? brought.meant() + recording.edge() : brought.meant();
  }

  static long rangeEnd(LoopRecording recording, Loop loop, long in) {
    LoopWindow window = loop.window();
    long to = recording.range().orElseThrow().to();
    long end = loop.lineBy(in) + loop.length();
    return to == window.end() && in < end ? end : loop.passed(window.wrap(to), in + 1);
  }

  /** Ends whatever is recorded or erased on a part, at a tick; nothing if there is nothing. */
  public static Stage endAll(Stage stage, PartId part, long tick) {
    Stage erased = stage.hands().eraseOn(part).isPresent() ? Erasing.end(stage, part, tick) : stage;
    return erased.on(part).open().isPresent() ? end(erased, part, tick) : erased;
  }

  /**
   * Ends a recording at a tick, however late that is known: what was taken out since is back, what
   * was played since is in hindsight.
   */
  public static Stage end(Stage stage, PartId part, long tick) {
    Stage next = stage;
    for (Lap lap : stage.on(part).recording().orElseThrow().laps()) {
      next = truncated(next, part, lap.begin(), tick);
    }
    next = next.mapOn(part, on -> on.withRecording(on.recording().map(r -> r.withUntil(tick))));
    next = Breathers.ended(next, part, tick);
    LoopRecording recording = next.on(part).recording().orElseThrow();
    if (recording.way() == Way.TAKES) {
      Stage kept = withoutTakesFrom(next, part, tick);
      return TakesOver.end(kept, part, kept.on(part).recording().orElseThrow(), tick);
    }
    if (recording.way() == Way.REPLACE) {
      next = Edges.edges(next, part, recording.since(), tick, recording.since());
    }
    for (Lap lap : next.on(part).recording().orElseThrow().laps()) {
      if (lap.hasLayer() && !lap.ended()) {
        next = Laps.endLap(next, part, lap.begin());
      }
    }
    return next;
  }

  /**
   * Takes that would have begun at a tick, or later, do not: what was early for their line is dealt
   * with as where a loop closes there.
   */
  private static Stage withoutTakesFrom(Stage stage, PartId part, long tick) {
    Stage next = stage;
    for (Lap lap : stage.on(part).recording().orElseThrow().laps()) {
      List<Long> early = lap.begin() >= tick ? lap.ids(Kind.NOTE, Long.MIN_VALUE) : List.of();
      if (!early.isEmpty()) {
        Stage left = NoteTaking.left(without(next, part, early), part, early);
        // what the takes have brought is one step, and one of them is heard: that is still to come
        next = asHeard(left, NoteTaking.takeAgain(left, part, early, tick - 1), part);
      }
      if (lap.begin() >= tick && lap.hasLayer()) {
        // what a window made twice as long has copied of it
        next = withoutTake(next, part, lap);
      }
    }
    return next;
  }

  /** A stage as it is after notes were taken, but with the steps and the take heard before. */
  private static Stage asHeard(Stage before, Stage after, PartId part) {
    ClipId clip = before.on(part).recording().orElseThrow().clip();
    Optional<Vamp> stood = before.on(part).vamp();
    Stage next =
        after
            .withHistory(before.history())
            .mapOn(
                part,
                on ->
                    on.withPast(before.on(part).past())
                        .withVamp(
                            on.vamp()
                                .map(v -> v.withFrom(stood.get().from(), stood.get().entry()))));
    boolean there = after.show().part(part).clip(clip).isPresent();
    return there
        ? next.withClip(part, next.clip(part, clip).withHeard(before.clip(part, clip).heard()))
        : next;
  }

  private static Stage withoutTake(Stage stage, PartId part, Lap lap) {
    ClipId clip = stage.on(part).recording().orElseThrow().clip();
    boolean there =
        stage.show().part(part).clip(clip).flatMap(c -> c.findTake(lap.take())).isPresent();
    return there ? Laps.withoutLayer(stage, part, lap) : stage;
  }

  private static Stage truncated(Stage stage, PartId part, long begin, long tick) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap lap = Laps.lap(recording, begin);
    Optional<Take> take =
        stage.show().part(part).clip(recording.clip()).flatMap(clip -> clip.findTake(lap.take()));
    Optional<Layer> layer = take.flatMap(t -> t.layer(lap.layer()));
    // what an edit has given to another owner stays there
    List<Long> notes =
        lap.ids(Kind.NOTE, tick).stream()
            .filter(
                id ->
                    lap.hasLayer() && take.isEmpty() || layer.filter(l -> l.holds(id)).isPresent())
            .toList();
    List<Long> moves = lap.ids(Kind.MOVE, tick);
    List<Long> notesBack = outFrom(stage, part, lap, tick);
    List<Long> movesBack = lap.ids(Kind.MOVE_OUT, tick);
    boolean gone = stage.show().part(part).clip(recording.clip()).isEmpty();
    if (gone || notes.size() + moves.size() + notesBack.size() + movesBack.size() == 0) {
      return stage;
    }
    Stage next =
        Laps.mapLayer(
            stage,
            part,
            recording.clip(),
            lap,
            l ->
                l.where(note -> !notes.contains(note.id()))
                    .whereMoves(move -> !moves.contains(move.id()))
                    .puttingBack(notesBack, movesBack));
    List<Brought> rest =
        lap.brought().stream()
            .filter(b -> b.tick() < tick)
            .filter(b -> b.kind() != Kind.NOTE_OUT || !notesBack.contains(b.id()))
            .toList();
    next = Laps.withLap(next, part, lap.withBrought(rest));
    next = Laps.withoutStray(next, part, stage.clip(part, recording.clip()));
    next = Steps.withoutNotes(NoteTaking.left(next, part, notes), Set.copyOf(notes));
    return Laps.withoutEmpty(next, part, begin);
  }

  /**
   * The notes that were taken out at a tick or later; if that is a line also those that lie as they
   * were played just before it: they are of what comes after it.
   */
  private static List<Long> outFrom(Stage stage, PartId part, Lap lap, long tick) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    List<Long> since = lap.ids(Kind.NOTE_OUT, tick);
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    List<Long> before = lap.ids(Kind.NOTE_OUT, tick - recording.edge());
    if (clip.isEmpty() || before.size() == since.size() || !isLine(stage, part, tick)) {
      return since;
    }
    Set<Long> asPlayed =
        clip.get()
            .allLayers()
            .flatMap(layer -> layer.notes().stream())
            .filter(Note::isAsPlayed)
            .map(Note::id)
            .collect(Collectors.toSet());
    return before.stream().filter(id -> since.contains(id) || asPlayed.contains(id)).toList();
  }

  /** Whether a tick is a bar line of the loop that is recorded onto. */
  private static boolean isLine(Stage stage, PartId part, long tick) {
    long bar = stage.show().meter().barTicks();
    return Onto.of(stage, part)
        .flatMap(on -> on.loopAt(tick - 1))
        .filter(
            loop ->
                (tick - loop.lineBy(tick)) % bar == 0
                    || tick - loop.lineBy(tick - 1) == loop.length())
        .isPresent();
  }

  /** Takes notes out that a recording has brought. */
  static Stage without(Stage stage, PartId part, Collection<Long> noteIds) {
    Stage next = stage;
    List<Lap> laps = stage.on(part).recording().map(LoopRecording::laps).orElse(List.of());
    for (Lap lap : laps) {
      if (lap.brought().stream().anyMatch(b -> isOne(b, noteIds))) {
        ClipId clip = stage.on(part).recording().orElseThrow().clip();
        next =
            Laps.mapLayer(
                next, part, clip, lap, l -> l.where(note -> !noteIds.contains(note.id())));
        List<Brought> rest = lap.brought().stream().filter(b -> !isOne(b, noteIds)).toList();
        next =
            Laps.withoutEmpty(Laps.withLap(next, part, lap.withBrought(rest)), part, lap.begin());
      }
    }
    return next;
  }

  private static boolean isOne(Brought brought, Collection<Long> noteIds) {
    return brought.kind() == Kind.NOTE && noteIds.contains(brought.id());
  }
}
