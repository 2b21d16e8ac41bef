package ancora.app.stage;

import ancora.app.journal.CommandJson;
import ancora.app.journal.JournalFile;
import ancora.app.store.JournalRow;
import ancora.app.store.JournalWriter;
import ancora.app.store.Journals;
import ancora.app.store.Saving;
import ancora.app.store.ShowStore;
import ancora.core.Refusal;
import ancora.core.engine.Engine;
import ancora.core.rules.Command;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Keeps what happens in a show: each command as a line of its journal, and now and then the whole
 * stage, so that little of the journal has to be done again when it is opened.
 */
final class Keeper {

  /** A long press is known after 500 ms; the second of two comes 320 ms after the first. */
  static final long ANOTHER_WITHIN_MILLIS = 820;

  private static final Logger LOG = LoggerFactory.getLogger(Keeper.class);

  /** While it rolls the stage is saved after so many lines, or so long, in microseconds. */
  static final int MOST_LINES = 2_000;

  private static final long LONGEST = 60_000_000;

  private final long showId;
  private final ShowStore store;
  private final JournalWriter journal;
  private final Journals journals;
  private final Saving saving;
  private final JsonMapper json;

  /** Of each page; those seen last come last. */
  private final Map<String, Numbers> numbers = new LinkedHashMap<>(16, 0.75f, true);

  private final Engine engine;
  private long seq;
  private int leftOut;

  /**
   * What was saved last; empty if it is not known what is in the database. Of the thread that saves
   * alone: what was to be saved, and was not, is never taken for saved.
   */
  private Optional<Stage> saved;

  /** The last line before what was saved last, and before that: what is older is packed. */
  private long packs;

  private final Stage base;
  private final List<Line> again = new ArrayList<>();

  private volatile long savedSeq;

  /** What a page has sent, by its number. */
  private record Sent(String client, long number) {}

