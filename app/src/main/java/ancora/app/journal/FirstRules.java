package ancora.app.journal;

import ancora.core.clip.Clip;
import ancora.core.history.Change;
import ancora.core.history.Step;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * What was kept under the first rules, brought to the shape of today: the same music. A clip had
 * the take that was heard in it ({@code take}, {@code layers}, {@code peeled}) and its others
 * beside; layers took nothing out; the history kept whole clips.
 */
public final class FirstRules {

  private static final JsonNodeFactory JSON = JsonNodeFactory.instance;

  private FirstRules() {}

  /** A show, with all that is in it. */
  public static ObjectNode show(ObjectNode show) {
    show.path("parts").forEach(part -> part((ObjectNode) part));
    return show;
  }

  /** A part, with the clips on its shelf. */
  public static ObjectNode part(ObjectNode part) {
    part.path("shelf").forEach(clip -> clip((ObjectNode) clip));
    return part;
  }

  /** A clip; one that has today's shape stays as it is. */
  public static ObjectNode clip(ObjectNode clip) {
    JsonNode head = clip.remove("take");
    JsonNode layers = clip.remove("layers");
    JsonNode peeled = clip.remove("peeled");
    JsonNode others = clip.remove("others");
    if (head == null && layers == null) {
      return clip;
    }
    int number = head == null ? 1 : head.path("number").asInt(1);
    ArrayNode takes = JSON.arrayNode();
    takes.add(take(head, layers, peeled));
    int next = number + 1;
    for (JsonNode other : others == null ? JSON.arrayNode() : others) {
      takes.add(take(other.get("head"), other.get("layers"), other.get("peeled")));
      next = Math.max(next, other.path("head").path("number").asInt(0) + 1);
    }
    clip.set("takes", sorted(takes));
    clip.putArray("heard").add(number);
    clip.put("nextTake", next);
    return clip;
  }

  private static ArrayNode sorted(ArrayNode takes) {
    List<JsonNode> all = new ArrayList<>();
    takes.forEach(all::add);
    all.sort((a, b) -> Integer.compare(a.get("number").intValue(), b.get("number").intValue()));
    return JSON.arrayNode().addAll(all);
  }

  private static ObjectNode take(JsonNode head, JsonNode layers, JsonNode peeled) {
    ObjectNode take = JSON.objectNode();
    JsonNode known = head == null ? JSON.objectNode() : head;
    take.put("number", known.path("number").asInt(1))
        .put("name", known.path("name").asString(""))
        .put("partial", known.path("partial").asBoolean(false));
    long[] move = {1};
    int[] next = {2};
    take.set("layers", layers(layers, move, next));
    take.set("off", layers(peeled, move, next));
    take.put("nextLayer", next[0]).put("nextMove", move[0]);
    take.putArray("stretches");
    return take;
  }

  private static ArrayNode layers(JsonNode layers, long[] nextMove, int[] nextLayer) {
    ArrayNode brought = JSON.arrayNode();
    for (JsonNode node : layers == null ? JSON.arrayNode() : layers) {
      ObjectNode layer = layer((ObjectNode) node);
      layer.path("moves").forEach(move -> ((ObjectNode) move).put("id", nextMove[0]++));
      nextLayer[0] = Math.max(nextLayer[0], layer.path("number").asInt(0) + 1);
      brought.add(layer);
    }
    return brought;
  }

  /** A layer; it took nothing out, and its moves had no ids. */
  static ObjectNode layer(ObjectNode layer) {
    for (String out : List.of("moves", "notesOut", "movesOut")) {
      if (!layer.has(out)) {
        layer.putArray(out);
      }
    }
    layer
        .path("moves")
        .forEach(
            move -> {
              if (!move.has("id")) {
                ((ObjectNode) move).put("id", 0);
              }
            });
    return layer;
  }

  /** A step of the history: what it changed is found again between what was before and after. */
  public static Step step(JsonNode edit) {
    List<Change> changes = new ArrayList<>();
    edit.path("changes").forEach(change -> changes.addAll(changes(change)));
    return new Step(edit.path("words").asString(""), changes, Map.of());
  }

  private static List<Change> changes(JsonNode change) {
    return switch (change.path("of").asString("")) {
      case "clip" -> List.of(Change.between(ofClip(change, "before"), ofClip(change, "after")));
      case "part" -> List.of(ofPart(change));
      case "order", "meter" -> List.of(CoreJson.read(change, Change.class));
      case "form" -> List.of(Change.between(ofForm(change, "before"), ofForm(change, "after")));
      default -> List.of();
    };
  }

  private static Show ofClip(JsonNode change, String when) {
    PartId id = new PartId(change.path("part").asInt(0));
    Part part = Part.of(id, "Part", Sound.STANDARD_KIT);
    JsonNode clip = change.path(when);
    Part with =
        clip.isObject()
            ? part.withClip(CoreJson.read(clip((ObjectNode) clip.deepCopy()), Clip.class))
            : part;
    return Show.named("Show").withParts(List.of(with));
  }

  private static Change ofPart(JsonNode change) {
    ObjectNode today = (ObjectNode) change.deepCopy();
    for (String when : List.of("before", "after")) {
      if (today.path(when) instanceof ObjectNode part) {
        part(part);
      }
    }
    Change read = CoreJson.read(today, Change.class);
    return Change.between(read.before(), read.after());
  }

  private static Show ofForm(JsonNode change, String when) {
    return Show.named("Show").withForm(List.of(CoreJson.read(change.get(when), Section[].class)));
  }
}
