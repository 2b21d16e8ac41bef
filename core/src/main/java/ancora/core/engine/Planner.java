package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Reshaping;
import ancora.core.plan.PassPlan;
import ancora.core.plan.Plan;
import ancora.core.plan.Plan.ClickSpan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.Silence;
import ancora.core.plan.Span;
import ancora.core.record.FirstRecording;
import ancora.core.record.PassLog;
import ancora.core.show.Click;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Makes the plan of what is to sound from the stage. */
final class Planner {

  private Planner() {}

  static Plan plan(Stage stage) {
    long firstTick =
        stage.transport() instanceof Transport.Rolling rolling ? rolling.firstTick() : 0;
    return new Plan(
        stage.map(),
        firstTick,
        stage.show().meter(),
        stage.show().click(),
        stage.map().isPresent() ? clickSpans(stage, firstTick) : List.of(),
        stage.hands().repeat(),
        stage.show().parts().stream().map(part -> partPlan(stage, part)).toList());
  }

  private static PartPlan partPlan(Stage stage, Part part) {
    List<Span> spans = new ArrayList<>();
    if (stage.map().isPresent()) {
      PartStage on = stage.on(part.id());
      on.left().ifPresent(left -> addLeft(spans, stage, part, left));
      on.vamp().ifPresent(vamp -> addVamp(spans, stage, part, on, vamp));
      on.first().ifPresent(first -> addClosing(spans, stage, part, on, first));
      on.cue().ifPresent(cue -> addCue(spans, stage, part, on, cue));
    }
    return new PartPlan(part.id(), part.sound(), spans);
  }

  private static void addLeft(List<Span> spans, Stage stage, Part part, Left left) {
    spans.add(
        span(
            stage, part, left.vamp(), left.clip(), left.until(), left.letRing(), Optional.empty()));
  }

  /** What sounds, up to what comes next; and what becomes of it meanwhile. */
  private static void addVamp(List<Span> spans, Stage stage, Part part, PartStage on, Vamp vamp) {
    Clip clip = part.clipOf(vamp.clip());
    long leaves =
        Math.min(
            on.cue().map(Cue::at).orElse(Ticks.OPEN),
            on.first().map(FirstRecording::start).orElse(Ticks.OPEN));
    boolean letRing = part.leaving() == Leaving.LET_RING;
    addPickup(spans, part, vamp, clip);
    Map<Long, Silence> silences = Mends.silences(stage, part.id(), vamp, clip);
    Optional<ClipChange> change = on.change().filter(c -> c.at() < leaves);
    if (change.isEmpty()) {
      spans.add(span(stage, part, vamp, clip, leaves, letRing, Optional.of(silences)));
      return;
    }
    if (change.get().at() > vamp.from()) {
      boolean moved = !(change.get().reshaping() instanceof Reshaping.ToTake);
      spans.add(
          span(
              stage, part, vamp, clip, change.get().at(), moved || letRing, Optional.of(silences)));
    }
    ClipChange.Changed changed = change.get().of(vamp, clip, stage.show().nextId());
    spans.add(
        span(stage, part, changed.vamp(), changed.clip(), leaves, letRing, Optional.of(silences)));
  }

  /** A recording that is closing sounds from its line on, unless something else enters there. */
  private static void addClosing(
      List<Span> spans, Stage stage, Part part, PartStage on, FirstRecording first) {
    long leaves = on.cue().map(Cue::at).orElse(Ticks.OPEN);
    if (!first.isClosing() || leaves <= first.until()) {
      return;
    }
    FirstRecording.Closed closed = FirstRecordings.closed(stage, part.id(), false);
    PassLog log = FirstRecordings.passes(first, closed);
    closed
        .clip()
        .ifPresent(
            clip ->
                spans.add(
                    span(
                        stage,
                        part,
                        Vamp.of(first.clip(), first.start(), first.until()).withPasses(log),
                        clip,
                        leaves,
                        part.leaving() == Leaving.LET_RING,
                        Optional.empty())));
  }

  private static void addCue(List<Span> spans, Stage stage, Part part, PartStage on, Cue cue) {
    cue.clip()
        .flatMap(part::clip)
        .ifPresent(
            clip -> {
              Vamp vamp = Vamp.of(clip.id(), cue.phase(), cue.at()).withEntry(cue.entry());
              addPickup(spans, part, vamp, clip);
              spans.add(span(stage, part, vamp, clip, Ticks.OPEN, false, Optional.empty()));
            });
  }

  /** The material before the window sounds once, and rings into the loop. */
  private static void addPickup(List<Span> spans, Part part, Vamp vamp, Clip clip) {
    long pickup = vamp.entry().pickup();
    if (pickup == 0) {
      return;
    }
    spans.add(
        new Span(
            id(part, vamp) + "/pickup",
            new LoopWindow(clip.window().start() - pickup, pickup),
            vamp.from() - pickup,
            vamp.from() - pickup,
            vamp.from(),
            false,
            true,
            PassPlan.pickup(clip, pickup),
            List.of()));
  }

  private static Span span(
      Stage stage,
      Part part,
      Vamp vamp,
      Clip clip,
      long until,
      boolean letRing,
      Optional<Map<Long, Silence>> silences) {
    return new Span(
        id(part, vamp),
        clip.window(),
        vamp.phase(),
        vamp.from(),
        until,
        vamp.entry().underWay(),
        letRing,
        PassPlan.of(
            clip,
            stage.show().meter().beatTicks(),
            silences.orElseGet(() -> heardLive(vamp.passes()))),
        PassPlan.moves(clip));
  }

  private static Map<Long, Silence> heardLive(PassLog passes) {
    Map<Long, Silence> silences = new HashMap<>();
    passes.heardLive().forEach((id, tick) -> silences.put(id, Silence.through(tick)));
    return silences;
  }

  private static String id(Part part, Vamp vamp) {
    return part.id().value() + "/" + vamp.clip().value() + "/" + vamp.from();
  }

  /** The count-in always clicks, even where the click is off: it is what one plays to. */
  private static List<ClickSpan> clickSpans(Stage stage, long firstTick) {
    Click click = stage.show().click();
    List<ClickSpan> spans = new ArrayList<>();
    if (firstTick < 0) {
      spans.add(new ClickSpan(firstTick, 0));
    }
    if (click.on() && click.when() == Click.When.ALWAYS) {
      spans.add(new ClickSpan(0, Ticks.OPEN));
    }
    if (click.on() && click.when() == Click.When.RECORDING) {
      spans.addAll(recordingSpans(stage));
    }
    return spans;
  }

  private static List<ClickSpan> recordingSpans(Stage stage) {
    List<ClickSpan> spans = new ArrayList<>();
    stage
        .partStages()
        .values()
        .forEach(
            on -> {
              on.first().ifPresent(f -> spans.add(new ClickSpan(f.start(), f.until())));
              on.overdub().ifPresent(o -> spans.add(new ClickSpan(o.pressed(), o.until())));
            });
    return spans;
  }
}
