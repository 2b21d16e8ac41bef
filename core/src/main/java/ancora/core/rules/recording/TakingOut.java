package ancora.core.rules.recording;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.record.Lap;
import ancora.core.record.Lap.Brought;
import ancora.core.record.Lap.Kind;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.time.Ticks;
import ancora.core.vamp.Loop;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Old notes and moves are taken out where their places go by: replace and punch (rule 7). */
public final class TakingOut {

  private TakingOut() {}

  // what is taken out

  /** What has been passed by a tick is taken out, wherever something is replaced or erased. */
  public static Stage passTo(Stage stage, long tick) {
    Stage next = stage;
    for (PartId part : stage.partStages().keySet()) {
      next = takeOut(next, part, tick);
    }
    return Erasing.passTo(next, tick);
  }

  static Stage takeOut(Stage stage, PartId part, long tick) {
    Optional<Onto> on =
        Onto.of(stage, part).filter(o -> o.recording().isOpen() && o.recording().way().takesOut());
    Optional<Loop> loop = on.flatMap(Onto::loop);
    if (loop.isEmpty()) {
      return stage;
    }
    return on.get().recording().way() == Way.REPLACE
        ? replaced(on.get(), loop.get(), tick)
        : punched(on.get(), loop.get(), tick);
  }

  private static Stage replaced(Onto on, Loop loop, long tick) {
    LoopRecording recording = on.recording();
    long from = Math.max(recording.outFrom(), loop.vamp().from());
    long last = Endings.ownEnd(on.stage(), on.part()).orElse(Ticks.OPEN);
    boolean atLine = from == recording.since() && isBarLine(on.stage(), loop, from);
    Passing stretch = new Passing(from, atLine, last, true);
    Stage next = on.stage();
    for (Brought out : passed(on, recording.old(), loop, stretch, tick)) {
      Lap lap = next.on(on.part()).recording().orElseThrow().lapAt(out.tick(), loop);
      next = isOff(next, on, lap) ? next : takenOut(next, on.part(), lap, List.of(out));
    }
    return next;
  }

  /** What a layer that was peeled off would take out stays: it is passed again and again. */
  private static boolean isOff(Stage stage, Onto on, Lap lap) {
    return lap.hasLayer()
        && stage.clip(on.part(), on.clip().id()).findTake(lap.take()).stream()
            .flatMap(take -> take.off().stream())
            .anyMatch(layer -> layer.number() == lap.layer());
  }

  /** In a pass in which nothing is played, a punch takes out nothing. */
  private static Stage punched(Onto on, Loop loop, long tick) {
    LoopRecording recording = on.recording();
    Stage next = on.stage();
    for (Lap lap : recording.laps()) {
      if (lap.isPlayed() && !lap.ended()) {
        long from = Math.max(lap.begin(), Math.max(recording.outFrom(), loop.vamp().from()));
        long end = recording.lapEnd(lap, loop);
        boolean atLine = from == lap.begin() && isLine(loop, from);
        Passing stretch = new Passing(from, atLine, end, isLine(loop, end));
        List<Brought> passed = passed(on, lap.layer(), loop, stretch, Math.min(tick, end - 1));
        Lap present = Laps.lap(next.on(on.part()).recording().orElseThrow(), lap.begin());
        next = passed.isEmpty() ? next : takenOut(next, on.part(), present, passed);
      }
    }
    return next;
  }

  /**
   * A stretch in which old things go.
   *
   * @param from its first tick
   * @param beginsAtLine whether that is a line: what was early for it goes too
   * @param end the first tick after it
   * @param endsAtLine whether that is a line: what was early for it stays
   */
  private record Passing(long from, boolean beginsAtLine, long end, boolean endsAtLine) {

    /** The first tick at which a note may be passed that counts for a line so much after it. */
    long from(long edge) {
      return beginsAtLine ? from - edge : from;
    }

    long end(long edge) {
      return endsAtLine ? end - edge : end;
    }
  }

