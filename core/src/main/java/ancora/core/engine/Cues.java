package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.plan.PassPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.record.EntryPoint;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopLength;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.Optional;

/** What comes in or goes out next: clips of a part, silence, and all at once. */
final class Cues {

  /** How late a cue may come and still count for the boundary just gone by: 60 ms. */
  static final Forgiveness FORGIVENESS = new Forgiveness(60);

  private Cues() {}

  /** A clip enters at its next entry point; what is cued already is called off. */
  static Step clip(Stage stage, PartId part, ClipId id, Moment moment) {
    Clip clip = stage.clip(part, id);
    PartStage on = stage.on(part);
    if (stage.map().isEmpty()) {
      return on.ready().equals(Optional.of(id))
          ? Step.to(stage, Edits.name(stage, part, clip) + " stands ready already.")
          : Step.to(stage.mapOn(part, p -> p.withReady(Optional.of(id))));
    }
    if (on.cue().isPresent() && on.cue().get().clip().equals(Optional.of(id))) {
      return callOff(stage, part);
    }
    EntryUnit unit = clip.manner().entersOn().orElse(stage.show().recording().entersOn());
    long boundary = boundary(stage, unit, moment);
    if (on.vamp().isPresent() && on.vamp().get().clip().equals(id)) {
      boolean justEntered =
          on.vamp().get().entry().forgiven() && on.vamp().get().from() == boundary;
      return justEntered
          ? bringBack(stage, part, moment)
          : on.cue().isPresent()
              ? callOff(stage, part)
              : Step.to(stage, Edits.name(stage, part, clip) + " vamps already.");
    }
    return set(stage, part, Optional.of(clip), boundary, moment);
  }

  /** A part goes silent at the next entry point. */
  static Step tacet(Stage stage, PartId part, Moment moment) {
    PartStage on = stage.on(part);
    String name = stage.show().part(part).name();
    if (stage.map().isEmpty()) {
      return on.ready().isEmpty()
          ? Step.to(stage, name + " is tacet already.")
          : Step.to(stage.mapOn(part, p -> p.withReady(Optional.empty())));
    }
    if (on.cue().isPresent() && on.cue().get().clip().isEmpty()) {
      return callOff(stage, part);
    }
    if (isSilent(on)) {
      return on.cue().isPresent()
          ? callOff(stage, part)
          : Step.to(stage, name + " is tacet already.");
    }
    long boundary = boundary(stage, stage.show().recording().entersOn(), moment);
    return set(stage, part, Optional.empty(), boundary, moment);
  }

  /** What is cued in a part does not come. */
  static Step callOff(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    String name = stage.show().part(part).name();
    return Step.to(
        stage.mapOn(part, p -> p.withCue(Optional.empty())),
        on.cue().isPresent() ? name + " goes on as it is." : "Nothing is cued on " + name + ".");
  }

  /** A part falls silent at once; without one, all do. */
  static Step cut(Stage stage, Optional<PartId> part, Moment moment) {
    TempoMap map = running(stage);
    long at = map.firstTickFrom(moment.audible());
    Stage next = stage;
    for (Part each : stage.show().parts()) {
      if (part.isEmpty() || part.get().equals(each.id())) {
        next = isSilent(next.on(each.id())) ? next : tacetAt(next, each.id(), at, moment);
      }
    }
    return Step.to(part.isEmpty() ? Forms.calledOff(next) : next);
  }

  /** All parts fall silent at the next bar; asked again, at once. */
  static Step stopAll(Stage stage, Moment moment) {
    running(stage);
    boolean again =
        stage.show().parts().stream()
            .map(part -> stage.on(part.id()))
            .allMatch(on -> isSilent(on) || on.cue().map(c -> c.clip().isEmpty()).orElse(false));
    boolean anything =
        stage.show().parts().stream().anyMatch(part -> !isSilent(stage.on(part.id())));
    if (again && anything) {
      return cut(stage, Optional.empty(), moment);
    }
    long at = boundary(stage, EntryUnit.BAR, moment);
    Stage next = Forms.calledOff(stage);
    for (Part part : stage.show().parts()) {
      next =
          isSilent(next.on(part.id()))
              ? next.mapOn(part.id(), on -> on.withCue(Optional.empty()))
              : tacetAt(next, part.id(), at, moment);
    }
    return Step.to(next);
  }

  /** The boundary at which a cue takes effect that is asked for now. */
  static long boundary(Stage stage, EntryUnit unit, Moment moment) {
    return EntryPoint.of(moment.stamp(), unit, FORGIVENESS, stage.show().meter(), running(stage));
  }

