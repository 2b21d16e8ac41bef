package ancora.core.rules.cues;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.plan.PassPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.record.EntryPoint;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopLength;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Cue;
import ancora.core.vamp.PastVamp;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;

/** What comes in or goes out next: clips of a part, silence, and all at once. */
public final class Cues {

  /** How late a cue may come and still count for the boundary just gone by: 60 ms. */
  static final Forgiveness FORGIVENESS = new Forgiveness(60);

  private Cues() {}

  /** A clip enters at its next entry point; what is cued already is called off. */
  public static Result clip(Stage stage, PartId part, ClipId id, Moment moment) {
    Clip clip = stage.clip(part, id);
    PartStage on = stage.on(part);
    if (stage.map().isEmpty()) {
      return on.ready().equals(Optional.of(id))
          ? Result.to(stage, Steps.name(stage, part, clip) + " stands ready already.")
          : Result.to(stage.mapOn(part, p -> p.withReady(Optional.of(id))));
    }
    if (on.cue().isPresent() && on.cue().get().clip().equals(Optional.of(id))) {
      return callOff(stage, part, moment);
    }
    Asked asked = asked(stage, clip.manner().entersOn(), moment);
    if (on.vamp().isPresent() && on.vamp().get().clip().equals(id)) {
      boolean justEntered =
          on.vamp().get().entry().forgiven() && on.vamp().get().from() == asked.boundary();
      return justEntered
          ? bringBack(stage, part, moment)
          : isPending(on) ? callOff(stage, part, moment) : onceMore(stage, part, asked, moment);
    }
    return set(stage, part, Optional.of(clip), asked, moment);
  }

  private static boolean isPending(PartStage on) {
    return on.cue().isPresent() || on.first().isPresent();
  }

  /**
   * A clip that vamps enters again from the top, where its start next falls into place in the bar.
   */
  private static Result onceMore(Stage stage, PartId part, Asked asked, Moment moment) {
    Vamp vamp = stage.on(part).vamp().orElseThrow();
    Clip clip = stage.clip(part, vamp.clip());
    Cue cue = fromTheTop(stage, clip, asked, moment);
    return isInPhase(vamp, clip, cue)
        ? Result.to(stage, Steps.name(stage, part, clip) + " begins there in any case.")
        : Result.to(with(stage, part, cue));
  }

  private static boolean isInPhase(Vamp vamp, Clip clip, Cue cue) {
    return vamp.in(clip.window()).lineBy(cue.at()) == cue.at();
  }

  /** A clip that vamps enters again with its section; where it is in phase it goes on. */
  static Stage onceMore(Stage stage, PartId part, Clip clip, Asked asked, Moment moment) {
    Cue cue = fromTheTop(stage, clip, asked, moment);
    return isInPhase(stage.on(part).vamp().orElseThrow(), clip, cue)
        ? stage
        : with(stage, part, cue);
  }

  /** A part goes silent at the next entry point. */
  public static Result tacet(Stage stage, PartId part, Moment moment) {
    PartStage on = stage.on(part);
    String name = stage.show().part(part).name();
    if (stage.map().isEmpty()) {
      return on.ready().isEmpty()
          ? Result.to(stage, name + " is tacet already.")
          : Result.to(stage.mapOn(part, p -> p.withReady(Optional.empty())));
    }
    if (on.cue().isPresent() && on.cue().get().clip().isEmpty()) {
      return callOff(stage, part, moment);
    }
    if (isSilent(on)) {
      return on.cue().isPresent()
          ? callOff(stage, part, moment)
          : Result.to(stage, name + " is tacet already.");
    }
    return set(stage, part, Optional.empty(), asked(stage, Optional.empty(), moment), moment);
  }

  /** What is cued in a part does not come; what it replaced does, if it is still to come. */
  public static Result callOff(Stage stage, PartId part, Moment moment) {
    PartStage on = stage.on(part);
    String name = stage.show().part(part).name();
    return Result.to(
        calledOff(stage, part, moment),
        on.cue().isPresent() ? name + " goes on as it is." : "Nothing is cued on " + name + ".");
  }

