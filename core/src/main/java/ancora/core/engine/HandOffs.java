package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.record.EntryPoint;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopLength;
import ancora.core.record.Overdub;
import ancora.core.show.Names;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.Optional;

/** One press: finish here, keep it looping, make a new part with the same sound, and record on. */
final class HandOffs {

  private HandOffs() {}

  /**
   * Where a hand-off leads.
   *
   * @param finished the tick up to which the present part is recorded
   * @param start A: the tick at which the new part's recording begins
   */
  record Plan(long finished, long start) {}

  static Stage handOff(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    Plan plan = plan(stage, part, moment);
    Stage finished = finish(stage, part, plan, moment);
    Show show = finished.show();
    Part from = show.part(part);
    Show with = show.withNewPart(nextName(show, from.name()), from.sound());
    Part added = with.parts().get(with.parts().size() - 1);
    Part like =
        added
            .withInputGrid(from.inputGrid())
            .withInput(from.input())
            .withLeaving(from.leaving())
            .withOutput(from.output());
    Stage armed =
        finished
            .withShow(with.mapPart(added.id(), p -> like))
            .withArmed(added.id())
            .withHands(
                finished.hands().withHandOver(Optional.of(new Hands.HandOver(part, plan.start()))));
    return FirstRecordings.cue(armed, added.id(), plan.start());
  }

  /** In a first recording it is the main press; in overdub the pass is finished if most is done. */
  private static Plan plan(Stage stage, PartId part, Moment moment) {
    TempoMap map =
        stage.map().orElseThrow(() -> new Refusal("The transport stands still: start it first."));
    PartStage on = stage.on(part);
    RecordingSettings settings = stage.show().recording();
    long tick = moment.tick(map);
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      Refusal.unless(tick >= first.start(), "The recording has not begun: play it first.");
      LoopLength lengths = FirstRecordings.lengths(stage, part);
      long line =
          first.isClosing()
              ? first.until()
              : first.start()
                  + lengths.closedAt(first.start(), moment.stamp(), settings.forgiveness(), map);
      return new Plan(line, line);
    }
    Clip clip = Mends.soundingClip(stage, part);
    long next =
        EntryPoint.of(
            moment.stamp(), settings.entersOn(), settings.forgiveness(), stage.show().meter(), map);
    if (on.overdub().filter(Overdub::isOpen).isEmpty()) {
      return new Plan(tick, next);
    }
    LoopWindow window = clip.window();
    Vamp vamp = on.vamp().orElseThrow();
    long line = vamp.phase() + (vamp.passAt(tick, window) + 1) * window.length();
    long threeQuarters = line - window.length() / 4;
    boolean mostDone =
        tick >= threeQuarters - map.ticksBefore(threeQuarters, settings.forgiveness().micros());
    return mostDone ? new Plan(line, line) : new Plan(tick, next);
  }

  private static Stage finish(Stage stage, PartId part, Plan plan, Moment moment) {
    boolean later = plan.finished() > Mends.tick(stage, moment);
    PartStage on = stage.on(part);
    if (on.first().isPresent()) {
      return FirstRecordings.withUntil(stage, part, plan.finished());
    }
    return on.overdub()
        .filter(Overdub::isOpen)
        .map(
            overdub ->
                overdub.isAdding()
                    ? stage.mapOn(part, p -> p.withOverdub(overdub.withUntil(plan.finished())))
                    : later ? stage : Mends.end(stage, part, plan.finished()))
        .orElse(stage);
  }

  private static String nextName(Show show, String name) {
    String stem = name.replaceFirst(" \\d+$", "");
    List<String> names = show.parts().stream().map(Part::name).toList();
    for (int number = 2; ; number++) {
      String candidate = stem + " " + number;
      if (!names.contains(candidate)) {
        return candidate.length() > Names.LONGEST ? name : candidate;
      }
    }
  }
}