  /** The lines in which the newest commands are. */
  private final Map<Sent, Long> lines =
      new LinkedHashMap<>() {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Sent, Long> eldest) {
          return size() > MOST_LINES;
        }
      };

  /** When a press was done last that may be taken back, in microseconds; 0 if none was. */
  private long mayGoBack;

  /** The last line that is in the database as well. */
  private volatile long inDatabase;

  /** When something was done last, in microseconds; 0 where nothing is known. */
  private long lastDone;

  private long savedAt;

  /** A command that is done again as the show is opened. */
  record Line(Command command, long stamp, long applied) {}

  /** Opens a show: as it was saved last, and then as the journal leads on. */
  Keeper(
      long showId,
      ShowStore store,
      Journals journals,
      JournalWriter journal,
      Saving saving,
      JsonMapper json) {
    this.showId = showId;
    this.store = store;
    this.journal = journal;
    this.journals = journals;
    this.saving = saving;
    this.json = json;
    ShowStore.Saved base = asSaved();
    this.engine = Engine.of(base.stage());
    this.base = base.stage();
    // what was made of a journal is not what the database has
    this.saved = base.seq() == 0 ? Optional.empty() : Optional.of(base.stage());
    this.seq = base.seq();
    this.savedSeq = base.seq();
    this.inDatabase = base.seq();
    this.packs = base.seq();
    Map<String, Long> last = new LinkedHashMap<>(base.clients());
    journals.after(
        showId,
        base.seq(),
        row -> {
          if (row.rules() == Engine.RULES) {
            replay(row);
          } else {
            // a show is never done again under other rules than its own
            leftOut++;
          }
          seq = row.seq();
          lastDone = row.appliedUs();
          // whoever was seen last comes last
          Long before = last.remove(row.client());
          last.put(
              row.client(), before == null ? row.clientSeq() : Math.max(before, row.clientSeq()));
        });
    last.forEach((page, number) -> numbers.put(page, new Numbers(number)));
  }

  /**
   * The show as it was saved last; what cannot be read of it is had from the journal's beginning.
   */
  private ShowStore.Saved asSaved() {
    try {
      return store
          .find(showId)
          .orElseThrow(() -> new Refusal("There is no such show: choose one from the list."));
    } catch (RuntimeException damaged) {
      String head = journals.head(showId).orElse("");
      if (head.isEmpty() || damaged instanceof Refusal && !store.isThere(showId)) {
        throw damaged;
      }
      LOG.error("show {} is had from its journal: what was saved cannot be read", showId, damaged);
      return new ShowStore.Saved(Stage.of(JournalFile.headShow(head)), 0, Map.of());
    }
  }

  private void replay(JournalRow row) {
    try {
      Command command = CommandJson.read(json.readTree(row.command()));
      engine.apply(command, row.stampUs(), row.appliedUs());
      again.add(new Line(command, row.stampUs(), row.appliedUs()));
    } catch (RuntimeException unreadable) {
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

  /** The numbers of what a page has sent. */
  Numbers numbers(String client) {
    return numbers.computeIfAbsent(client, c -> new Numbers(0));
  }

  /** Forgets pages that were here long ago, where very many have been. */
  void forget(Predicate<String> isThere) {
    Iterator<Map.Entry<String, Numbers>> eldest = numbers.entrySet().iterator();
    for (int more = numbers.size() - ShowStore.MOST_CLIENTS; more > 0 && eldest.hasNext(); ) {
      Map.Entry<String, Numbers> page = eldest.next();
      if (!isThere.test(page.getKey()) && page.getValue().isSettled()) {
        eldest.remove();
        more--;
      }
    }
  }

  boolean knows(String client) {
    return numbers.containsKey(client);
  }

  /** A number for a command of the house itself. */
  long nextOfHouse() {
    return seq + 1;
  }

  /**
   * Writes a command that was done; its page is told when it is on the disk itself.
   *
   * @param lost called with a sentence if it could not be written
   */
  void write(
      Command command, long stamp, long now, String client, long number, Consumer<String> lost) {
    seq++;
    lastDone = now;
    Numbers of = numbers(client);
    of.accepted(number);
    lines.put(new Sent(client, number), seq);
    if (command.isAtOnce()) {
      mayGoBack = now;
    }
    journal.append(
        showId,
        new JournalRow(
            seq, stamp, now, client, number, CommandJson.write(command).toString(), Engine.RULES),
        () -> of.written(number),
        lost);
  }

  /**
   * Whether a press that was done at once may turn out to be a long one, or the first of two.
   *
   * @param now in microseconds
   */
  boolean mayBeAnother(long now) {
    return mayGoBack != 0 && now - mayGoBack < ANOTHER_WITHIN_MILLIS * 1000;
  }

  /**
   * A message in which a press that is taken back, which a page names by its number, is counted:
   * how many lines back it was. What is not known any more is not taken back.
   */
  JsonNode counted(String client, JsonNode message) {
    if (!message.path("do").asString("").equals("instead") || !message.has("press")) {
      return message;
    }
    Long line = lines.get(new Sent(client, CommandJson.whole(message, "press")));
    ObjectNode told = (ObjectNode) message.deepCopy();
    told.remove("press");
    return told.put("of", line == null ? Integer.MAX_VALUE : seq - line + 1);
  }

  /** When something was done last, in microseconds; 0 where nothing is known. */
  long lastDone() {
    return lastDone;
  }

  /** Whether a stage that rolls should be saved again: what is at standstill always is, soon. */
  boolean wantsSaving(long now) {
    if (waitsToSave(now)) {
      return false;
    }
    boolean rolls = !(engine.stage().transport() instanceof Transport.Standing);
    return seq > savedSeq && (!rolls || seq - savedSeq >= MOST_LINES || now - savedAt >= LONGEST);
  }

  /**
   * Whether a press may yet be taken back: what is saved is what the journal goes on from, and it
   * cannot go back before that. It does not wait for ever.
   */
  boolean waitsToSave(long now) {
    boolean much = seq - savedSeq >= 2 * MOST_LINES || now - savedAt >= 2 * LONGEST;
    boolean mayStill = mayGoBack > 0 && now - mayGoBack <= Engine.TAKEN_BACK_WITHIN;
    return seq > savedSeq && mayStill && !much;
  }

  /** Whether all that was done is in the database. */
  boolean isSaved() {
    return inDatabase == seq;
  }

  /**
   * What saves the stage as it is, once all that led to it is in the journal.
   *
   * @param now in microseconds
   */
  Runnable toSave(long now) {
    Stage stage = engine.stage();
    long lastSeq = seq;
    Map<String, Long> clients = new LinkedHashMap<>();
    numbers.forEach((page, of) -> clients.put(page, of.accepted()));
    savedSeq = seq;
    savedAt = now;
    Runnable save =
        () ->
            saving.then(
                "show " + showId,
                () -> {
                  store.save(showId, stage, saved, lastSeq, clients);
                  saved = Optional.of(stage);
                  inDatabase = lastSeq;
                  journals.pack(showId, packs);
                  packs = lastSeq;
                },
                () -> {
                  saved = Optional.empty();
                  savedSeq = 0;
                });
    return () -> journal.then(save);
  }
}
