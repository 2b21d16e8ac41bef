package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.catalogue.Entry;
import ancora.core.control.Assignment;
import ancora.core.control.Control;
import ancora.core.control.ControlMap;
import ancora.core.control.Lamps;
import ancora.core.control.ReadyMap;
import ancora.core.engine.Engine;
import ancora.core.engine.Lit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** The controls and the clock of the house, as the pages of a show see and set them. */
final class Controlling {

  private static final int MOST_CLOCKED = 16;

  private final HouseSettings house;

  Controlling(HouseSettings house) {
    this.house = house;
  }

  List<ControlMap.Pedal> pedals() {
    return house.controls().pedals();
  }

  List<String> clockTo() {
    return house.clockTo();
  }

  /** The map, and what each of its assignments means, in the same order. */
  ObjectNode controls() {
    ControlMap map = house.controls();
    ObjectNode told = JsonNodeFactory.instance.objectNode();
    told.set("map", CoreJson.write(map));
    ArrayNode meanings = told.putArray("meanings");
    for (Assignment assignment : map.assignments()) {
      meanings
          .addObject()
          .put("words", assignment.words())
          .put("hold", Entry.holdOf(assignment.command()).name())
          .put("atOnce", assignment.command().isAtOnce());
    }
    return told;
  }

  /**
   * Takes what a page wishes the controls to be; refuses what are none.
   *
   * @param failed called if they could not be kept
   */
  void setControls(JsonNode wish, Runnable failed) {
    house.set(wished(wish), failed);
  }

  private ControlMap wished(JsonNode wish) {
    ControlMap now = house.controls();
    Refusal.unless(
        wish.isObject() || wish.isString() && wish.stringValue().matches("ready|add|before"),
        "Controls are a map, what is taught of it, or “ready”, “add” or “before”.");
    return switch (wish.asString("")) {
      case "ready" -> ReadyMap.ALL;
      case "add" -> now.and(ReadyMap.ALL);
      case "before" -> house.controlsBefore();
      default ->
          wish.has("assignments") ? CoreJson.read(wish, ControlMap.class) : otherwise(now, wish);
    };
  }

  /** A map with what is taught, and without what is taken off. */
  private static ControlMap otherwise(ControlMap now, JsonNode wish) {
    ControlMap next = now;
    for (Assignment off : list(wish, "takeOff")) {
      next = next.without(off.control(), off.gesture());
    }
    for (Assignment taught : list(wish, "teach")) {
      next = next.with(taught);
    }
    next =
        wish.has("order") ? next.ordered(CommandJson.list(wish.get("order"), Control.class)) : next;
    next = wish.has("name") ? next.named(CommandJson.text(wish, "name")) : next;
    return wish.has("lamps") ? next.lit(CommandJson.part(wish, "lamps", Lamps.class)) : next;
  }

  private static List<Assignment> list(JsonNode wish, String field) {
    return wish.has(field) ? CommandJson.list(wish.get(field), Assignment.class) : List.of();
  }

  /**
   * Takes the outside devices that are to be sent MIDI clock.
   *
   * @param failed called if they could not be kept
   */
  void setClockTo(JsonNode wish, Runnable failed) {
    List<String> devices = CommandJson.list(wish, String.class);
    Refusal.unless(
        devices.size() <= MOST_CLOCKED && devices.stream().allMatch(Names::isDevice),
        "MIDI clock goes to %s devices at most, each with a name of at most %s characters.",
        MOST_CLOCKED,
        Names.LONGEST_DEVICE);
    house.clock(devices, failed);
  }

  /** The footboard as it is taught. */
  ArrayNode footboard() {
    ArrayNode pedals = JsonNodeFactory.instance.arrayNode();
    for (ControlMap.Pedal pedal : pedals()) {
      ObjectNode node = pedals.addObject();
      node.set("control", CoreJson.write(pedal.control()));
      ArrayNode gestures = node.putArray("gestures");
      for (Assignment assignment : pedal.gestures()) {
        ObjectNode gesture = gestures.addObject().put("gesture", assignment.gesture().name());
        gesture.set("command", CommandJson.write(assignment.command()));
        gesture
            .put("key", FootboardWords.key(assignment))
            .put("hold", Entry.holdOf(assignment.command()).name())
            .put("words", assignment.words());
      }
    }
    return pedals;
  }

  /** How each control lights that can: {@code "device kind channel number"}. */
  Map<String, Lit> lit(Engine engine, long now) {
    Map<String, Lit> lit = new LinkedHashMap<>();
    for (Assignment assignment : house.controls().assignments()) {
      Control control = assignment.control();
      boolean lights =
          control.kind() == Control.Kind.NOTE || control.kind() == Control.Kind.CONTROL_CHANGE;
      boolean first =
          assignment.gesture() == Assignment.Gesture.SHORT
              || assignment.gesture() == Assignment.Gesture.EACH;
      if (lights && first && Entry.holdOf(assignment.command()) != Entry.Hold.TURNED) {
        String key =
            "%s %s %s %s"
                .formatted(control.device(), control.kind(), control.channel(), control.number());
        lit.put(key, engine.lit(assignment.command(), now));
      }
    }
    return lit;
  }
}
