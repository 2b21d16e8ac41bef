package ancora.core.rules.cues;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.ComesIn;
import ancora.core.rules.Moment;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.Optional;

/** Starting and stopping time. */
public final class Transports {

  private Transports() {}

  /**
   * Time begins; the line-up that stands ready enters at tick 0.
   *
   * @param countIn ticks of count-in before tick 0
   * @param micros instant at which the first of them is heard
   */
  public static Stage start(Stage stage, long countIn, double micros) {
    TempoMap map = TempoMap.of(-countIn, micros, stage.show().tempo());
    Optional<Section> section = Forms.standingReady(stage);
    Stage rolling =
        stage
            .withTransport(new Transport.Rolling(map, -countIn))
            .forEachPart(
                (s, part) ->
                    s.mapOn(
                        part,
                        on ->
                            on.withVamp(on.ready().map(clip -> atTheStart(s, part, clip)))
                                .withReady(Optional.empty())));
    return section.map(s -> Forms.enter(rolling, s, 0)).orElse(rolling);
  }

  /** From the top at the first tick that it may enter on; in step, at once. */
  private static Vamp atTheStart(Stage stage, PartId part, ClipId id) {
    Clip clip = stage.clip(part, id);
    boolean inStep = clip.manner().comesIn() == ComesIn.IN_STEP;
    long from = inStep ? 0 : Cues.fromTheTop(stage, clip, 0);
    return Vamp.of(id, inStep ? clip.recordedAt() : from, from)
        .withFrom(from, Vamp.Entry.inStep(clip.manner().underWay()));
  }

  public static Stage startAtOnce(Stage stage, Moment moment) {
    Refusal.unless(stage.map().isEmpty(), "The transport runs already.");
    return start(stage, 0, moment.audible());
  }
}
