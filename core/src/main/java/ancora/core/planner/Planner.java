package ancora.core.planner;

import ancora.core.plan.PassPlan;
import ancora.core.plan.Plan;
import ancora.core.plan.Plan.ClickSpan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.Tolerances;
import ancora.core.show.Click;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Makes the plan of what is to sound from the stage. A part of which nothing has changed is planned
 * as it was: a plan costs what has become of the stage since the one before.
 */
public final class Planner {

  private final Map<PartId, Planned> planned = new HashMap<>();

  public Plan plan(Stage stage) {
    long firstTick =
        stage.transport() instanceof Transport.Rolling rolling ? rolling.firstTick() : 0;
    planned.keySet().retainAll(stage.show().parts().stream().map(Part::id).toList());
    return new Plan(
        stage.map(),
        firstTick,
        stage.show().meter(),
        stage.show().click(),
        stage.map().isPresent() ? clickSpans(stage, firstTick) : List.of(),
        stage.hands().repeat(),
        Tolerances.RULES,
        stage.show().parts().stream().map(part -> partPlan(stage, part)).toList());
  }

  private PartPlan partPlan(Stage stage, Part part) {
    Planned before = planned.get(part.id());
    if (before != null && before.isOf(stage, part)) {
      return before.plan;
    }
    Spans spans = Spans.of(stage, part, before == null ? Map.of() : before.passes);
    Planned now = new Planned(stage, part, spans.plan(), spans.passes());
    planned.put(part.id(), now);
    return now.plan;
  }

  /**
   * What was planned for a part.
   *
   * @param stage the stage as it was
   * @param part the part as it was
   * @param plan what it was to sound
   * @param passes the passes that were planned, by span
   */
  private record Planned(Stage stage, Part part, PartPlan plan, Map<String, PassPlan> passes) {

    /** Whether all that a part's plan depends on is as it was; all of it is unchanging. */
    boolean isOf(Stage now, Part owner) {
      PartId id = part.id();
      return owner == part
          && now.on(id) == stage.on(id)
          && now.map().orElse(null) == stage.map().orElse(null)
          && now.show().meter().equals(stage.show().meter())
          && now.show().recording().equals(stage.show().recording())
          && now.hands().eraseOn(id).equals(stage.hands().eraseOn(id))
          && (now.show().recording().breatherBars() == 0 || vamping(now).equals(vamping(stage)))
          && (now.on(id).change().isEmpty() || now.show().nextId() == stage.show().nextId());
    }
  }

  /** How long a loop rests depends on what else vamps, and on what is recorded together. */
  private static List<Object> vamping(Stage stage) {
    List<Object> vamping = new ArrayList<>(stage.alongside());
    stage.armed().ifPresent(vamping::add);
    for (Part part : stage.show().parts()) {
      stage.on(part.id()).vamp().ifPresent(v -> vamping.add(part.clipOf(v.clip()).window()));
    }
    return vamping;
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
              on.recording().ifPresent(r -> spans.add(new ClickSpan(r.since(), r.until())));
            });
    return together(spans);
  }

  /** Where several record at once the click sounds once. */
  private static List<ClickSpan> together(List<ClickSpan> spans) {
    List<ClickSpan> sorted = new ArrayList<>(spans);
    sorted.sort(Comparator.comparingLong(ClickSpan::from).thenComparingLong(ClickSpan::until));
    List<ClickSpan> joined = new ArrayList<>();
    for (ClickSpan span : sorted) {
      ClickSpan last = joined.isEmpty() ? null : joined.get(joined.size() - 1);
      if (last != null && span.from() <= last.until()) {
        joined.set(
            joined.size() - 1, new ClickSpan(last.from(), Math.max(last.until(), span.until())));
      } else if (span.until() > span.from()) {
        joined.add(span);
      }
    }
    return joined;
  }
}
