package ancora.app.journal;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.control.Assignment;
import ancora.core.control.ControlMap;
import ancora.core.control.Lamps;
import ancora.core.control.ReadyMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Maps of controls, of today and before, brought in as far as they go. */
public final class ControlsJson {

  private static final int FORMER = 1;
  private static final int MOST_ROWS = 20_000;

  private ControlsJson() {}

  /**
   * A map that was brought in.
   *
   * @param map what of it there is room and sense for
   * @param leftOut what was left out, in words with counts; empty if nothing was
   */
  public record Brought(ControlMap map, List<String> leftOut) {}

  /** A map as it was kept; what it stood for before keys could be taught it stands for still. */
  public static ControlMap kept(JsonNode kept) {
    ControlMap map = broughtIn(kept).map();
    boolean former = kept.path("format").asInt(0) == FORMER;
    return former ? map.and(new ControlMap("keys", ReadyMap.KEYS)) : map;
  }

  /** As much of a map as can be; refuses what is none. */
  public static Brought broughtIn(JsonNode node) {
    JsonNode rows = node.path("assignments");
    Refusal.unless(
        node.isObject() && rows.isArray() && rows.size() <= MOST_ROWS,
        "That is no map of controls: choose a file that was exported here.");
    int format = node.path("format").asInt(0);
    Map<String, Integer> left = new LinkedHashMap<>();
    if (format != FORMER && format != ControlMap.FORMAT) {
      left.put("It is of another format: what is known of it was taken", 0);
    }
    String name = node.path("name").asString("");
    Lamps lamps = Lamps.USUAL;
    try {
      lamps = node.has("lamps") ? CoreJson.read(node.get("lamps"), Lamps.class) : lamps;
    } catch (Refusal none) {
      left.merge("its lamps were not understood", 0, Integer::sum);
    }
    ControlMap map =
        new ControlMap(
            ControlMap.FORMAT,
            name.isBlank() || name.length() > Names.LONGEST ? "controls" : name,
            List.of(),
            lamps);
    for (JsonNode row : rows) {
      map = with(map, row, left);
    }
    return new Brought(
        map,
        left.entrySet().stream()
            .map(e -> e.getValue() == 0 ? e.getKey() + "." : e.getKey() + ": " + e.getValue() + ".")
            .toList());
  }

  private static ControlMap with(ControlMap map, JsonNode row, Map<String, Integer> left) {
    try {
      Assignment assignment = assignment(row);
      boolean doubled =
          map.of(assignment.control()).stream()
              .anyMatch(other -> other.gesture() == assignment.gesture());
      if (doubled) {
        left.merge("Left out, since their control does something already", 1, Integer::sum);
        return map;
      }
      if (map.assignments().size() == ControlMap.MOST) {
        left.merge("Left out, since a map has " + ControlMap.MOST + " at most", 1, Integer::sum);
        return map;
      }
      return map.with(assignment);
    } catch (Refusal refusal) {
      left.merge("Left out, since they make no sense here", 1, Integer::sum);
      return map;
    }
  }

  private static Assignment assignment(JsonNode row) {
    Refusal.unless(row.isObject(), "A control stands for a command.");
    if (!row.has("action")) {
      return CoreJson.read(row, Assignment.class);
    }
    ObjectNode today = (ObjectNode) row.deepCopy();
    today.remove(List.of("action", "number"));
    today.set("command", FormerCommands.assigned(row));
    return CoreJson.read(today, Assignment.class);
  }

  /** What was left out, as one sentence; empty if nothing was. */
  public static String words(Brought brought) {
    return brought.leftOut().stream().collect(Collectors.joining(" "));
  }
}
