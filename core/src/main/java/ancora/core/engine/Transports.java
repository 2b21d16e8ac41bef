package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.record.FirstRecording;
import ancora.core.record.PassLog;
import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
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
                        on.withVamp(on.ready().map(clip -> new Vamp(clip, 0, 0, PassLog.EMPTY)))
                            .withReady(Optional.empty())));
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
    return released
        .forEachPart((s, part) -> stopPart(s, part, tick))
        .withTransport(new Transport.Standing())
        .withCleared(
            stage.cleared().stream()
                .map(c -> new Cleared(c.part(), c.clip(), Optional.empty()))
                .toList());
  }

  private static Stage stopPart(Stage stage, PartId part, long tick) {
    PartStage on = stage.on(part);
    Stage closed = on.first().map(first -> stopFirst(stage, part, first, tick)).orElse(stage);
    return closed.mapOn(
        part,
        now ->
            now.withReady(now.vamp().map(Vamp::clip))
                .withVamp(Optional.empty())
                .withOverdub(Optional.empty()));
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
    return FirstRecordings.close(
        FirstRecordings.withUntil(stage, part, until), part, first.until() == Ticks.OPEN);
  }
}
