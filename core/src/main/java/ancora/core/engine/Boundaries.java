package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Steps;
import ancora.core.rules.cues.Forms;
import ancora.core.rules.mending.Taking;
import ancora.core.rules.press.Arming;
import ancora.core.rules.recording.Breathers;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.Laps;
import ancora.core.rules.recording.NoteTaking;
import ancora.core.rules.recording.Releasing;
import ancora.core.rules.recording.Repeats;
import ancora.core.rules.recording.Sounding;
import ancora.core.rules.recording.TakingOut;
import ancora.core.rules.recording.Transition;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.Hands;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import ancora.core.vamp.Cue;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.LongStream;

/** What takes effect by itself as time passes: closings, cues, sections, changes of windows. */
final class Boundaries {

  private Boundaries() {}

  /**
   * Something that takes effect at a tick.
   *
   * @param rank what comes first on one tick
   */
  private record Due(long tick, int rank, UnaryOperator<Stage> effect) {}

  private static final Comparator<Due> ORDER =
      Comparator.comparingLong(Due::tick).thenComparingInt(Due::rank);

  /** Lets time pass: what is due by an instant takes effect, in order. */
  static Stage pass(Stage stage, long now) {
    Stage next = stage;
    while (next.map().isPresent()) {
      TempoMap map = next.map().get();
      Optional<Due> due = first(next, now);
      long over = map.lastTickBy(now);
      // what is repeated may bring about that something is due, such as the end of a punch
      long line = Math.min(Repeats.nextLine(next), over);
      if (due.isPresent() && due.get().tick() <= line) {
        Stage passed = passTo(next, due.get().tick() - 1);
        // what was taken out until then may have made a pass that is over, and is a step before it
        Due first = first(passed, now).orElseThrow();
        next = endWaits(first.effect().apply(passed), first.tick());
      } else {
        next = passTo(next, line);
        if (line == over) {
          return next;
        }
      }
    }
    return next;
  }

  private static Optional<Due> first(Stage stage, long now) {
    TempoMap map = stage.map().orElseThrow();
    return dues(stage).stream().filter(d -> map.microsOf(d.tick()) <= now).min(ORDER);
  }

  /** What waited for something waits no longer where that is over, or gone. */
  static Stage endWaits(Stage stage, long tick) {
    return Breathers.endWhereOver(Arming.armWhatWaits(Taking.withoutTakesGone(stage)), tick);
  }

  /** What is repeated is recorded, and then what is mended is taken out, as far as a tick. */
  private static Stage passTo(Stage stage, long tick) {
    return TakingOut.passTo(Repeats.passTo(stage, tick), tick);
  }

  /** The ticks at which something takes effect by itself. */
  static LongStream ticks(Stage stage) {
    return dues(stage).stream().mapToLong(Due::tick);
  }

  private static List<Due> dues(Stage stage) {
    List<Due> dues = new ArrayList<>();
    stage.form().next().ifPresent(next -> dues.add(new Due(next.at(), 4, Forms::enter)));
    stage.hands().handOvers().forEach(over -> addHandOver(dues, stage, over));
    for (Part part : stage.show().parts()) {
      PartId id = part.id();
      PartStage on = stage.on(id);
      on.first().ifPresent(first -> addFirst(dues, stage, id, on, first));
      on.open().ifPresent(recording -> addRecording(dues, stage, id));
      on.change().ifPresent(change -> dues.add(new Due(change.at(), 2, s -> reshape(s, id))));
      on.hears().ifPresent(hears -> dues.add(new Due(hears.at(), 2, s -> Taking.enter(s, id))));
      on.cue().ifPresent(cue -> dues.add(new Due(cue.at(), 3, s -> enter(s, id, cue))));
    }
    return dues;
  }

  /**
   * What was recorded goes on to the line at which the next part takes over; what was begun since
   * is nothing of that.
   */
  private static void addHandOver(List<Due> dues, Stage stage, Hands.HandOver over) {
    boolean before =
        stage.on(over.from()).open().filter(open -> open.from() < over.at()).isPresent();
    if (over.isToCome() && before) {
      dues.add(new Due(over.at(), 1, s -> Endings.endAll(s, over.from(), over.at())));
    }
  }

