package ancora.app.stage;

import ancora.app.store.Saving;
import ancora.app.store.ShowStore;
import ancora.core.control.ControlMap;
import java.util.List;
import org.springframework.stereotype.Component;

/**
 * What the house knows apart from its shows: which controls do what, and who is sent MIDI clock. It
 * is read from the database once: whoever comes back is told it though that be closed.
 */
@Component
class HouseSettings {

  private final ShowStore store;
  private final Saving saving;
  private volatile ControlMap controls;
  private volatile List<String> clockTo;

  /** Reads them, once the database has been brought up to the journals. */
  HouseSettings(ShowStore store, Saving saving) {
    this.store = store;
    this.saving = saving;
  }

  /** Reads what was kept. */
  void read() {
    controls = store.controls();
    clockTo = store.clockTo();
  }

  ControlMap controls() {
    return controls;
  }

  List<String> clockTo() {
    return clockTo;
  }

  /** Takes other controls, for all shows; calls where they could not be kept. */
  void set(ControlMap map, Runnable failed) {
    controls = map;
    saving.then("controls", () -> store.saveControls(map), failed);
  }

  /** Takes the devices that are sent MIDI clock; calls where they could not be kept. */
  void clock(List<String> devices, Runnable failed) {
    clockTo = List.copyOf(devices);
    saving.then("clockTo", () -> store.saveClockTo(devices), failed);
  }
}
