package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Take;
import ancora.core.note.ControllerMove;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.ControllerMoves;
import ancora.core.record.EarlyNotes;
import ancora.core.record.Lap;
import ancora.core.record.Lap.Brought;
import ancora.core.record.Lap.Kind;
import ancora.core.record.LoopRecording;
import ancora.core.record.PlayedMove;
import ancora.core.record.Taken;
import ancora.core.record.Way;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.vamp.Loop;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What is played goes into the layer of its lap (rules 6 and 7). */
public final class Adding {

  private Adding() {}

  // what is added

  /**
   * Adds a note to the clip that sounds, or that sounded when it was played.
   *
   * @param note as it was taken
   * @param forBegin whether it is early for the line at which the recording begins
   * @param over the last tick that is over
   * @return empty if it has no place there: it stays in hindsight
   */
  static Optional<Stage> add(Onto on, Taken note, boolean forBegin, long over) {
    LoopRecording recording = on.recording();
    Optional<Loop> sounding = on.loopAt(note.meant());
    boolean covered = recording.covers(note.tick()) || forBegin && note.tick() < recording.until();
    if (!covered || sounding.isEmpty()) {
      return Optional.empty();
    }
    Loop loop = sounding.get();
    Note placed = note.at(loop.placeAt(note.meant()));
    if (!recording.takes(placed, loop.window()) || recording.rests(note.meant(), loop)) {
      return Optional.empty();
    }
    long played = Math.max(note.tick(), recording.from());
    long meantPass = recording.passBegin(note.meant(), loop);
    // off the grid it stays where it was played, but counts for the pass that begins
    long line = recording.nextBegin(played, loop);
    boolean forPass = placed.isAsPlayed() && isEarlyForPass(on, played, line);
    boolean movedOver = forPass || meantPass > recording.passBegin(played, loop);
    boolean early = played + recording.edgeOf(placed) >= line;
    boolean rests = recording.rests(played, loop);
    boolean moved = movedOver || rests;
    // at the line itself: what was mended since, with all that was played before it, is over
    long counts = forPass || early && !moved ? line : moved ? note.meant() : played;
    Lap target = recording.lapAt(counts, loop);
    boolean own = recording.way() == Way.TAKES && meantPass < recording.until() || rests;
    if (movedOver && !own && !target.isPlayed()) {
      Lap before = recording.lapAt(played, loop);
      target = before.hasLayer() ? before : target;
    }
    if (isUndone(on, target) || isFull(on, target)) {
      return Optional.empty();
    }
    PartId part = on.part();
    Laps.Layered layered = Laps.layered(on.stage(), part, target);
    long meant = forPass ? line : note.meant();
    Lap lap = layered.lap().with(new Brought(Kind.NOTE, note.id(), note.tick(), meant));
    Stage added =
        Laps.mapLayer(layered.stage(), part, recording.clip(), lap, layer -> layer.with(placed));
    added = Laps.withLap(added, part, lap);
    if (!movedOver) {
      added = drawnOver(added, part, lap);
    }
    Optional<Vamp> now = added.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    if (now.isPresent()) {
      long forget = note.tick() - 2 * loop.length();
      Vamp heard = now.get().hearing(note.id(), note.meant(), forget);
      added = added.mapOn(part, p -> p.withVamp(heard));
    }
    return Optional.of(
        Laps.finishedLap(TakingOut.takeOut(added, part, over), part, lap.begin(), over));
  }

  private static boolean isEarlyForPass(Onto on, long played, long line) {
    LoopRecording recording = on.recording();
    boolean inFirst = recording.closed().isPresent() && played < recording.closed().getAsLong();
    return recording.way() == Way.ADD
        && !inFirst
        && line < recording.until()
        && line - played <= EarlyNotes.toleranceOnto(InputGrid.OFF, line, on.meter(), on.map());
  }

  /** Whether the take that a lap records onto has as many notes as fit. */
  static boolean isFull(Onto on, Lap lap) {
    int take = on.recording().way() == Way.TAKES ? lap.take() : on.recording().take();
    return on.clip().findTake(take).map(Take::noteCount).orElse(0) >= Clip.MOST_NOTES;
  }

  /** Whether a pass has brought a take that is gone: it takes nothing any more. */
  private static boolean isUndone(Onto on, Lap lap) {
    return lap.hasLayer() && on.clip().findTake(lap.take()).isEmpty();
  }

  /**
   * Notes that were moved over the line stay with their own pass until the pass that they were
   * moved to has another note; then they join that.
   */
  private static Stage drawnOver(Stage stage, PartId part, Lap lap) {
    Onto on = Onto.of(stage, part).orElseThrow();
    LoopRecording recording = on.recording();
    long begin = lap.begin();
    if (recording.closed().isPresent() && begin < recording.closed().getAsLong()) {
      return stage;
    }
    Stage next = stage;
    for (Lap other : recording.lapsNear(begin, on.meter().barTicks())) {
      for (Brought one : other.brought()) {
        boolean over =
            one.kind() == Kind.NOTE
                && other.begin() < begin
                && one.tick() < begin
                && one.meant() >= begin
                && other.layer() != 0
                && isLineAfter(on, one.tick(), begin);
        if (over) {
          next = moved(next, part, one, other.begin(), begin);
        }
      }
    }
    return next;
  }

