package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.ControllerMove;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.record.EarlyNotes;
import ancora.core.record.Lap;
import ancora.core.record.Lap.Brought;
import ancora.core.record.Lap.Kind;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
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
   * @param note with its onsets as ticks of the transport
   * @param forBegin whether it is early for the line at which the recording begins
   * @param over the last tick that is over
   * @return empty if it has no place there: it stays in hindsight
   */
  static Optional<Stage> add(Stage stage, PartId part, Note note, boolean forBegin, long over) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    Optional<Vamp> sounding = Sounding.vampAt(stage, part, recording.clip(), note.meant());
    Optional<Clip> shelved = stage.show().part(part).clip(recording.clip());
    if (sounding.isEmpty() || shelved.isEmpty()) {
      return Optional.empty();
    }
    Vamp vamp = sounding.get();
    LoopWindow window = Sounding.windowAt(stage, part, vamp, shelved.get());
    boolean covered =
        recording.covers(note.played()) || forBegin && note.played() < recording.until();
    long place = vamp.placeAt(note.meant(), window);
    if (!covered
        || !recording.takes(note.meantAt(place), window)
        || recording.rests(note.meant(), vamp, window)) {
      return Optional.empty();
    }
    long loop = window.length();
    long played = Math.max(note.played(), recording.from());
    long meantPass = recording.passBegin(note.meant(), vamp, window);
    // off the grid it stays where it was played, but counts for the pass that begins
    long line = recording.nextBegin(played, vamp, window);
    boolean forPass = note.isAsPlayed() && isEarlyForPass(stage, recording, played, line);
    boolean movedOver = forPass || meantPass > recording.passBegin(played, vamp, window);
    long early = played + recording.edgeOf(note);
    boolean rests = recording.rests(played, vamp, window);
    long counts =
        forPass ? line : movedOver || rests ? note.meant() : early >= line ? early : played;
    Lap target = recording.lapAt(counts, vamp, window);
    boolean own = recording.way() == Way.TAKES && meantPass < recording.until() || rests;
    if (movedOver && !own && !hasOwn(target)) {
      Lap before = recording.lapAt(played, vamp, window);
      target = before.hasLayer() ? before : target;
    }
    if (isUndone(shelved.get(), target) || isFull(shelved.get(), recording, target)) {
      return Optional.empty();
    }
    Note placed =
        new Note(
            note.id(),
            note.pitch(),
            note.velocity(),
            place + note.played() - note.meant(),
            place,
            note.length(),
            note.held());
    Laps.Layered layered = Laps.layered(stage, part, target);
    long meant = forPass ? line : note.meant();
    Lap lap = layered.lap().with(new Brought(Kind.NOTE, note.id(), note.played(), meant));
    Stage added =
        Laps.mapLayer(layered.stage(), part, recording.clip(), lap, layer -> layer.with(placed));
    added = Laps.withLap(added, part, lap);
    if (!movedOver) {
      added = drawnOver(added, part, lap, vamp, window);
    }
    Optional<Vamp> now = added.on(part).vamp().filter(v -> v.clip().equals(recording.clip()));
    if (now.isPresent()) {
      Vamp heard = now.get().hearing(note.id(), note.meant(), note.played() - 2 * loop);
      added = added.mapOn(part, p -> p.withVamp(heard));
    }
    return Optional.of(
        Laps.finishedLap(TakingOut.takeOut(added, part, over), part, lap.begin(), over));
  }

  private static boolean isEarlyForPass(
      Stage stage, LoopRecording recording, long played, long line) {
    boolean inFirst = recording.closed().isPresent() && played < recording.closed().getAsLong();
    return recording.way() == Way.ADD
        && !inFirst
        && line < recording.until()
        && line - played
            <= EarlyNotes.toleranceOnto(
                InputGrid.OFF, line, stage.show().meter(), stage.map().orElseThrow());
  }

  /** The take that a pass has brought by now that goes on at a tick. */
  static Optional<Take> takeAt(Stage stage, PartId part, Clip clip, long tick) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    return Sounding.vampAt(stage, part, clip.id(), tick)
        .map(vamp -> recording.lapAt(tick, vamp, Sounding.windowAt(stage, part, vamp, clip)))
        .filter(Lap::hasLayer)
        .flatMap(lap -> clip.findTake(lap.take()));
  }

  /** Whether the take that a lap records onto has as many notes as fit. */
  static boolean isFull(Clip clip, LoopRecording recording, Lap lap) {
    int take = recording.way() == Way.TAKES ? lap.take() : recording.take();
    return clip.findTake(take).map(Take::noteCount).orElse(0) >= Clip.MOST_NOTES;
  }

  /** Whether a pass has brought a take that is gone: it takes nothing any more. */
  private static boolean isUndone(Clip clip, Lap lap) {
    return lap.hasLayer() && clip.findTake(lap.take()).isEmpty();
  }

  private static boolean hasOwn(Lap lap) {
    return lap.isPlayed();
  }

  /**
   * Notes that were moved over the line stay with their own pass until the pass that they were
   * moved to has another note; then they join that.
   */
  private static Stage drawnOver(Stage stage, PartId part, Lap lap, Vamp vamp, LoopWindow window) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    long begin = recording.passBegin(lap.begin(), vamp, window);
    Stage next = stage;
    if (recording.closed().isPresent() && begin < recording.closed().getAsLong()) {
      return stage;
    }
    if (lap.begin() != begin) {
      return stage;
    }
    for (Lap other : recording.lapsNear(begin, stage.show().meter().barTicks())) {
      for (Brought one : other.brought()) {
        boolean over =
            one.kind() == Kind.NOTE
                && other.begin() < begin
                && one.tick() < begin
                && one.meant() >= begin
                && one.meant() < begin + window.length()
                && other.layer() != 0;
        if (over) {
          next = moved(next, part, one, other.begin(), lap.begin());
        }
      }
    }
    return next;
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
   * @param move with its tick of the transport as its place
   * @param within ticks; moves of a controller are at least this far apart
   * @param over the last tick that is over
   */
  public static Optional<Stage> add(
      Stage stage, PartId part, ControllerMove move, long within, long over) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    long tick = move.place();
    Optional<Vamp> vamp = Sounding.vampAt(stage, part, recording.clip(), tick);
    Optional<Clip> clip = stage.show().part(part).clip(recording.clip());
    if (!recording.covers(tick) || vamp.isEmpty() || clip.isEmpty()) {
      return Optional.empty();
    }
    LoopWindow window = Sounding.windowAt(stage, part, vamp.get(), clip.get());
    long place = vamp.get().placeAt(tick, window);
    boolean full =
        clip.get().findTake(recording.take()).map(Take::moveCount).orElse(0) >= Clip.MOST_MOVES;
    boolean before = vamp.get().from() > tick && recording.closed().isEmpty();
    if (!recording.takesAt(place) || recording.rests(tick, vamp.get(), window) || full || before) {
      return Optional.empty();
    }
    Lap lap = recording.lapAt(tick, vamp.get(), window);
    if (isUndone(clip.get(), lap)) {
      return Optional.empty();
    }
    Laps.Layered layered = Laps.layered(stage, part, lap);
    ControllerMove placed = move.withPlace(place);
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
