package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.store.JournalRow;
import ancora.app.store.JournalWriter;
import ancora.app.store.ShowStore;
import ancora.core.Refusal;
import ancora.core.engine.Engine;
import ancora.core.rules.Command;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Keeps what happens in a show: each command as a line of its journal, and now and then the whole
 * stage, so that little of the journal has to be done again when it is opened.
 */
final class Keeper {

  private static final Logger LOG = LoggerFactory.getLogger(Keeper.class);

  /** While it rolls the stage is saved after so many lines, or so long, in microseconds. */
  static final int MOST_LINES = 2_000;

  private static final long LONGEST = 60_000_000;

  private final long showId;
  private final ShowStore store;
  private final JournalWriter journal;
  private final ObjectMapper json;
  private final Map<String, Long> lastOfEachClient;
  private final Engine engine;
  private long seq;
  private int leftOut;

  /** What was saved last; empty if it is not known what is on the disk. */
  private volatile Optional<Stage> saved;

  private final Stage base;
  private final List<Line> again = new ArrayList<>();

  private long savedSeq;
  private long savedAt;

  /** A command that is done again as the show is opened. */
  record Line(Command command, long stamp, long applied) {}

  /** Opens a show: as it was saved last, and then as the journal leads on. */
  Keeper(long showId, ShowStore store, JournalWriter journal, ObjectMapper json) {
    this.showId = showId;
    this.store = store;
    this.journal = journal;
    this.json = json;
    ShowStore.Saved base =
        store
            .find(showId)
            .orElseThrow(() -> new Refusal("There is no such show: choose one from the list."));
    this.engine = Engine.of(base.stage());
    this.base = base.stage();
    this.saved = Optional.of(base.stage());
    this.lastOfEachClient = new HashMap<>(store.lastOfEachClient(showId));
    this.seq = base.seq();
    this.savedSeq = base.seq();
    for (JournalRow row : store.journalAfter(showId, base.seq())) {
      if (row.rules() == Engine.RULES) {
        replay(row);
      } else {
        // a show is never done again under other rules than its own
        leftOut++;
      }
      seq = row.seq();
    }
  }

  private void replay(JournalRow row) {
    try {
      Command command = CommandJson.read(json.readTree(row.command()));
      engine.apply(command, row.stampUs(), row.appliedUs());
      again.add(new Line(command, row.stampUs(), row.appliedUs()));
    } catch (RuntimeException | JsonProcessingException unreadable) {
      LOG.warn("line {} of the journal of show {} is passed over", row.seq(), showId, unreadable);
    }
  }

  /** The show as it is now. */
  Engine engine() {
    return engine;
  }

  /** The show as it was saved last, before the journal led on. */
  Stage base() {
    return base;
  }

  /** What was done again since. */
  List<Line> again() {
    return List.copyOf(again);
  }

  /** How many lines were not done again, as they were done under older rules. */
  int leftOut() {
    return leftOut;
  }

  /** The highest number accepted from a page; 0 for one that was never there. */
  long last(String client) {
    return lastOfEachClient.getOrDefault(client, 0L);
  }

  boolean knows(String client) {
    return lastOfEachClient.containsKey(client);
  }

  /** A number for a command of the house itself. */
  long nextOfHouse() {
    return seq + 1;
  }

  /**
   * Writes a command that was done.
   *
   * @param written called when it is on the disk itself
   * @param lost called with a sentence if it could not be written
   */
  void write(
      Command command,
      long stamp,
      long now,
      String client,
      long number,
      Runnable written,
      Consumer<String> lost) {
    seq++;
    lastOfEachClient.put(client, number);
    journal.append(
        new JournalRow(
            showId,
            seq,
            stamp,
            now,
            client,
            number,
            CommandJson.write(command).toString(),
            Engine.RULES),
        written,
        lost);
  }

  /** Whether a stage that rolls should be saved again: what is at standstill always is, soon. */
  boolean wantsSaving(long now) {
    boolean rolls = !(engine.stage().transport() instanceof Transport.Standing);
    return seq > savedSeq && (!rolls || seq - savedSeq >= MOST_LINES || now - savedAt >= LONGEST);
  }

  /** Saves the stage as it is, on the journal's thread: what differs from what was saved last. */
  void save(long now) {
    Stage stage = engine.stage();
    Optional<Stage> before = saved;
    long lastSeq = seq;
    saved = Optional.of(stage);
    savedSeq = seq;
    savedAt = now;
    journal.then(() -> store.save(showId, stage, before, lastSeq), () -> saved = Optional.empty());
  }
}