  /** Whether a pass began there, of the loop as it went round when something was played. */
  private static boolean isLineAfter(Onto on, long played, long begin) {
    return on.loopAt(played)
        .filter(loop -> on.recording().nextBegin(played, loop) == begin)
        .isPresent();
  }

  private static Stage moved(Stage stage, PartId part, Brought one, long from, long to) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Lap source = Laps.lap(recording, from);
    Lap target = Laps.lap(recording, to);
    Optional<Note> note =
        stage.clip(part, recording.clip()).take(source.take()).layer(source.layer()).stream()
            .flatMap(layer -> layer.notes().stream())
            .filter(n -> n.id() == one.id())
            .findFirst();
    if (note.isEmpty()) {
      return stage;
    }
    Stage next =
        Laps.mapLayer(
            stage, part, recording.clip(), source, layer -> layer.where(n -> n.id() != one.id()));
    next = Laps.mapLayer(next, part, recording.clip(), target, layer -> layer.with(note.get()));
    List<Brought> rest = new ArrayList<>(source.brought());
    rest.remove(one);
    next = Laps.withLap(next, part, source.withBrought(rest));
    next = Laps.withLap(next, part, target.with(one));
    return Laps.withoutEmpty(next, part, source.begin());
  }

  /**
   * Adds a move of a controller. One that follows the one before within a moment takes its place.
   *
   * @param move as it was made
   * @param over the last tick that is over
   */
  public static Optional<Stage> add(Stage stage, PartId part, PlayedMove move, long over) {
    return Onto.of(stage, part).flatMap(on -> add(on, move, over));
  }

  private static Optional<Stage> add(Onto on, PlayedMove move, long over) {
    LoopRecording recording = on.recording();
    PartId part = on.part();
    long tick = on.map().tickAt(move.micros());
    long within = on.map().ticksBefore(tick, ControllerMoves.APART);
    Optional<Loop> sounding = on.loopAt(tick);
    if (!recording.covers(tick) || sounding.isEmpty()) {
      return Optional.empty();
    }
    Loop loop = sounding.get();
    long place = loop.placeAt(tick);
    boolean full =
        on.clip().findTake(recording.take()).map(Take::moveCount).orElse(0) >= Clip.MOST_MOVES;
    boolean before = loop.vamp().from() > tick && recording.closed().isEmpty();
    if (!recording.takesAt(place) || recording.rests(tick, loop) || full || before) {
      return Optional.empty();
    }
    Lap lap = recording.lapAt(tick, loop);
    if (isUndone(on, lap)) {
      return Optional.empty();
    }
    Laps.Layered layered = Laps.layered(on.stage(), part, lap);
    ControllerMove placed = new ControllerMove(move.controller(), place, move.value());
    Optional<ControllerMove> sooner = sooner(layered, part, recording.clip(), placed, within);
    Stage added;
    if (sooner.isPresent()) {
      long id = sooner.get().id();
      added =
          Laps.mapLayer(
              layered.stage(),
              part,
              recording.clip(),
              layered.lap(),
              layer -> layer.mapMoves(m -> m.id() == id ? m.withValue(placed.value()) : m));
      added = Laps.withLap(added, part, layered.lap());
    } else {
      added = withMove(layered, part, recording.clip(), placed, tick);
    }
    return Optional.of(
        Laps.finishedLap(TakingOut.takeOut(added, part, over), part, lap.begin(), over));
  }

  static Stage withMove(
      Laps.Layered layered, PartId part, ClipId clip, ControllerMove move, long tick) {
    Lap lap = layered.lap();
    long id = layered.stage().clip(part, clip).take(lap.take()).nextMove();
    Stage added =
        Laps.mapTake(
            layered.stage(), part, clip, lap.take(), take -> take.withMove(lap.layer(), move));
    return Laps.withLap(added, part, lap.with(new Brought(Kind.MOVE, id, tick, tick)));
  }

  /** The latest move of a controller in a lap's layer, if another one follows it too soon. */
  private static Optional<ControllerMove> sooner(
      Laps.Layered layered, PartId part, ClipId clip, ControllerMove move, long within) {
    List<ControllerMove> moves =
        layered
            .stage()
            .clip(part, clip)
            .take(layered.lap().take())
            .layer(layered.lap().layer())
            .stream()
            .flatMap(layer -> layer.moves().stream())
            .filter(m -> m.controller().equals(move.controller()))
            .toList();
    return moves.isEmpty()
        ? Optional.empty()
        : Optional.of(moves.get(moves.size() - 1))
            .filter(m -> move.place() >= m.place() && move.place() - m.place() < within);
  }
}