  /**
   * Cues a clip, or silence, from a boundary on. A recording that has not begun is called off; one
   * that goes on is closed at the first length that reaches the boundary.
   *
   * @param clip what enters; empty for tacet
   */
  static Step set(Stage stage, PartId part, Optional<Clip> clip, long boundary, Moment moment) {
    PartStage on = stage.on(part);
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      if (moment.tick(running(stage)) < first.start()) {
        return set(FirstRecordings.drop(stage, part), part, clip, boundary, moment);
      }
      return afterClosing(stage, part, first, clip, boundary, moment);
    }
    if (clip.isPresent() && on.vamp().map(v -> v.clip().equals(clip.get().id())).orElse(false)) {
      return Step.to(stage.mapOn(part, p -> p.withCue(Optional.empty())));
    }
    Cue cue = cue(stage, clip, boundary, moment);
    return Step.to(stage.mapOn(part, p -> p.withCue(Optional.of(cue))));
  }

  private static Step afterClosing(
      Stage stage,
      PartId part,
      FirstRecording first,
      Optional<Clip> clip,
      long boundary,
      Moment moment) {
    if (first.isClosing() && first.until() <= boundary) {
      Cue cue = cue(stage, clip, boundary, moment);
      return Step.to(stage.mapOn(part, p -> p.withCue(Optional.of(cue))));
    }
    LoopLength lengths = FirstRecordings.lengths(stage, part);
    long line = first.start() + lengths.allowedFrom(Math.max(1, boundary - first.start()));
    Cue cue = cue(stage, clip, line, moment);
    Stage next =
        FirstRecordings.withUntil(stage, part, line).mapOn(part, p -> p.withCue(Optional.of(cue)));
    return line == boundary
        ? Step.to(next)
        : Step.to(
            next,
            stage.show().part(part).name()
                + " closes its loop first, at bar "
                + (line / stage.show().meter().barTicks() + 1)
                + ".");
  }

  /** Where and how a clip enters that is cued from a boundary on. */
  private static Cue cue(Stage stage, Optional<Clip> clip, long boundary, Moment moment) {
    if (clip.isEmpty()) {
      return Cue.tacet(boundary);
    }
    Clip enters = clip.get();
    TempoMap map = running(stage);
    boolean inStep = enters.manner().inStep();
    long at = inStep ? boundary : fromTheTop(stage, enters, boundary);
    boolean forgiven = at <= moment.tick(map);
    Vamp.Entry entry =
        new Vamp.Entry(
            inStep ? 0 : pickup(enters, at, map.firstTickFrom(moment.audible())),
            enters.manner().underWay(),
            forgiven);
    return new Cue(at, clip.map(Clip::id), inStep ? enters.recordedAt() : at, entry);
  }

  /** The first tick from a boundary on at which the clip's window starts, modulo a bar. */
  static long fromTheTop(Stage stage, Clip clip, long boundary) {
    return boundary
        + Math.floorMod(clip.window().start() - boundary, stage.show().meter().barTicks());
  }

  /** A pickup that would begin before it can sound is left out, all of it. */
  private static long pickup(Clip clip, long at, long earliest) {
    if (clip.manner().pickup() == 0) {
      return 0;
    }
    List<PlannedNote> notes = PassPlan.pickup(clip, clip.manner().pickup());
    boolean late =
        notes.isEmpty() || at - (clip.window().start() - notes.get(0).place()) < earliest;
    return late ? 0 : clip.manner().pickup();
  }

  /** What has just entered by a late press goes again, and what it replaced is back in step. */
  private static Step bringBack(Stage stage, PartId part, Moment moment) {
    long at = running(stage).firstTickFrom(moment.audible());
    PartStage on = stage.on(part);
    Optional<Left> back =
        on.left()
            .filter(left -> left.until() == on.vamp().orElseThrow().from())
            .filter(left -> stage.show().part(part).clip(left.vamp().clip()).isPresent());
    Cue cue =
        back.map(
                left ->
                    new Cue(
                        at, Optional.of(left.vamp().clip()), left.vamp().phase(), Vamp.Entry.PLAIN))
            .orElse(Cue.tacet(at));
    return Step.to(stage.mapOn(part, p -> p.withCue(Optional.of(cue))));
  }

  private static Stage tacetAt(Stage stage, PartId part, long at, Moment moment) {
    return set(stage, part, Optional.empty(), at, moment).stage();
  }

  private static boolean isSilent(PartStage on) {
    return on.vamp().isEmpty() && on.first().isEmpty();
  }

  private static TempoMap running(Stage stage) {
    return stage
        .map()
        .orElseThrow(() -> new Refusal("The transport stands still: start it first."));
  }
}
