package ancora.app.stage;

import ancora.app.journal.CoreJson;
import ancora.core.note.ControllerMove;
import ancora.core.plan.Plan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Silence;
import ancora.core.plan.Span;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * The plan as JSON, as the player takes it: whole at first, and then what has changed, down to the
 * note. What is without end is left out, or null where it had one.
 */
final class PlanJson {

  private static final JsonNodeFactory JSON = JsonNodeFactory.instance;

  private PlanJson() {}

  /** The whole plan. */
  static ObjectNode whole(Plan plan) {
    return changes(Optional.empty(), plan);
  }

  /** What has changed from one plan to the next. */
  static ObjectNode changes(Optional<Plan> before, Plan plan) {
    ObjectNode node = Fields.changed(before.map(PlanJson::frame), frame(plan));
    Map<PartId, PartPlan> known =
        before.map(Plan::parts).orElse(List.of()).stream()
            .collect(Collectors.toMap(PartPlan::part, Function.identity()));
    ArrayNode parts = JSON.arrayNode();
    for (PartPlan part : plan.parts()) {
      PartPlan was = known.get(part.part());
      if (!part.equals(was)) {
        parts.add(part(Optional.ofNullable(was), part));
      }
    }
    if (!parts.isEmpty()) {
      node.set("parts", parts);
    }
    return node;
  }

  /** All but the parts. */
  private static ObjectNode frame(Plan plan) {
    ObjectNode node = JSON.objectNode();
    node.put("rolling", plan.map().isPresent()).put("firstTick", plan.firstTick());
    plan.map().ifPresent(map -> node.set("anchors", StateJson.anchors(map)));
    ObjectNode click = node.putObject("click");
    click
        .put("ticks", plan.click().step(plan.meter()))
        .put("perBeat", plan.click().divided())
        .put("barTicks", plan.meter().barTicks())
        .put("beatKey", plan.click().beatKey())
        .put("downbeatKey", plan.click().downbeatKey())
        .put("gain", plan.click().gain());
    plan.click().own().ifPresent(own -> click.set("own", CoreJson.write(own)));
    ArrayNode velocities = click.putArray("velocities");
    plan.click().velocities().forEach(velocities::add);
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
    ArrayNode order = node.putArray("order");
    plan.parts().forEach(part -> order.add(part.part().value()));
    return node;
  }

  private static ObjectNode part(Optional<PartPlan> before, PartPlan part) {
    ObjectNode node = JSON.objectNode().put("part", part.part().value());
    if (before.filter(b -> b.sound().equals(part.sound())).isEmpty()) {
      node.set("sound", StateJson.played(part.sound()));
    }
    if (!before.map(PartPlan::changes).orElse(List.of()).equals(part.changes())) {
      ArrayNode sounds = node.putArray("sounds");
      part.changes()
          .forEach(
              change -> sounds.addArray().add(change.tick()).add(StateJson.played(change.sound())));
    }
    Map<String, Span> known =
        before.map(PartPlan::spans).orElse(List.of()).stream()
            .collect(Collectors.toMap(Span::id, Function.identity()));
    ArrayNode spans = node.putArray("spans");
    part.spans().forEach(span -> spans.add(span(Optional.ofNullable(known.get(span.id())), span)));
    return node;
  }

  /** A span that is known already is told by its name, and what is otherwise. */
  private static ObjectNode span(Optional<Span> before, Span span) {
    ObjectNode node = JSON.objectNode().put("id", span.id());
    node.setAll(Fields.changed(before.map(PlanJson::stretch), stretch(span)));
    if (before.isEmpty()) {
      node.set("notes", ListEdits.rows(span.notes(), PlanJson::note));
      if (!span.moves().isEmpty()) {
        node.set("moves", ListEdits.rows(span.moves(), PlanJson::move));
      }
    } else {
      ListEdits.of(before.get().notes(), span.notes(), PlanJson::note)
          .ifPresent(edits -> node.set("noteEdits", edits));
      ListEdits.of(before.get().moves(), span.moves(), PlanJson::move)
          .ifPresent(edits -> node.set("moveEdits", edits));
    }
    return node;
  }

  /** A span without what sounds in it. */
  private static ObjectNode stretch(Span span) {
    ObjectNode node = JSON.objectNode();
    node.put("start", span.window().start())
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
    return node;
  }

  private static void move(ArrayNode row, ControllerMove move) {
    row.add(move.controller().kind().ordinal())
        .add(move.controller().number())
        .add(move.place())
        .add(move.value());
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
