package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.plan.PassPlan;
import ancora.core.plan.Plan;
import ancora.core.plan.Plan.ClickSpan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.Span;
import ancora.core.record.FirstRecording;
import ancora.core.record.PassLog;
import ancora.core.show.Click;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;
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
        stage.show().parts().stream().map(part -> partPlan(stage, part)).toList());
  }

  private static PartPlan partPlan(Stage stage, Part part) {
    List<Span> spans =
        stage.map().isEmpty()
            ? List.of()
            : stage.on(part.id()).vamp().flatMap(vamp -> span(stage, part.id(), vamp)).stream()
                .toList();
    return new PartPlan(part.id(), part.sound(), spans);
  }

  private static Optional<Span> span(Stage stage, PartId part, Vamp vamp) {
    Optional<FirstRecording> closing =
        stage.on(part).first().filter(first -> first.clip().equals(vamp.clip()));
    if (closing.isPresent()) {
      FirstRecording.Closed closed = FirstRecordings.closed(stage, part, false);
      PassLog log = FirstRecordings.passes(closing.get(), closed);
      return closed.clip().map(clip -> span(stage, part, vamp.withPasses(log), clip));
    }
    return Optional.of(span(stage, part, vamp, stage.clip(part, vamp.clip())));
  }

  private static Span span(Stage stage, PartId part, Vamp vamp, Clip clip) {
    return new Span(
        part.value() + "/" + clip.id().value() + "/" + vamp.from(),
        clip.window(),
        vamp.phase(),
        vamp.from(),
        Ticks.OPEN,
        PassPlan.of(clip, stage.show().meter().beatTicks(), vamp.passes().heardLive()));
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
