package ancora.core.rules.press;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.InputGrid;
import ancora.core.record.AfterClosing;
import ancora.core.record.EarlyNotes;
import ancora.core.record.FirstRecording;
import ancora.core.record.Hindsight;
import ancora.core.record.LoopLength;
import ancora.core.record.LoopRecording;
import ancora.core.record.Pages;
import ancora.core.record.Played;
import ancora.core.record.PlayedMove;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.Together;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.Erasing;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.NoteTaking;
import ancora.core.rules.recording.Sounding;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.stage.Hands;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;

/**
 * One press: finish here, keep it looping, make a new part with the same sound, and record on (rule
 * 14). Parts armed together get one each.
 */
public final class HandOffs {

  private HandOffs() {}

  /**
   * Where a hand-off leads.
   *
   * @param finished the tick up to which the present part is recorded
   * @param start A: the tick at which the new part's recording begins
   */
  private record Course(long finished, long start) {}

  public static Result handOff(Stage stage, Moment moment) {
    PartId armed = stage.armedPart();
    Course course = course(stage, armed, moment);
    Stage finished = stage;
    for (PartId part : Together.of(stage)) {
      // before it closes: what goes to the new part is nowhere else
      Course own = courseOf(stage, part, course, moment);
      List<Long> going = goingOver(finished, part, own.start());
      finished = finish(NoteTaking.without(finished, part, going), part, own, moment);
    }
    Stage next = finished;
    List<Hands.HandOver> overs = new ArrayList<>();
    for (PartId part : Together.of(stage)) {
      next = withPartLike(next, part);
      List<Part> parts = next.show().parts();
      long start = courseOf(stage, part, course, moment).start();
      overs.add(new Hands.HandOver(part, parts.get(parts.size() - 1).id(), start));
    }
    TreeSet<PartId> alongside = new TreeSet<>();
    overs.stream().skip(1).forEach(over -> alongside.add(over.to()));
    next =
        next.withArmed(overs.get(0).to())
            .withAlongside(alongside)
            .withHands(next.hands().withHandOvers(overs));
    next = Steps.noted(finished, next, "hand-off");
    for (Hands.HandOver over : overs) {
      next = FirstRecordings.cue(handedOver(next, over), over.to(), over.at(), moment);
    }
    return Result.to(next);
  }

  /** The sound, and all about it but whether it is muted. */
  public static Stage withPartLike(Stage stage, PartId part) {
    Show show = stage.show();
    Part from = show.part(part);
    Show with = show.withNewPart(nextName(show, from.name()), from.sound());
    Part added = with.parts().get(with.parts().size() - 1);
    return stage.withShow(
        with.mapPart(
            added.id(),
            p ->
                p.withInputGrid(from.inputGrid())
                    .withInput(from.input())
                    .withLeaving(from.leaving())
                    .withBalance(from.balance().withMuted(false))
                    .withOutput(from.output())));
  }

  /** What was played since the start, and early for it, is the new part's alone. */
  private static List<Long> goingOver(Stage stage, PartId from, long start) {
    TempoMap map = stage.map().orElseThrow();
    long since = start - early(stage, from, start);
    return stage
        .on(from)
        .hindsight()
        .notes()
        .filter(played -> map.tickAt(played.onMicros()) >= since)
        .map(Played::noteId)
        .toList();
  }

  private static Stage handedOver(Stage stage, Hands.HandOver over) {
    List<Long> going = goingOver(stage, over.from(), over.at());
    if (going.isEmpty()) {
      return stage;
    }
    double start = stage.runningMap().microsOf(over.at());
    Hindsight before = stage.on(over.from()).hindsight();
    // a controller that is under way is both parts' own
    Hindsight stays = new Hindsight(Pages.empty(), before.moves());
    Hindsight goes = stage.on(over.to()).hindsight();
    for (PlayedMove move : before.movesSince(start)) {
      goes = goes.with(move);
    }
    for (Played played : before.notes().toList()) {
      if (going.contains(played.noteId())) {
        goes = goes.with(played.withRecorded(false));
      } else {
        stays = stays.with(played);
      }
    }
    Hindsight kept = stays;
    Hindsight handed = goes;
    return stage
        .mapOn(over.from(), on -> on.withHindsight(kept))
        .mapOn(over.to(), on -> on.withHindsight(handed))
        .withHands(
            stage
                .hands()
                .mapKeys(key -> going.contains(key.noteId()), key -> key.withPart(over.to())));
  }

  private static long early(Stage stage, PartId part, long start) {
    InputGrid grid = stage.show().part(part).inputGrid();
    return EarlyNotes.toleranceAtStart(
        grid, start, stage.show().meter(), stage.map().orElseThrow());
  }

  /** A first recording beside a loop closes by its own lengths. */
  private static Course courseOf(Stage stage, PartId part, Course armed, Moment moment) {
    boolean begun =
        stage
            .on(part)
            .first()
            .filter(first -> moment.tick(stage.runningMap()) >= first.start())
            .isPresent();
    return begun ? course(stage, part, moment) : armed;
  }

  /** In a first recording it is the main press; in others the pass is finished if most is done. */
  private static Course course(Stage stage, PartId part, Moment moment) {
    TempoMap map = stage.runningMap();
    PartStage on = stage.on(part);
    RecordingSettings settings = stage.show().recording();
    long tick = moment.tick(map);
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      Refusal.unless(tick >= first.start(), "The recording has not begun: play it first.");
      LoopLength lengths = FirstRecordings.lengths(stage, part);
      long line =
          first.isAskedToClose()
              ? first.until()
              : Math.min(
                  first.set(),
                  first.start()
                      + lengths.closedAt(
                          first.start(), moment.stamp(), settings.forgiveness(), map));
      return new Course(line, line);
    }
    Clip clip = Sounding.soundingClip(stage, part);
    long next = FirstRecordings.entry(stage, moment.stamp());
    Optional<LoopRecording> open = on.open();
    if (open.isEmpty()) {
      return new Course(tick, next);
    }
    LoopWindow window = clip.window();
    Vamp vamp = on.vamp().orElseThrow();
    if (vamp.in(window).restsAt(tick)) {
      return new Course(Math.min(tick, next), next);
    }
    long line = open.get().passEnd(tick, vamp.in(window));
    long threeQuarters = line - window.length() / 4;
    boolean mostDone =
        tick >= threeQuarters - map.ticksBefore(threeQuarters, settings.forgiveness().micros());
    return mostDone ? new Course(line, line) : new Course(Math.min(tick, next), next);
  }

  private static Stage finish(Stage stage, PartId part, Course course, Moment moment) {
    PartStage on = stage.on(part);
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      boolean begun = Sounding.tick(stage, moment) >= first.start();
      return begun
          ? FirstRecordings.withUntil(
              stage.mapOn(part, p -> p.withFirst(first.withThen(AfterClosing.VAMP))),
              part,
              course.finished(),
              moment)
          : FirstRecordings.drop(stage, part);
    }
    if (on.open().isEmpty() && !Erasing.isUnderWay(stage, part)) {
      return stage;
    }
    boolean later = course.finished() > Sounding.tick(stage, moment);
    return later ? stage : Endings.endAll(stage, part, course.finished());
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