  /**
   * The old notes and moves that are passed in a stretch up to a tick, in the order in which they
   * are. A pedal that is down at the first goes there.
   *
   * @param below layers with a lower number are old
   */
  private static List<Brought> passed(Onto on, int below, Loop loop, Passing stretch, long tick) {
    long from = stretch.from();
    if (tick < from) {
      return List.of();
    }
    LoopRecording recording = on.recording();
    LoopWindow window = loop.window();
    Take take = on.clip().take(recording.take());
    List<Brought> passed = new ArrayList<>();
    for (Note note : old(take, below)) {
      if (!window.contains(note.meant())) {
        continue;
      }
      long edge = recording.edgeOf(note);
      long at = loop.passed(note.meant(), stretch.from(edge));
      boolean goes = recording.takes(note, window) && at <= tick && at < stretch.end(edge);
      if (!goes && note.isPedal()) {
        long begin = beginOf(recording, from, loop);
        at = begin;
        goes = begin <= tick && isUnderWay(note, begin, loop);
      }
      if (goes) {
        passed.add(new Brought(Kind.NOTE_OUT, note.id(), at, at));
      }
    }
    for (ControllerMove move : oldMoves(take, below)) {
      long at = window.contains(move.place()) ? loop.passed(move.place(), from) : tick + 1;
      if (at <= tick && recording.takesAt(move.place())) {
        passed.add(new Brought(Kind.MOVE_OUT, move.id(), at, at));
      }
    }
    passed.sort(
        Comparator.comparingLong(Brought::tick)
            .thenComparing(Brought::kind)
            .thenComparingLong(Brought::id));
    return passed;
  }

  /** Whether a tick is a whole number of bars from a line of the loop. */
  public static boolean isBarLine(Stage stage, Loop loop, long tick) {
    return (tick - loop.lineBy(tick)) % stage.show().meter().barTicks() == 0;
  }

  /** Whether a pass begins or ends at a tick. */
  private static boolean isLine(Loop loop, long tick) {
    return loop.lineBy(tick) == tick || loop.lineBy(tick - 1) + loop.length() == tick;
  }

  /** The tick from one on at which the stretch begins in which old things go. */
  static long beginOf(LoopRecording recording, long from, Loop loop) {
    if (recording.range().isEmpty()) {
      return from;
    }
    long place = loop.placeAt(from);
    return recording.takesAt(place) ? from : loop.passed(recording.range().get().from(), from);
  }

  private static boolean isUnderWay(Note note, long tick, Loop loop) {
    long begin = loop.tickBefore(note.meant(), tick);
    return begin + Math.min(note.length(), loop.length()) > tick;
  }

  private static List<Note> old(Take take, int below) {
    Set<Long> out = take.notesOut();
    return take.layers().stream()
        .filter(layer -> layer.number() < below)
        .flatMap(layer -> layer.notes().stream())
        .filter(note -> !out.contains(note.id()))
        .toList();
  }

  private static List<ControllerMove> oldMoves(Take take, int below) {
    Set<Long> there =
        take.layers().stream()
            .filter(layer -> layer.number() < below)
            .flatMap(layer -> layer.moves().stream())
            .map(ControllerMove::id)
            .collect(Collectors.toSet());
    return take.soundingMoves().filter(move -> there.contains(move.id())).toList();
  }

  private static Stage takenOut(Stage stage, PartId part, Lap lap, List<Brought> out) {
    Laps.Layered layered = Laps.layered(stage, part, lap);
    ClipId clip = stage.on(part).recording().orElseThrow().clip();
    Stage next =
        Laps.mapLayer(
            layered.stage(),
            part,
            clip,
            layered.lap(),
            layer -> layer.takingOut(ids(out, Kind.NOTE_OUT), ids(out, Kind.MOVE_OUT)));
    Lap brought = layered.lap();
    for (Brought one : out) {
      brought = brought.with(one);
    }
    return Laps.withLap(next, part, brought);
  }

  static List<Long> ids(List<Brought> brought, Kind kind) {
    return brought.stream().filter(b -> b.kind() == kind).map(Brought::id).toList();
  }
}
