package ancora.core.rules.recording;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.rules.Moment;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Loop;
import ancora.core.vamp.Vamp;
import java.util.Optional;

/** Which clip sounds on a part, and where it stood at a tick. */
public final class Sounding {

  private Sounding() {}

  // which clip

  /** The clip that sounds on a part; refuses if there is none. */
  public static Clip soundingClip(Stage stage, PartId part) {
    String name = stage.show().part(part).name();
    refuseWhileFirst(stage, part);
    ClipId id =
        stage
            .on(part)
            .vamp()
            .map(Vamp::clip)
            .orElseThrow(() -> new Refusal(name + " sounds nothing now: bring a clip in first."));
    return stage.clip(part, id);
  }

  /** What is done to a loop waits for a new clip that is being recorded, or about to be. */
  public static void refuseWhileFirst(Stage stage, PartId part) {
    String name = stage.show().part(part).name();
    Refusal.unless(
        stage.on(part).first().isEmpty() || stage.on(part).vamp().isEmpty(),
        "%s is about to record a new clip: call that off, or wait for it.",
        name);
    Refusal.unless(
        stage.on(part).first().isEmpty(), "%s has no loop yet: close this recording first.", name);
  }

  /** Nothing is recorded into a window that is shorter than the clip's unit. */
  static void refuseShort(Stage stage, Clip clip) {
    Refusal.unless(
        !isShort(stage, clip),
        "Clip %s goes round in less than a %s: set its window back to record.",
        clip.letter(),
        clip.unit().words());
  }

  public static boolean isShort(Stage stage, Clip clip) {
    return clip.window().length() < clip.unit().ticks(stage.show().meter());
  }

  /** A clip's loop as it went round at a tick: before its window was changed, as it was then. */
  public static Optional<Loop> loopAt(Stage stage, PartId part, Clip clip, long tick) {
    PartStage on = stage.on(part);
    Optional<Loop> now =
        on.vamp().filter(v -> v.clip().equals(clip.id())).map(v -> v.in(clip.window()));
    if (now.filter(loop -> loop.vamp().from() <= tick).isPresent()) {
      return now;
    }
    return on.past()
        .filter(left -> left.vamp().clip().equals(clip.id()))
        .map(left -> left.vamp().in(left.clip().window()))
        .or(() -> now);
  }

  public static long tick(Stage stage, Moment moment) {
    TempoMap map = stage.runningMap();
    return moment.tick(map);
  }
}
