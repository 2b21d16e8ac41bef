package ancora.app.stage;

import ancora.core.run.From;
import ancora.core.run.Rendering;
import ancora.core.run.RunPart;
import ancora.core.run.Stood;
import ancora.core.time.TempoMap;
import java.util.List;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** What a page needs to make sound files of a run, as JSON. */
public final class RenderingJson {

  private static final JsonNodeFactory JSON = JsonNodeFactory.instance;

  private RenderingJson() {}

  /** A rendering, and what it is called. */
  public static ObjectNode of(String title, Rendering rendering) {
    ObjectNode node = JSON.objectNode().put("title", title);
    node.put("micros", rendering.micros()).put("tail", rendering.tail());
    ArrayNode parts = node.putArray("parts");
    for (RunPart part : rendering.parts()) {
      parts.addObject().put("id", part.id().value()).put("name", part.name());
    }
    node.set("stood", stood(rendering.stood()));
    ArrayNode tempi = node.putArray("tempi");
    for (TempoMap.Anchor anchor : rendering.plan().map().orElseThrow().anchors()) {
      tempi.addArray().add(Math.max(0, anchor.micros())).add(anchor.tempo().bpm());
    }
    node.set("master", StateJson.master(rendering.master()));
    node.set("plan", PlanJson.whole(rendering.plan()));
    return node;
  }

  /** How parts stood in the whole, as rows: from when on, which part, how. */
  static ArrayNode stood(List<Stood> stood) {
    ArrayNode rows = JSON.arrayNode();
    for (Stood row : stood) {
      From.OfBalance from = row.from();
      rows.addArray()
          .add(row.micros())
          .add(row.part().value())
          .add(StateJson.balance(from.balance(), from.gain()));
    }
    return rows;
  }
}