  static Result callOffAll(Stage stage, Moment moment) {
    Stage next = Forms.calledOff(stage, moment);
    for (Part part : stage.show().parts()) {
      next = calledOff(next, part.id(), moment);
    }
    Refusal.unless(next != stage, "Nothing is cued.");
    return Result.to(next, "All goes on as it is.");
  }

  static Stage calledOff(Stage stage, PartId part, Moment moment) {
    Optional<Cue> cue = stage.on(part).cue();
    if (cue.isEmpty()) {
      return stage;
    }
    long tick = stage.map().map(moment::tick).orElse(0L);
    Stage next = stage.mapOn(part, p -> p.withCue(cue.get().after(tick)));
    Optional<FirstRecording> first = stage.on(part).first();
    return cue.get().closes() && first.isPresent()
        ? FirstRecordings.withUntil(next, part, first.get().set(), moment)
        : next;
  }

  /** A part falls silent at once; without one, all do. */
  public static Result cut(Stage stage, Optional<PartId> part, Moment moment) {
    part.ifPresent(stage.show()::part);
    TempoMap map = running(stage);
    long at = map.firstTickFrom(moment.audible());
    Stage next = stage;
    for (Part each : stage.show().parts()) {
      if (part.isEmpty() || part.get().equals(each.id())) {
        next =
            isSilent(next.on(each.id()))
                ? next.mapOn(each.id(), on -> on.withCue(Optional.empty()))
                : tacetAt(next, each.id(), at, moment);
      }
    }
    return Result.to(part.isEmpty() ? Forms.calledOff(next, moment) : next);
  }

  /** All parts fall silent at the next bar; asked again, at once. */
  public static Result stopAll(Stage stage, Moment moment) {
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
    Stage next = Forms.calledOff(stage, moment);
    for (Part part : stage.show().parts()) {
      next =
          isSilent(next.on(part.id()))
              ? next.mapOn(part.id(), on -> on.withCue(Optional.empty()))
              : tacetAt(next, part.id(), at, moment);
    }
    return Result.to(next);
  }

  /**
   * What a cue is asked for.
   *
   * @param boundary the tick from which it may take effect
   * @param unit what that is a boundary of
   */
  record Asked(long boundary, EntryUnit unit) {}

  /** What a cue is asked for now: a clip may have its own unit, others have the show's. */
  private static Asked asked(Stage stage, Optional<EntryUnit> own, Moment moment) {
    EntryUnit unit = own.orElse(stage.show().recording().entersOn());
    return new Asked(boundary(stage, unit, moment), unit);
  }

  /** The boundary at which a cue takes effect that is asked for now. */
  public static long boundary(Stage stage, EntryUnit unit, Moment moment) {
    return EntryPoint.of(moment.stamp(), unit, FORGIVENESS, stage.show().meter(), running(stage));
  }

