package ancora.app.journal;

import ancora.core.show.Balance;
import ancora.core.time.Ticks;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Supplier;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * What has come to values since they were first kept: where it is lacking, in an older journal or
 * database, it is as usual.
 */
enum CameLater {
  /** How recordings begin and close. */
  RECORDING(off("takesAfter", "punchGoesOn"), nothing("runUp")),

  /** What a part sounds like; it once was one of General MIDI, and alone. */
  SOUND(nothing("own", "second", "outside"), node -> soundWithin(node.path("second"))),

  /** The metronome; it once fell on beats alone, its accents so far apart. */
  CLICK(
      nothing("own"),
      number(1, "divided"),
      node -> lacking(node, "accent", JsonNodeFactory.instance.numberNode(4.6))),

  /** How a part stands in the whole; it once had no tone, and the echo time of all. */
  BALANCE(number(0, "low", "high"), nothing("echoTime")),

  /** What all parts go through; peaks once were not held, and sounds came 5 dB softer. */
  MASTER(
      node -> {
        if (!node.has("limited")) {
          node.put("limited", true);
          double level = node.path("level").asDouble(0) - 5;
          node.put("level", Math.max(Balance.SILENCE, level));
        }
      }),

  /** How a clip comes in; it once was from the top, or in step. */
  MANNER(
      node -> {
        String before = node.path("inStep").asBoolean(false) ? "IN_STEP" : "FROM_THE_TOP";
        lacking(node, "comesIn", JsonNodeFactory.instance.stringNode(before));
      }),

  /** How a clip goes round. */
  CLIP(
      nothing("halvedFrom", "sound"),
      node -> {
        if (node.has("manner")) {
          node.set("manner", CameLater.MANNER.completed(node.get("manner")));
        }
        soundWithin(node);
      }),

  /** What comes next in a part; the unit by which it was asked for once did not matter. */
  CUE(CameLater::withUnit, CameLater::entryWithin),

  /** What hands hold; it was once not known what they had held just before. */
  HANDS(noneOf("erased"), nothing("sweep")),

  /** A key that is down. */
  HELD_KEY(nothing("copied")),

  /** A hold of erase; all there were went on still. */
  ERASE(node -> lacking(node, "from", node.path("outFrom")), number(Ticks.OPEN, "until")),

  /** A window that is to come; it once came to one clip alone. */
  WINDOW_CHANGE(noneOf("beside")),

  /** What a part is doing; a recording with nothing in it was once over for good. */
  PART_STAGE(
      nothing("lapsed"),
      node -> {
        if (node.path("hears") instanceof ObjectNode hears) {
          off("forgiven").accept(hears);
        }
      }),

  /** A recording onto a loop; its edges once were the lines themselves. */
  LOOP_RECORDING(number(0, "edge"), noneOf("dropped")),

  /** Where a clip stands; a breather once moved no phase. */
  VAMP(nothing("breather"), CameLater::entryWithin),

  /** What was kept last; it was once one phrase always. */
  KEPT(number(0, "more")),

  /** A control; it once was of a MIDI device always. */
  CONTROL(node -> lacking(node, "key", JsonNodeFactory.instance.stringNode(""))),

  /** What undo takes back. */
  STEP(nothing("turned")),

  /** What an edit of notes says besides which notes: where it says nothing, as usual. */
  EDIT(
      nothing("toPart", "toClip", "factor", "set", "add", "velocity", "layer", "grid", "feelOf"),
      node -> {
        boolean moves = List.of("move", "copy").contains(node.path("by").asString(""));
        (moves ? number(0, "ticks") : nothing("ticks")).accept(node);
      },
      number(0, "semitones"),
      off("toNext", "accents", "endsToo"),
      number(100, "strength"),
      number(50, "swing")),

  /** What a part takes of what is played; it once had one channel, or all. */
  INPUT(
      node -> {
        ArrayNode channels = JsonNodeFactory.instance.arrayNode();
        if (node.path("channel").isNumber()) {
          channels.add(node.get("channel"));
        }
        lacking(node, "channels", channels);
      },
      noneOf("devices"),
      number(0, "lowest"),
      number(127, "highest"));

  private final List<Consumer<ObjectNode>> came;

  @SafeVarargs
  CameLater(Consumer<ObjectNode>... came) {
    this.came = List.of(came);
  }

  /** A value with all that it has today; unchanged if it is no object. */
  JsonNode completed(JsonNode node) {
    if (!(node instanceof ObjectNode object)) {
      return node;
    }
    ObjectNode today = object.deepCopy();
    came.forEach(one -> one.accept(today));
    return today;
  }

  private static Consumer<ObjectNode> nothing(String... fields) {
    return lacking(JsonNodeFactory.instance::nullNode, fields);
  }

  private static Consumer<ObjectNode> off(String... fields) {
    return lacking(() -> JsonNodeFactory.instance.booleanNode(false), fields);
  }

  private static Consumer<ObjectNode> noneOf(String... fields) {
    return lacking(JsonNodeFactory.instance::arrayNode, fields);
  }

  private static Consumer<ObjectNode> number(long usual, String... fields) {
    return lacking(() -> JsonNodeFactory.instance.numberNode(usual), fields);
  }

  private static Consumer<ObjectNode> lacking(Supplier<JsonNode> usual, String... fields) {
    return node -> List.of(fields).forEach(field -> lacking(node, field, usual.get()));
  }

  /** A cue, and what it replaced, with the unit by which it was asked for. */
  private static ObjectNode withUnit(ObjectNode cue) {
    lacking(cue, "unit", JsonNodeFactory.instance.stringNode("BAR"));
    if (cue.path("replaced") instanceof ObjectNode before) {
      cue.set("replaced", withUnit(before));
      entryWithin(before);
    }
    return cue;
  }

  /** How a clip enters; no take was once chosen for it. */
  private static void entryWithin(ObjectNode node) {
    if (node.path("entry") instanceof ObjectNode entry) {
      number(0, "take").accept(entry);
    }
  }

  /** A sound inside a value is completed too. */
  private static void soundWithin(JsonNode node) {
    if (node instanceof ObjectNode object && object.path("sound").isObject()) {
      object.set("sound", SOUND.completed(object.get("sound")));
    }
  }

  private static void lacking(ObjectNode node, String field, JsonNode usual) {
    if (!node.has(field)) {
      node.set(field, usual);
    }
  }
}
