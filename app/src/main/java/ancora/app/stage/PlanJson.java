package ancora.app.stage;

import ancora.app.journal.CoreJson;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.plan.Plan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Silence;
import ancora.core.plan.Span;
import ancora.core.time.Ticks;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Optional;

/** The plan as JSON, as the player takes it. What is without end has null for it. */
final class PlanJson {

  private static final JsonNodeFactory JSON = JsonNodeFactory.instance;

  private PlanJson() {}

  /** The plan; of its parts only those that differ from what was sent before. */
  static ObjectNode changes(Optional<Plan> before, Plan plan) {
    ObjectNode node = JSON.objectNode();
    node.put("rolling", plan.map().isPresent()).put("firstTick", plan.firstTick());
    plan.map().ifPresent(map -> node.set("anchors", StateJson.anchors(map)));
    ObjectNode click = node.putObject("click");
    click
        .put("ticks", plan.click().ticks(plan.meter()))
        .put("barTicks", plan.meter().barTicks())
        .put("beatKey", plan.click().sound().beatKey())
        .put("downbeatKey", plan.click().sound().downbeatKey())
        .put("gain", plan.click().gain());
    ArrayNode spans = click.putArray("spans");
    plan.clickSpans().forEach(span -> endOrNull(spans.addArray().add(span.from()), span.until()));
    plan.repeat()
        .ifPresent(
            repeat -> {
              ObjectNode written = (ObjectNode) CoreJson.write(repeat);
              node.set(
                  "repeat",
                  written
                      .put("step", repeat.grid().step())
                      .put("barTicks", plan.meter().barTicks()));
            });
    node.set("tolerances", CoreJson.write(plan.tolerances()));
    ArrayNode parts = node.putArray("parts");
    for (Plan.PartPlan part : plan.parts()) {
      if (before.map(b -> !b.parts().contains(part)).orElse(true)) {
        parts.add(part(part));
      }
    }
    ArrayNode order = node.putArray("order");
    plan.parts().forEach(part -> order.add(part.part().value()));
    return node;
  }

  private static ObjectNode part(Plan.PartPlan part) {
    ObjectNode node = JSON.objectNode();
    node.put("part", part.part().value());
    node.set("sound", CoreJson.write(part.sound()));
    ArrayNode spans = node.putArray("spans");
    part.spans().forEach(span -> spans.add(span(span)));
    return node;
  }

  private static ObjectNode span(Span span) {
    ObjectNode node = JSON.objectNode();
    node.put("id", span.id())
        .put("start", span.window().start())
        .put("length", span.window().length())
        .put("phase", span.phase())
        .put("from", span.from());
    if (span.until() != Ticks.OPEN) {
      node.put("until", span.until());
    }
    if (span.underWay()) {
      node.put("underWay", true);
    }
    if (span.letRing()) {
      node.put("letRing", true);
    }
    ArrayNode notes = node.putArray("notes");
    span.notes().forEach(note -> note(notes.addArray(), note));
    if (!span.moves().isEmpty()) {
      ArrayNode moves = node.putArray("moves");
      for (ControllerMove move : span.moves()) {
        Controller controller = move.controller();
        moves
            .addArray()
            .add(controller.kind().ordinal())
            .add(controller.number())
            .add(move.place())
            .add(move.value());
      }
    }
    return node;
  }

  /** What is as usual at the end of a row is left out. */
  private static void note(ArrayNode row, PlannedNote note) {
    row.add(note.id()).add(note.place()).add(note.length()).add(note.pitch()).add(note.velocity());
    Silence silence = note.silence();
    if (note.tied() || !silence.isNone()) {
      row.add(note.tied() ? 1 : 0);
    }
    if (!silence.isNone()) {
      boundOrNull(row, silence.from(), Long.MIN_VALUE);
      boundOrNull(row, silence.through(), Long.MAX_VALUE);
    }
  }

  private static void boundOrNull(ArrayNode row, long tick, long none) {
    if (tick == none) {
      row.addNull();
    } else {
      row.add(tick);
    }
  }

  private static void endOrNull(ArrayNode array, long tick) {
    if (tick == Ticks.OPEN) {
      array.addNull();
    } else {
      array.add(tick);
    }
  }
}
