package ancora.app;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** A message with something in it that is otherwise than it should be. */
public final class Mutation {

  private static final String[] TEXTS = {
    "", " ", "\ud83c", "\u0000", "x".repeat(3000), "lighthouse \ud83c\udf0a", "NaN", "-1", "null"
  };
  private static final double[] NUMBERS = {
    0, -1, 0.5, 127, 128, 1e9, -1e18, 9.2e18, 1e300, 4096.25
  };

  private Mutation() {}

  public static ObjectNode of(ObjectNode example, Random random) {
    ObjectNode message = example.deepCopy();
    List<Runnable> ways = new ArrayList<>();
    collect(message, random, ways);
    for (int i = 0; i <= random.nextInt(2); i++) {
      ways.get(random.nextInt(ways.size())).run();
    }
    return message;
  }

  /** As JSON, in which half a character is written as what it is. */
  public static String onTheWire(ObjectNode message) {
    StringBuilder text = new StringBuilder();
    for (char c : message.toString().toCharArray()) {
      if (Character.isSurrogate(c)) {
        text.append(String.format("\\u%04x", (int) c));
      } else {
        text.append(c);
      }
    }
    return text.toString();
  }

  private static void collect(JsonNode node, Random random, List<Runnable> ways) {
    if (node instanceof ObjectNode object) {
      for (String name : new ArrayList<>(names(object))) {
        if (!name.equals("seq") && !name.equals("stamp")) {
          ways.add(() -> object.set(name, other(random)));
          ways.add(() -> object.set(name, other(random)));
          ways.add(() -> object.remove(name));
          if (object.get(name).isIntegralNumber()) {
            long value = object.get(name).longValue();
            ways.add(() -> object.put(name, near(value, random)));
          }
          collect(object.get(name), random, ways);
        }
      }
    } else if (node instanceof ArrayNode array) {
      ways.add(() -> array.add(other(random)));
      for (int i = 0; i < array.size(); i++) {
        int place = i;
        ways.add(
            () -> {
              if (place < array.size()) {
                array.set(place, other(random));
              }
            });
        collect(array.get(i), random, ways);
      }
    }
  }

  private static List<String> names(ObjectNode object) {
    List<String> names = new ArrayList<>();
    object.propertyNames().forEach(names::add);
    return names;
  }

  /** A whole number not far from it: most often one that could as well have been meant. */
  private static long near(long value, Random random) {
    return random.nextBoolean() ? value + random.nextInt(5) - 2 : value * 2;
  }

  private static JsonNode other(Random random) {
    JsonNodeFactory json = JsonNodeFactory.instance;
    return switch (random.nextInt(7)) {
      case 0 -> json.nullNode();
      case 1 -> json.booleanNode(random.nextBoolean());
      case 2 -> json.stringNode(TEXTS[random.nextInt(TEXTS.length)]);
      case 3 -> json.numberNode(NUMBERS[random.nextInt(NUMBERS.length)]);
      case 4 -> json.numberNode(random.nextLong());
      case 5 -> json.arrayNode().addNull().add(random.nextInt());
      default -> json.objectNode().put("do", "start").putNull("by");
    };
  }
}
