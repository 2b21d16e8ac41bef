package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.CoreJson;
import ancora.app.store.ShowStore;
import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.control.Assignment;
import ancora.core.control.ControlMap;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;

/**
 * What the house knows apart from its shows: which controls do what, and who is sent MIDI clock.
 */
final class Controlling {

  private static final int MOST_CLOCKED = 16;

  private final ShowStore store;
  private ControlMap controls;
  private List<String> clockTo;

  Controlling(ShowStore store) {
    this.store = store;
    read();
  }

  /** They may have been set from another show. */
  void read() {
    controls = store.controls();
    clockTo = store.clockTo();
  }

  List<ControlMap.Pedal> pedals() {
    return controls.pedals();
  }

  List<String> clockTo() {
    return clockTo;
  }

  ControlMap controls() {
    return controls;
  }

  /**
   * Takes what a page wishes the controls to be; refuses what are none.
   *
   * @return keeps it
   */
  Runnable setControls(JsonNode wish) {
    boolean ready = wish.isTextual() && wish.textValue().equals("ready");
    Refusal.unless(ready || wish.isObject(), "Controls are an object, or “ready”.");
    ControlMap map = ready ? ControlMap.STAND_IN : CoreJson.read(wish, ControlMap.class);
    controls = map;
    return () -> store.saveControls(map);
  }

  /**
   * Takes the outside devices that are to be sent MIDI clock.
   *
   * @return keeps it
   */
  Runnable setClockTo(JsonNode wish) {
    List<String> devices = CommandJson.list(wish, String.class);
    Refusal.unless(
        devices.size() <= MOST_CLOCKED && devices.stream().allMatch(Names::isDevice),
        "MIDI clock goes to %s devices at most, each with a name of at most %s characters.",
        MOST_CLOCKED,
        Names.LONGEST_DEVICE);
    clockTo = devices;
    return () -> store.saveClockTo(devices);
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
