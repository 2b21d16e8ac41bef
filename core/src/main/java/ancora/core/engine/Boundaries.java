package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.Reshaping;
import ancora.core.record.FirstRecording;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.time.TempoMap;
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
      Optional<Due> due = dues(next).stream().filter(d -> map.microsOf(d.tick()) <= now).min(ORDER);
      if (due.isEmpty()) {
        return passTo(next, map.lastTickBy(now));
      }
      next = due.get().effect().apply(passTo(next, due.get().tick() - 1));
    }
    return next;
  }

  /** What is repeated is recorded, and then what is mended is taken out, as far as a tick. */
  private static Stage passTo(Stage stage, long tick) {
    return Mends.passTo(Repeats.passTo(stage, tick), tick);
  }

  /** The ticks at which something takes effect by itself. */
  static LongStream ticks(Stage stage) {
    return dues(stage).stream().mapToLong(Due::tick);
  }

  private static List<Due> dues(Stage stage) {
    List<Due> dues = new ArrayList<>();
    stage.form().next().ifPresent(next -> dues.add(new Due(next.at(), 3, Forms::enter)));
    stage.hands().handOver().ifPresent(over -> addHandOver(dues, stage, over));
    for (Part part : stage.show().parts()) {
      PartStage on = stage.on(part.id());
      on.first().ifPresent(first -> addFirst(dues, stage, part.id(), on, first));
      on.change()
          .ifPresent(change -> dues.add(new Due(change.at(), 1, s -> reshape(s, part.id()))));
      on.cue().ifPresent(cue -> dues.add(new Due(cue.at(), 2, s -> enter(s, part.id(), cue))));
    }
    return dues;
  }

  /** What was mended or taken goes on to the line at which the next part takes over. */
  private static void addHandOver(List<Due> dues, Stage stage, Hands.HandOver over) {
    boolean open =
        stage.on(over.from()).overdub().filter(o -> o.isOpen() && !o.isAdding()).isPresent();
    if (open) {
      dues.add(new Due(over.at(), 1, s -> Mends.end(s, over.from(), over.at())));
    }
  }

  private static void addFirst(
      List<Due> dues, Stage stage, PartId part, PartStage on, FirstRecording first) {
    if (on.vamp().isPresent()) {
      dues.add(new Due(first.start(), 2, s -> leave(s, part, first.start())));
    }
    if (first.isClosing()) {
      dues.add(new Due(first.until(), 0, s -> FirstRecordings.close(s, part, false)));
      return;
    }
    long bar = stage.show().meter().barTicks();
    long end = first.start() + RecordingSettings.MOST_BARS * bar;
    dues.add(new Due(end - bar, 0, s -> FirstRecordings.withUntil(s, part, end)));
  }

  /** What vamps is over at a tick. */
  static Stage leave(Stage stage, PartId part, long tick) {
    Optional<Vamp> vamp = stage.on(part).vamp();
    if (vamp.isEmpty()) {
      return stage;
    }
    Stage mended = Mends.end(stage, part, tick);
    Clip clip = mended.clip(part, vamp.get().clip());
    boolean letRing = mended.show().part(part).leaving() == Leaving.LET_RING;
    boolean sounded = vamp.get().from() < tick;
    return mended.mapOn(
        part,
        on ->
            on.withVamp(Optional.empty())
                .withChange(Optional.empty())
                .withOverdub(on.overdub().map(o -> o.isOpen() ? o.withUntil(tick) : o))
                .withLeft(
                    sounded ? on.vamp().map(v -> new Left(v, clip, tick, letRing)) : on.left()));
  }

  private static Stage enter(Stage stage, PartId part, Cue cue) {
    return leave(stage, part, cue.at())
        .mapOn(
            part,
            on ->
                on.withCue(Optional.empty())
                    .withVamp(
                        cue.clip()
                            .map(
                                clip ->
                                    Vamp.of(clip, cue.phase(), cue.at()).withEntry(cue.entry()))));
  }

  /** A clip that sounds gets another window, or another take. */
  private static Stage reshape(Stage before, PartId part) {
    ClipChange change = before.on(part).change().orElseThrow();
    if (before.on(part).vamp().isEmpty()) {
      return before.mapOn(part, p -> p.withChange(Optional.empty()));
    }
    Stage stage = Mends.end(before, part, change.at());
    PartStage on = stage.on(part);
    Vamp vamp = on.vamp().get();
    Clip clip = stage.clip(part, vamp.clip());
    ClipChange.Changed changed = change.of(vamp, clip, stage.show().nextId());
    boolean rings =
        !(change.reshaping() instanceof Reshaping.ToTake)
            || stage.show().part(part).leaving() == Leaving.LET_RING;
    Stage next =
        Edits.counted(stage.withClip(part, changed.clip()))
            .mapOn(
                part,
                p ->
                    p.withChange(Optional.empty())
                        .withVamp(changed.vamp())
                        .withLeft(
                            vamp.from() < change.at()
                                ? Optional.of(new Left(vamp, clip, change.at(), rings))
                                : p.left()));
    return Edits.noted(
        stage, next, Edits.words(change.reshaping()) + " in " + Edits.name(stage, part, clip));
  }
}
