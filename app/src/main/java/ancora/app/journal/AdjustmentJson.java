package ancora.app.journal;

import ancora.core.Refusal;
import ancora.core.show.Adjustment;
import java.util.OptionalDouble;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.node.StringNode;

/**
 * What a value is to become, seen from what it is: {@code "toggle"}, {@code "held"}, {@code
 * "next"}, {@code "previous"}, {@code "+1.5"}, {@code "-2"}, or {@code {"knob": [from, to], "at":
 * 0.5, "was": 0.4}}.
 */
final class AdjustmentJson {

  private static final String TOGGLE = "toggle";
  private static final String HELD = "held";
  private static final String KNOB = "knob";
  private static final Pattern BY = Pattern.compile("[+-]\\d{1,4}(\\.\\d{1,3})?");

  private AdjustmentJson() {}

  /** Whether it is one, and no value. */
  static boolean isOne(JsonNode node) {
    return node.has(KNOB)
        || node.isString()
            && (node.stringValue().matches(TOGGLE + "|" + HELD + "|next|previous")
                || BY.matcher(node.stringValue()).matches());
  }

  static Adjustment read(JsonNode node) {
    Refusal.unless(
        isOne(node), "Say how it changes: “toggle”, “next”, “previous”, “+1”, “-1”, or a knob.");
    if (node.has(KNOB)) {
      JsonNode range = node.get(KNOB);
      Refusal.unless(
          range.isArray()
              && range.size() == 2
              && range.get(0).isNumber()
              && range.get(1).isNumber(),
          "A knob turns from one number to another.");
      return new Adjustment.Knob(
          range.get(0).doubleValue(),
          range.get(1).doubleValue(),
          place(node, "at"),
          place(node, "was"));
    }
    return switch (node.stringValue()) {
      case TOGGLE -> new Adjustment.Toggle();
      case HELD -> new Adjustment.Held();
      case "next" -> new Adjustment.By(1);
      case "previous" -> new Adjustment.By(-1);
      default -> new Adjustment.By(Double.parseDouble(node.stringValue()));
    };
  }

  private static OptionalDouble place(JsonNode node, String name) {
    return node.hasNonNull(name)
        ? OptionalDouble.of(CommandJson.number(node, name))
        : OptionalDouble.empty();
  }

  static JsonNode write(Adjustment adjustment) {
    if (adjustment instanceof Adjustment.Toggle) {
      return StringNode.valueOf(TOGGLE);
    }
    if (adjustment instanceof Adjustment.Held) {
      return StringNode.valueOf(HELD);
    }
    if (adjustment instanceof Adjustment.By by) {
      double much = by.amount();
      String number = much == Math.rint(much) ? String.valueOf((long) much) : String.valueOf(much);
      return StringNode.valueOf(much > 0 ? "+" + number : number);
    }
    Adjustment.Knob knob = (Adjustment.Knob) adjustment;
    ObjectNode node = JsonNodeFactory.instance.objectNode();
    node.putArray(KNOB).add(knob.from()).add(knob.to());
    knob.at().ifPresent(at -> node.put("at", at));
    knob.was().ifPresent(was -> node.put("was", was));
    return node;
  }
}