  /**
   * Cues a clip, or silence, from a boundary on. A recording that has not begun is called off; one
   * that goes on is closed at the first length that reaches the boundary.
   *
   * @param clip what enters; empty for tacet
   */
  static Result set(Stage stage, PartId part, Optional<Clip> clip, Asked asked, Moment moment) {
    PartStage on = stage.on(part);
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      if (moment.tick(running(stage)) < first.start()) {
        return set(FirstRecordings.drop(stage, part), part, clip, asked, moment);
      }
      return afterClosing(stage, part, first, clip, asked, moment);
    }
    if (clip.isPresent() && on.vamp().map(v -> v.clip().equals(clip.get().id())).orElse(false)) {
      return Result.to(stage.mapOn(part, p -> p.withCue(Optional.empty())));
    }
    return Result.to(with(stage, part, cue(stage, clip, asked, moment)));
  }

  /**
   * The newest cue counts; but a section that is gone on to by itself, and a cue that comes later,
   * do not disturb each other.
   */
  private static Stage with(Stage stage, PartId part, Cue cue) {
    Optional<Cue> before = stage.on(part).cue();
    boolean both = before.filter(b -> b.byItself() && b.at() < cue.at()).isPresent();
    return stage.mapOn(
        part,
        p -> p.withCue(Optional.of(both ? before.get().withReplaced(Optional.of(cue)) : cue)));
  }

  private static Result afterClosing(
      Stage stage,
      PartId part,
      FirstRecording first,
      Optional<Clip> clip,
      Asked asked,
      Moment moment) {
    long boundary = asked.boundary();
    if (first.isClosing() && first.until() <= boundary) {
      return Result.to(with(stage, part, cue(stage, clip, asked, moment)));
    }
    LoopLength lengths = FirstRecordings.lengths(stage, part);
    long line =
        Math.min(
            first.set(),
            first.start() + lengths.allowedFrom(Math.max(1, boundary - first.start())));
    Cue cue =
        cue(stage, clip, new Asked(line, asked.unit()), moment).withCloses(!first.isAskedToClose());
    Stage next = with(FirstRecordings.withUntil(stage, part, line, moment), part, cue);
    return line == boundary
        ? Result.to(next)
        : Result.to(
            next,
            stage.show().part(part).name()
                + " closes its loop first, at bar "
                + (line / stage.show().meter().barTicks() + 1)
                + ".");
  }

  /** A clip that is cued has another window: it enters where that falls on the bar now. */
  public static Stage recued(Stage stage, PartId part, ClipId id, Moment moment) {
    Optional<Cue> cue = stage.on(part).cue().filter(c -> c.clip().equals(Optional.of(id)));
    if (cue.isEmpty() || stage.map().isEmpty()) {
      return stage;
    }
    Clip clip = stage.clip(part, id);
    Asked asked = new Asked(cue.get().boundary(), cue.get().unit());
    boolean vamps = stage.on(part).vamp().filter(v -> v.clip().equals(id)).isPresent();
    Cue again =
        vamps
            ? fromTheTop(stage, clip, asked, moment)
            : cue(stage, Optional.of(clip), asked, moment);
    return stage.mapOn(part, on -> on.withCue(Optional.of(again.like(cue.get()))));
  }

  /** Where and how a clip enters that is cued from a boundary on. */
  private static Cue cue(Stage stage, Optional<Clip> clip, Asked asked, Moment moment) {
    if (clip.isEmpty()) {
      return Cue.tacet(asked.boundary());
    }
    Clip enters = clip.get();
    if (!enters.manner().comesIn().isInStep(asked.unit(), stage.show().meter())) {
      return fromTheTop(stage, enters, asked, moment);
    }
    long at = asked.boundary();
    return Cue.of(
        at,
        at,
        asked.unit(),
        enters.id(),
        enters.recordedAt(),
        entry(stage, enters, at, 0, moment));
  }

  private static Cue fromTheTop(Stage stage, Clip clip, Asked asked, Moment moment) {
    long at = fromTheTop(stage, clip, asked.boundary());
    long pickup = pickup(clip, at, running(stage).firstTickFrom(moment.audible()));
    return Cue.of(
        at, asked.boundary(), asked.unit(), clip.id(), at, entry(stage, clip, at, pickup, moment));
  }

  private static Vamp.Entry entry(Stage stage, Clip clip, long at, long pickup, Moment moment) {
    boolean forgiven = at <= moment.tick(running(stage));
    return new Vamp.Entry(pickup, clip.manner().underWay(), forgiven, 0);
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
  private static Result bringBack(Stage stage, PartId part, Moment moment) {
    long at = running(stage).firstTickFrom(moment.audible());
    PartStage on = stage.on(part);
    Optional<PastVamp> back =
        on.past()
            .filter(left -> left.until() == on.vamp().orElseThrow().from())
            .filter(left -> stage.show().part(part).clip(left.vamp().clip()).isPresent());
    Cue cue =
        back.map(
                left ->
                    Cue.of(
                        at,
                        at,
                        EntryUnit.NOW,
                        left.vamp().clip(),
                        left.vamp().in(left.clip().window()).lineBy(at),
                        Vamp.Entry.PLAIN))
            .orElse(Cue.tacet(at));
    return Result.to(stage.mapOn(part, p -> p.withCue(Optional.of(cue))));
  }

  private static Stage tacetAt(Stage stage, PartId part, long at, Moment moment) {
    return set(stage, part, Optional.empty(), new Asked(at, EntryUnit.NOW), moment).stage();
  }

  private static boolean isSilent(PartStage on) {
    return on.vamp().isEmpty() && on.first().isEmpty();
  }

  private static TempoMap running(Stage stage) {
    return stage.runningMap();
  }
}
