package ancora.core.rules.cues;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.history.History;
import ancora.core.record.FirstRecording;
import ancora.core.rules.Moment;
import ancora.core.rules.recording.Consequences;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.Releasing;
import ancora.core.show.PartId;
import ancora.core.stage.FormStage;
import ancora.core.stage.HeldKey;
import ancora.core.stage.PartStage;
import ancora.core.stage.PastRun;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;

/** Time ends: what is recorded closes, what vamps stands ready. */
public final class Stopping {

  private Stopping() {}

  /** Time ends: recordings are closed, keys that are down are recorded no further. */
  public static Stage stop(Stage stage, Moment moment) {
    if (stage.transport() instanceof Transport.AwaitingFirstNote) {
      return stage.withTransport(new Transport.Standing());
    }
    TempoMap map =
        stage.map().orElseThrow(() -> new Refusal("The transport stands still already."));
    long tick = moment.tick(map);
    Stage released = stage;
    for (HeldKey key : stage.heldKeys()) {
      long up = stage.show().part(key.part()).input().placed(moment.stamp());
      released = Releasing.endNote(released, key, up);
    }
    released = Releasing.releaseAllSustained(released, moment.stamp());
    FormStage form = stage.form();
    Stage stopped =
        Consequences.releasedAll(released.forEachPart((s, part) -> stopPart(s, part, tick)));
    return stopped
        .withTransport(new Transport.Standing())
        .withLastRun(Optional.of(new PastRun(map, moment.stamp())))
        .withHands(
            stopped
                .hands()
                .withHandOvers(List.of())
                .withErased(List.of())
                .mapKeys(k -> true, HeldKey::rested))
        .withForm(new FormStage(form.now(), 0, Optional.empty()))
        .mapHistory(History::afterStop);
  }

  /** What vamps stands ready for the next start; what is cued is called off. */
  private static Stage stopPart(Stage stage, PartId part, long tick) {
    Stage mended = Endings.endAll(stage, part, tick);
    Stage first = mended.on(part).first().map(f -> stopFirst(mended, part, f, tick)).orElse(mended);
    Stage closed = heard(first, part);
    return closed.mapOn(part, now -> now.tacet().withReady(now.vamp().map(Vamp::clip)));
  }

  /** A take that was to be heard next is the one that is heard. */
  private static Stage heard(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    Optional<Clip> clip = on.vamp().flatMap(v -> stage.show().part(part).clip(v.clip()));
    return on.hears().isPresent() && clip.isPresent()
        ? stage.withClip(part, clip.get().withHeard(on.hears().get().take()))
        : stage;
  }

  private static Stage stopFirst(Stage stage, PartId part, FirstRecording first, long tick) {
    if (tick < first.start()) {
      return FirstRecordings.drop(stage, part);
    }
    long until =
        first.isClosing()
            ? first.until()
            : first.start()
                + FirstRecordings.lengths(stage, part).stoppedAfter(tick - first.start());
    FirstRecording closing = first.withUntil(Math.min(until, first.set()));
    return FirstRecordings.close(
        stage.mapOn(part, on -> on.withFirst(closing)), part, first.until() == Ticks.OPEN, true);
  }
}