  /** A pass that is over is a step; replace and punch end by themselves. */
  private static void addRecording(List<Due> dues, Stage stage, PartId part) {
    boolean sounds =
        stage
            .on(part)
            .vamp()
            .filter(v -> v.clip().equals(stage.on(part).open().get().clip()))
            .isPresent();
    if (!sounds) {
      return;
    }
    Laps.nextToEnd(stage, part)
        .ifPresent(
            lap ->
                dues.add(
                    new Due(
                        Laps.endOf(stage, part, lap), 0, s -> Laps.endLap(s, part, lap.begin()))));
    LoopRecording recording = stage.on(part).open().get();
    if (recording.asked().isPresent()) {
      dues.add(new Due(recording.since(), 0, s -> begun(s, part)));
    }
    if (recording.way() == Way.REPLACE && !recording.hasLapAt(recording.line())) {
      // what it has taken out by then is known only when time has come to that line
      dues.add(new Due(recording.line(), 0, s -> Laps.reachLine(s, part, recording.line())));
    }
    Endings.ownEnd(stage, part)
        .ifPresent(end -> dues.add(new Due(end, 1, s -> Endings.end(s, part, end))));
  }

  private static Stage begun(Stage stage, PartId part) {
    return stage.mapOn(part, on -> on.withRecording(on.recording().map(LoopRecording::begun)));
  }

  private static void addFirst(
      List<Due> dues, Stage stage, PartId part, PartStage on, FirstRecording first) {
    if (on.vamp().isPresent()) {
      dues.add(new Due(first.start(), 3, s -> giveWay(s, part, first.start())));
    }
    if (first.isClosing()) {
      dues.add(new Due(first.until(), 0, s -> FirstRecordings.close(s, part, false, false)));
      return;
    }
    long longest = FirstRecordings.lengths(stage, part).longestAllowed();
    long end = first.start() + longest;
    long bar = stage.show().meter().barTicks();
    dues.add(
        new Due(
            end - bar,
            0,
            s -> s.mapOn(part, p -> p.withFirst(p.first().orElseThrow().withSet(end)))));
  }

  /** What vamps is over where a recording begins; what was played since is the recording's. */
  private static Stage giveWay(Stage stage, PartId part, long start) {
    double micros = stage.map().orElseThrow().microsOf(start);
    long at = Ticks.round(micros);
    return NoteTaking.takeFromHindsight(
        leave(stage, part, start), part, micros, new Moment(at, at, at));
  }

  /** What vamps is over at a tick. */
  static Stage leave(Stage stage, PartId part, long tick) {
    Optional<Vamp> vamp = stage.on(part).vamp();
    if (vamp.isEmpty()) {
      return stage;
    }
    Stage mended = Endings.endAll(stage, part, tick);
    Clip clip = mended.clip(part, vamp.get().clip());
    boolean letRing = mended.show().part(part).leaving() == Leaving.LET_RING;
    return Transition.to(mended, part, tick, clip, Optional.empty(), letRing)
        .mapOn(
            part,
            on ->
                on.withChange(Optional.empty())
                    .withHears(Optional.empty())
                    .withStutter(Optional.empty()));
  }

  private static Stage enter(Stage stage, PartId part, Cue cue) {
    return leave(stage, part, cue.at())
        .mapOn(
            part,
            on ->
                on.withCue(cue.after(cue.at()))
                    .withVamp(
                        cue.clip()
                            .map(
                                clip ->
                                    Vamp.of(clip, cue.phase(), cue.at()).withEntry(cue.entry()))));
  }

  /** A clip that sounds gets another window; what is recorded onto it goes on in another layer. */
  private static Stage reshape(Stage stage, PartId part) {
    WindowChange change = stage.on(part).change().orElseThrow();
    Stage bare = stage.mapOn(part, p -> p.withChange(Optional.empty()));
    if (stage.on(part).vamp().isEmpty()) {
      return bare;
    }
    Vamp vamp = stage.on(part).vamp().get();
    Clip clip = stage.clip(part, vamp.clip());
    Clip changed = change.of(clip, stage.show().nextId());
    Stage cut =
        Sounding.isShort(stage, changed)
            ? bare.on(part).open().isPresent() ? Endings.end(bare, part, change.at()) : bare
            : Laps.cut(bare, part, change.at());
    Clip now = cut.clip(part, vamp.clip());
    Clip reshaped = change.of(now, cut.show().nextId());
    Stage next =
        Transition.toWindow(
            Steps.counted(cut.withClip(part, reshaped)),
            part,
            change.at(),
            now,
            reshaped,
            recording -> recording);
    for (WindowChange.Beside other : change.beside()) {
      Optional<Clip> beside = next.show().part(part).clip(other.clip());
      if (beside.isPresent()) {
        Clip also = WindowChange.of(other, beside.get(), next.show().nextId());
        next = Steps.counted(next.withClip(part, also));
      }
    }
    next = Laps.withoutGone(Releasing.copiedLater(next, part, now, reshaped), part, now);
    return Steps.notedWindow(
        cut, next, change.reshapings(), Steps.name(stage, part, clip), change.asked());
  }
}
