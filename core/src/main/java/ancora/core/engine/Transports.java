package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.record.FirstRecording;
import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.List;
import java.util.Optional;

/** Starting and stopping time. */
final class Transports {

  private Transports() {}

  /**
   * Time begins; the line-up that stands ready enters at tick 0.
   *
   * @param countIn ticks of count-in before tick 0
   * @param micros instant at which the first of them is heard
   */
  static Stage start(Stage stage, long countIn, double micros) {
    TempoMap map = TempoMap.of(-countIn, micros, stage.show().tempo());
    return stage
        .withTransport(new Transport.Rolling(map, -countIn))
        .forEachPart(
            (s, part) ->
                s.mapOn(
                    part,
                    on ->
                        on.withVamp(on.ready().map(clip -> atTheStart(s, part, clip)))
                            .withReady(Optional.empty())));
  }

  /** From the top at the first tick that it may enter on; in step, at once. */
  private static Vamp atTheStart(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    return clip.manner().inStep()
        ? Vamp.of(id, clip.recordedAt(), 0)
        : Vamp.of(id, Cues.fromTheTop(stage, clip, 0), Cues.fromTheTop(stage, clip, 0));
  }

  static Stage startAtOnce(Stage stage, Moment moment) {
    Refusal.unless(stage.map().isEmpty(), "The transport runs already.");
    return start(stage, 0, moment.audible());
  }

  /** Time ends: recordings are closed, keys that are down are recorded no further. */
  static Stage stop(Stage stage, Moment moment) {
    if (stage.transport() instanceof Transport.AwaitingFirstNote) {
      return stage.withTransport(new Transport.Standing());
    }
    TempoMap map =
        stage.map().orElseThrow(() -> new Refusal("The transport stands still already."));
    long tick = moment.tick(map);
    Stage released = stage;
    for (HeldKey key : stage.heldKeys()) {
      released = Playing.endNote(released, key, moment.stamp());
    }
    released = Playing.releaseAllSustained(released, moment.stamp());
    FormStage form = stage.form();
    Stage stopped = Undoing.releasedAll(released.forEachPart((s, part) -> stopPart(s, part, tick)));
    return stopped
        .withTransport(new Transport.Standing())
        .withHands(stopped.hands().withHandOvers(List.of()).mapKeys(k -> true, HeldKey::rested))
        .withForm(new FormStage(form.now(), 0, Optional.empty()))
        .mapHistory(History::afterStop);
  }

  /** What vamps stands ready for the next start; what is cued is called off. */
  private static Stage stopPart(Stage stage, PartId part, long tick) {
    Stage mended = Recordings.endAll(stage, part, tick);
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
