package ancora.app.journal;

import ancora.core.time.Ticks;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * What has come to values since they were first kept: where it is lacking, in an older journal or
 * database, it is as usual.
 */
enum CameLater {
  /** How recordings begin and close. */
  RECORDING(
      node -> {
        lacking(node, "takesAfter", JsonNodeFactory.instance.booleanNode(false));
        lacking(node, "punchGoesOn", JsonNodeFactory.instance.booleanNode(false));
        lacking(node, "runUp", JsonNodeFactory.instance.nullNode());
        return node;
      }),

  /** How a clip comes in; it once was from the top, or in step. */
  MANNER(
      node -> {
        String before = node.path("inStep").asBoolean() ? "IN_STEP" : "FROM_THE_TOP";
        lacking(node, "comesIn", JsonNodeFactory.instance.textNode(before));
        return node;
      }),

  /** How a clip goes round. */
  CLIP(
      node -> {
        lacking(node, "halvedFrom", JsonNodeFactory.instance.nullNode());
        if (node.has("manner")) {
          node.set("manner", CameLater.MANNER.completed(node.get("manner")));
        }
        return node;
      }),

  /** What comes next in a part; the unit by which it was asked for once did not matter. */
  CUE(CameLater::withUnit),

  /** What hands hold; it was once not known what they had held just before. */
  HANDS(
      node -> {
        lacking(node, "erased", JsonNodeFactory.instance.arrayNode());
        return node;
      }),

  /** A key that is down. */
  HELD_KEY(
      node -> {
        lacking(node, "copied", JsonNodeFactory.instance.nullNode());
        return node;
      }),

  /** A hold of erase; all there were went on still. */
  ERASE(
      node -> {
        lacking(node, "from", node.path("outFrom"));
        lacking(node, "until", JsonNodeFactory.instance.numberNode(Ticks.OPEN));
        return node;
      }),

  /** A window that is to come; it once came to one clip alone. */
  WINDOW_CHANGE(
      node -> {
        lacking(node, "beside", JsonNodeFactory.instance.arrayNode());
        return node;
      }),

  /** What a part is doing; a recording with nothing in it was once over for good. */
  PART_STAGE(
      node -> {
        lacking(node, "lapsed", JsonNodeFactory.instance.nullNode());
        return node;
      }),

  /** A recording onto a loop; its edges once were the lines themselves. */
  LOOP_RECORDING(
      node -> {
        lacking(node, "edge", JsonNodeFactory.instance.numberNode(0));
        lacking(node, "dropped", JsonNodeFactory.instance.arrayNode());
        return node;
      }),

  /** Where a clip stands; a breather once moved no phase. */
  VAMP(
      node -> {
        lacking(node, "breather", JsonNodeFactory.instance.nullNode());
        return node;
      }),

  /** What was kept last; it was once one phrase always. */
  KEPT(
      node -> {
        lacking(node, "more", JsonNodeFactory.instance.numberNode(0));
        return node;
      }),

  /** What undo takes back. */
  STEP(
      node -> {
        lacking(node, "turned", JsonNodeFactory.instance.nullNode());
        return node;
      }),

  /** What an edit of notes says besides which notes: where it says nothing, as usual. */
  EDIT(
      node -> {
        for (String optional :
            List.of(
                "toPart",
                "toClip",
                "factor",
                "set",
                "add",
                "velocity",
                "layer",
                "grid",
                "feelOf")) {
          lacking(node, optional, JsonNodeFactory.instance.nullNode());
        }
        boolean moves = List.of("move", "copy").contains(node.path("by").asText());
        JsonNodeFactory json = JsonNodeFactory.instance;
        lacking(node, "ticks", moves ? json.numberNode(0) : json.nullNode());
        lacking(node, "semitones", json.numberNode(0));
        for (String no : List.of("toNext", "accents", "endsToo")) {
          lacking(node, no, JsonNodeFactory.instance.booleanNode(false));
        }
        lacking(node, "strength", JsonNodeFactory.instance.numberNode(100));
        lacking(node, "swing", JsonNodeFactory.instance.numberNode(50));
        return node;
      }),

  /** What a part takes of what is played; it once had one channel, or all. */
  INPUT(
      node -> {
        ArrayNode channels = JsonNodeFactory.instance.arrayNode();
        if (node.path("channel").isNumber()) {
          channels.add(node.get("channel"));
        }
        lacking(node, "channels", channels);
        lacking(node, "devices", JsonNodeFactory.instance.arrayNode());
        lacking(node, "lowest", JsonNodeFactory.instance.numberNode(0));
        lacking(node, "highest", JsonNodeFactory.instance.numberNode(127));
        return node;
      });

  private final UnaryOperator<ObjectNode> completed;

  CameLater(UnaryOperator<ObjectNode> completed) {
    this.completed = completed;
  }

  /** A value with all that it has today; unchanged if it is no object. */
  JsonNode completed(JsonNode node) {
    return node instanceof ObjectNode object ? completed.apply(object.deepCopy()) : node;
  }

  /** A cue, and what it replaced, with the unit by which it was asked for. */
  private static ObjectNode withUnit(ObjectNode cue) {
    lacking(cue, "unit", JsonNodeFactory.instance.textNode("BAR"));
    if (cue.path("replaced") instanceof ObjectNode before) {
      cue.set("replaced", withUnit(before));
    }
    return cue;
  }

  private static void lacking(ObjectNode node, String field, JsonNode usual) {
    if (!node.has(field)) {
      node.set(field, usual);
    }
  }
}
