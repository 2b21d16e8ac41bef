package ancora.core.rules.recording;

import ancora.core.clip.Clip;
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
import ancora.core.vamp.Vamp;
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
    Optional<LoopRecording> open = stage.on(part).open().filter(r -> r.way().takesOut());
    Optional<Vamp> vamp =
        stage.on(part).vamp().filter(v -> open.filter(r -> r.clip().equals(v.clip())).isPresent());
    if (vamp.isEmpty()) {
      return stage;
    }
    return open.get().way() == Way.REPLACE
        ? replaced(stage, part, open.get(), vamp.get(), tick)
        : punched(stage, part, open.get(), vamp.get(), tick);
  }

  private static Stage replaced(
      Stage stage, PartId part, LoopRecording recording, Vamp vamp, long tick) {
    Clip clip = stage.clip(part, recording.clip());
    long from = Math.max(recording.outFrom(), vamp.from());
    long last = Endings.ownEnd(stage, part).orElse(Ticks.OPEN);
    Passing stretch =
        new Passing(
            from, from == recording.since() && isBarLine(stage, vamp, clip, from), last, true);
    List<Brought> passed = passed(clip, recording, recording.old(), vamp, stretch, tick);
    Stage next = stage;
    for (Brought out : passed) {
      LoopRecording now = next.on(part).recording().orElseThrow();
      Lap lap = now.lapAt(out.tick(), vamp, clip.window());
      next = takenOut(next, part, lap, List.of(out));
    }
    return next;
  }

  /** In a pass in which nothing is played, a punch takes out nothing. */
  private static Stage punched(
      Stage stage, PartId part, LoopRecording recording, Vamp vamp, long tick) {
    Clip clip = stage.clip(part, recording.clip());
    Stage next = stage;
    for (Lap lap : recording.laps()) {
      if (lap.isPlayed() && !lap.ended()) {
        long from = Math.max(lap.begin(), Math.max(recording.outFrom(), vamp.from()));
        long end = recording.lapEnd(lap, vamp, clip.window());
        List<Brought> passed =
            passed(
                clip,
                recording,
                lap.layer(),
                vamp,
                new Passing(
                    from,
                    from == lap.begin() && isLine(vamp, clip, from),
                    end,
                    isLine(vamp, clip, end)),
                Math.min(tick, end - 1));
        Lap present = Laps.lap(next.on(part).recording().orElseThrow(), lap.begin());
        next = passed.isEmpty() ? next : takenOut(next, part, present, passed);
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
  private static List<Brought> passed(
      Clip clip, LoopRecording recording, int below, Vamp vamp, Passing stretch, long tick) {
    long from = stretch.from();
    if (tick < from) {
      return List.of();
    }
    LoopWindow window = clip.window();
    Take take = clip.take(recording.take());
    List<Brought> passed = new ArrayList<>();
    for (Note note : old(take, below)) {
      if (!window.contains(note.meant())) {
        continue;
      }
      long edge = recording.edgeOf(note);
      long at = vamp.passed(note.meant(), stretch.from(edge), window);
      boolean goes = recording.takes(note, window) && at <= tick && at < stretch.end(edge);
      if (!goes && note.isPedal()) {
        long begin = beginOf(recording, from, vamp, window);
        at = begin;
        goes = begin <= tick && isUnderWay(note, begin, vamp, window);
      }
      if (goes) {
        passed.add(new Brought(Kind.NOTE_OUT, note.id(), at, at));
      }
    }
    for (ControllerMove move : oldMoves(take, below)) {
      long at = window.contains(move.place()) ? vamp.passed(move.place(), from, window) : tick + 1;
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
  public static boolean isBarLine(Stage stage, Vamp vamp, Clip clip, long tick) {
    return (tick - vamp.lineBy(tick, clip.window())) % stage.show().meter().barTicks() == 0;
  }

  /** Whether a pass begins or ends at a tick. */
  private static boolean isLine(Vamp vamp, Clip clip, long tick) {
    LoopWindow window = clip.window();
    return vamp.lineBy(tick, window) == tick
        || vamp.lineBy(tick - 1, window) + window.length() == tick;
  }

  /** The tick from one on at which the stretch begins in which old things go. */
  static long beginOf(LoopRecording recording, long from, Vamp vamp, LoopWindow window) {
    if (recording.range().isEmpty()) {
      return from;
    }
    long place = vamp.placeAt(from, window);
    return recording.takesAt(place)
        ? from
        : vamp.passed(recording.range().get().from(), from, window);
  }

  private static boolean isUnderWay(Note note, long tick, Vamp vamp, LoopWindow window) {
    long begin = vamp.tickBefore(note.meant(), tick, window);
    return begin + Math.min(note.length(), window.length()) > tick;
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
