package ancora.core.rules.recording;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.rules.Moment;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.vamp.PastVamp;
import ancora.core.vamp.Vamp;
import java.util.Optional;

/** Which clip sounds on a part, and where it stood at a tick. */
public final class Sounding {

  private Sounding() {}

  // which clip

  /** The clip that sounds on a part; refuses if there is none. */
  public static Clip soundingClip(Stage stage, PartId part) {
    String name = stage.show().part(part).name();
    Refusal.unless(
        stage.on(part).first().isEmpty(), "%s has no loop yet: close this recording first.", name);
    ClipId id =
        stage
            .on(part)
            .vamp()
            .map(Vamp::clip)
            .orElseThrow(() -> new Refusal(name + " sounds nothing now: bring a clip in first."));
    return stage.clip(part, id);
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

  /** What sounded of a clip at a tick: before its window was changed, what it was then. */
  static Optional<Vamp> vampAt(Stage stage, PartId part, ClipId clip, long tick) {
    PartStage on = stage.on(part);
    Optional<Vamp> now = on.vamp().filter(v -> v.clip().equals(clip));
    Optional<Vamp> before = on.past().map(PastVamp::vamp).filter(v -> v.clip().equals(clip));
    boolean isOver = now.map(v -> v.from() > tick).orElse(true);
    return isOver ? before.or(() -> now) : now;
  }

  static LoopWindow windowAt(Stage stage, PartId part, Vamp vamp, Clip clip) {
    return stage
        .on(part)
        .past()
        .filter(left -> left.vamp() == vamp)
        .map(PastVamp::clip)
        .orElse(clip)
        .window();
  }

  public static long tick(Stage stage, Moment moment) {
    TempoMap map = stage.runningMap();
    return moment.tick(map);
  }
}
