package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.note.Note;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A loop that was closed later than it was meant to be: made shorter before its first pass is over,
 * it is as if it had been closed there (rule 13).
 */
public final class ClosingSooner {

  private ClosingSooner() {}

  /**
   * A recording closes sooner by some ticks, be that to come, or just gone by; empty where it has
   * not been asked to close, where its first pass is over, or where something was done to it since.
   */
  public static Optional<Stage> by(Stage stage, PartId part, long ticks, Moment moment) {
    Optional<FirstRecording> first = stage.on(part).first();
    if (first.isPresent()) {
      return first
          .filter(f -> f.isAskedToClose() && f.until() - ticks > f.start())
          .map(f -> FirstRecordings.withUntil(stage, part, f.until() - ticks, moment));
    }
    return justClosed(stage, part, ticks, moment).map(clip -> again(stage, part, clip, ticks));
  }

  private static Optional<Clip> justClosed(Stage stage, PartId part, long ticks, Moment moment) {
    PartStage on = stage.on(part);
    Optional<LoopRecording> recording = on.recording().filter(r -> r.closed().isPresent());
    Optional<Clip> clip =
        recording
            .filter(r -> on.vamp().map(Vamp::clip).equals(Optional.of(r.clip())))
            .map(r -> stage.clip(part, r.clip()));
    return clip.filter(c -> c.window().length() > ticks)
        .filter(
            c ->
                moment.tick(stage.map().orElseThrow())
                    < recording.get().closed().getAsLong() + c.window().length())
        .filter(c -> isNewest(stage, c));
  }

  /** Whether nothing was done since but to play on. */
  private static boolean isNewest(Stage stage, Clip clip) {
    return stage
        .history()
        .last()
        .filter(step -> step.changes().stream().allMatch(change -> change.bringsOnly(clip.id())))
        .isPresent();
  }

  /** It is recorded again, from what was played, and closes at another line. */
  private static Stage again(Stage stage, PartId part, Clip clip, long ticks) {
    LoopRecording recording = stage.on(part).recording().orElseThrow();
    long start = recording.from();
    List<Long> notes =
        clip.takes().stream()
            .flatMap(take -> take.allLayers())
            .flatMap(layer -> layer.notes().stream())
            .map(Note::id)
            .toList();
    FirstRecording first =
        FirstRecording.cued(clip.id(), clip.letter(), start, then(recording), 0)
            .withUntil(start + clip.window().length() - ticks)
            .withMoves(clip.moves().toList());
    Stage bare =
        Consequences.reconciled(
            stage.withShow(stage.show().mapPart(part, p -> p.withoutClip(clip.id()))), Map.of());
    Stage open =
        NoteTaking.left(bare, part, notes)
            .mapHistory(history -> history.withoutLast())
            .mapOn(part, on -> on.withFirst(first).withRecording(Optional.empty()));
    double since = stage.map().orElseThrow().microsOf(start - stage.show().meter().barTicks());
    return NoteTaking.takeFromHindsight(open, part, since, start);
  }

  private static AfterClosing then(LoopRecording recording) {
    if (!recording.isOpen()) {
      return AfterClosing.VAMP;
    }
    return recording.way() == Way.TAKES ? AfterClosing.TAKES : AfterClosing.OVERDUB;
  }
}
