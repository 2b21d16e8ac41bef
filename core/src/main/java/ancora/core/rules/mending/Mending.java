package ancora.core.rules.mending;

import ancora.core.Refusal;
import ancora.core.clip.LoopWindow;
import ancora.core.record.LoopRecording.Range;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Together;
import ancora.core.rules.recording.Recordings;
import ancora.core.rules.recording.Sounding;
import ancora.core.stage.Stage;
import ancora.core.time.Ticks;
import ancora.core.vamp.Vamp;
import java.util.Optional;

/** Putting new notes for old while the loop goes round: replace and punch (rule 7). */
public final class Mending {

  private Mending() {}

  public static Result replace(Stage stage, boolean on, Moment moment) {
    return on
        ? Together.each(
            stage, (s, p) -> Recordings.begin(s, p, Way.REPLACE, Optional.empty(), moment))
        : Result.to(Recordings.off(stage, Way.REPLACE, moment));
  }

  /**
   * Replaces in a range only.
   *
   * @param from its first place, on the material's axis
   * @param to the first place after it
   */
  public static Result punch(Stage stage, long from, long to, Moment moment) {
    return Together.each(
        stage,
        (s, part) -> {
          LoopWindow window = Sounding.soundingClip(s, part).window();
          Refusal.unless(
              from < to && window.contains(from) && to <= window.end(),
              "The range to punch lies within the loop, from an earlier place to a later one.");
          return Recordings.begin(s, part, Way.PUNCH, Optional.of(new Range(from, to)), moment);
        });
  }

  /** Replaces in some bars of the loop. */
  static Result punchBars(Stage stage, MendCommand.PunchBars bars, Moment moment) {
    long bar = stage.show().meter().barTicks();
    return Together.each(
        stage,
        (s, part) -> {
          LoopWindow window = Sounding.soundingClip(s, part).window();
          long from = window.start() + (bars.first() - 1) * bar;
          Refusal.unless(
              from < window.end(),
              "%s has no bar %s: it is shorter.",
              s.show().part(part).name(),
              bars.first());
          long to = Math.min(window.end(), from + bars.bars() * bar);
          return Recordings.begin(s, part, Way.PUNCH, Optional.of(new Range(from, to)), moment);
        });
  }

  /** Replaces in the bar of the loop that sounds now. */
  public static Result punchHere(Stage stage, Moment moment) {
    return Together.each(
        stage,
        (s, part) -> {
          LoopWindow window = Sounding.soundingClip(s, part).window();
          Vamp vamp = s.on(part).vamp().orElseThrow();
          long place = vamp.in(window).placeAt(Sounding.tick(s, moment));
          long bar = s.show().meter().barTicks();
          long from = Math.max(window.start(), Ticks.floor(place, bar));
          Range range = new Range(from, Math.min(window.end(), Ticks.floor(place, bar) + bar));
          return Recordings.begin(s, part, Way.PUNCH, Optional.of(range), moment);
        });
  }
}
