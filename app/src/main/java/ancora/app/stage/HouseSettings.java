package ancora.app.stage;

import ancora.app.store.HouseJournal;
import ancora.app.store.JournalWriter;
import ancora.app.store.Saving;
import ancora.app.store.ShowStore;
import ancora.core.Refusal;
import ancora.core.control.ControlMap;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArraySet;
import org.springframework.stereotype.Component;
import tools.jackson.databind.node.ObjectNode;

/**
 * What the house knows apart from its shows: which controls do what, and who is sent MIDI clock. It
 * is read from the database once: whoever comes back is told it though that be closed. What is set
 * is in the house's journal first, in its turn, as what is played is in a show's.
 */
@Component
class HouseSettings {

  private final ShowStore store;
  private final HouseJournal journal;
  private final JournalWriter writer;
  private final Saving saving;
  private volatile ControlMap controls;

  /** Who is told where the controls are others. */
  private final Set<Runnable> changed = new CopyOnWriteArraySet<>();

  /** What there was before the last change, so that one press has it back. */
  private volatile ControlMap before;

  private volatile List<String> clockTo;

  /** Reads them, once the database has been brought up to the journals. */
  HouseSettings(ShowStore store, HouseJournal journal, JournalWriter writer, Saving saving) {
    this.store = store;
    this.journal = journal;
    this.writer = writer;
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

  /** The controls as they were before the last change; as they are, where there was none. */
  ControlMap controlsBefore() {
    return before == null ? controls : before;
  }

  List<String> clockTo() {
    return clockTo;
  }

  /**
   * Tells somebody each time the controls are others, on the thread of whoever made them so.
   *
   * @return is to be run to be told no more
   */
  Runnable onChange(Runnable told) {
    changed.add(told);
    return () -> changed.remove(told);
  }

  /** Takes other controls, for all shows; calls where they could not be kept. */
  void set(ControlMap map, Runnable failed) {
    before = controls;
    controls = map;
    changed.forEach(Runnable::run);
    keep(HouseJournal.controls(map), failed);
  }

  /** Takes the devices that are sent MIDI clock; calls where they could not be kept. */
  void clock(List<String> devices, Runnable failed) {
    clockTo = List.copyOf(devices);
    keep(HouseJournal.clockTo(devices), failed);
  }

  private void keep(ObjectNode line, Runnable failed) {
    writer.then(
        () -> {
          try {
            journal.write(line);
            saving.then("house", journal::bringUp, () -> {});
          } catch (Refusal full) {
            failed.run();
          }
        });
  }
}
