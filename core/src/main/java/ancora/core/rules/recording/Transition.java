package ancora.core.rules.recording;

import ancora.core.clip.Clip;
import ancora.core.record.LoopRecording;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.vamp.PastVamp;
import ancora.core.vamp.Vamp;
import ancora.core.vamp.WindowChange;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** From a tick on a part sounds something else: the one place where that comes about. */
public final class Transition {

  private Transition() {}

  /**
   * Something else sounds. What sounded up to there is remembered, as it was: what was played then
   * may still arrive.
   *
   * @param was the clip that sounded, as it was
   * @param next what sounds; empty for silence
   * @param rings whether notes of the clip that was sound on to their natural end
   */
  public static Stage to(
      Stage stage, PartId part, long at, Clip was, Optional<Vamp> next, boolean rings) {
    return stage.mapOn(
        part,
        on ->
            on.withVamp(next)
                .withPast(
                    on.vamp()
                        .filter(vamp -> vamp.from() < at)
                        .map(vamp -> new PastVamp(vamp, was, at, rings, on.stutter()))
                        .or(on::past)));
  }

  /**
   * A clip that vamps is heard in another window, in step with what was on before. What is recorded
   * onto it is counted from its next line on.
   *
   * @param was the clip as it was
   * @param is the clip as it is
   * @param cut what becomes of a recording that goes on
   */
  public static Stage toWindow(
      Stage stage, PartId part, long at, Clip was, Clip is, UnaryOperator<LoopRecording> cut) {
    Vamp stood = WindowChange.standing(stage.on(part).vamp().orElseThrow(), was, is, at);
    Vamp stands = Breathers.standing(stage, part, stood.in(is.window()), at);
    return to(stage, part, at, was, Optional.of(stands), true)
        .mapOn(
            part,
            on ->
                on.withRecording(
                    on.recording()
                        .map(
                            r ->
                                r.isOpen()
                                    ? cut.apply(r).withLine(stands.in(is.window()).lineFrom(at))
                                    : r)));
  }
}
