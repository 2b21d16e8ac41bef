package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.control.Action;
import ancora.core.control.Assignment;
import ancora.core.control.ControlMap;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.stream.Stream;

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

  /** The actions that are done when the foot comes down, also where it may be another gesture. */
  ArrayNode atOnce() {
    ArrayNode names = JsonNodeFactory.instance.arrayNode();
    Stream.of(Action.values()).filter(Action::isAtOnce).forEach(a -> names.add(a.name()));
    return names;
  }

  ControlMap controls() {
    return house.controls();
  }

  /**
   * Takes what a page wishes the controls to be; refuses what are none.
   *
   * @param failed called if they could not be kept
   */
  void setControls(JsonNode wish, Runnable failed) {
    boolean ready = wish.isTextual() && wish.textValue().equals("ready");
    Refusal.unless(ready || wish.isObject(), "Controls are an object, or “ready”.");
    house.set(ready ? ControlMap.STAND_IN : CoreJson.read(wish, ControlMap.class), failed);
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
        gestures
            .addObject()
            .put("gesture", assignment.gesture().name())
            .put("action", assignment.action().name())
            .put("number", assignment.number())
            .put("words", assignment.words());
      }
    }
    return pedals;
  }
}
