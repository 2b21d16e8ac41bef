package ancora.app.store;

import ancora.app.journal.CoreJson;
import ancora.core.Refusal;
import ancora.core.control.ControlMap;
import ancora.core.engine.Engine;
import java.io.IOException;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * What is done to the list of shows, and what the house keeps apart from them. Each is a line of
 * its own journal, on the disk itself before anybody is told that it is done; the database is
 * brought up to it from there, and only from there.
 */
@Component
public class HouseJournal {

  private static final Logger LOG = LoggerFactory.getLogger(HouseJournal.class);

  /** What the database has of what the house keeps apart from shows, by name. */
  static final String CONTROLS = "controls";

  static final String CLOCK_TO = "clockTo";

  /** How far the journal has been brought into the database. */
  private static final String KNOWN = "journal";

  static final String FULL = "The disk takes nothing: free space on it, then do that again.";

  private final Journals journals;
  private final ShowMapper shows;
  private final RunMapper runs;

  HouseJournal(Journals journals, ShowMapper shows, RunMapper runs) {
    this.journals = journals;
    this.shows = shows;
    this.runs = runs;
  }

  /** A line that says what is done. */
  static ObjectNode line(String what) {
    return JsonNodeFactory.instance.objectNode().put("do", what);
  }

  /** A line that says which controls stand for which actions, in every show. */
  public static ObjectNode controls(ControlMap map) {
    return line(CONTROLS).set("map", CoreJson.write(map));
  }

  /** A line that says which outside devices are sent MIDI clock. */
  public static ObjectNode clockTo(List<String> devices) {
    return line(CLOCK_TO).set("devices", CoreJson.write(devices));
  }

  /** Writes a line; refuses, in a sentence, where the disk does not take it. */
  public synchronized void write(ObjectNode line) {
    long micros = System.currentTimeMillis() * 1000;
    long seq = journals.lastSeq(Journals.HOUSE) + 1;
    try {
      journals.append(
          Journals.HOUSE,
          List.of(
              new JournalRow(seq, micros, micros, "house", seq, line.toString(), Engine.RULES)));
    } catch (IOException full) {
      LOG.error("the disk takes nothing", full);
      throw new Refusal(FULL);
    }
  }

  /** Does something: it is on the disk, then in the database. */
  synchronized void does(ObjectNode line) {
    write(line);
    bringUp();
  }

  /** Does in the database what has been done that it does not know. */
  public synchronized void bringUp() {
    String mark = shows.fromHouse(KNOWN);
    for (JournalRow row :
        journals.after(Journals.HOUSE, Rows.isNothing(mark) ? 0 : Long.parseLong(mark))) {
      inDatabase(CoreJson.read(row.command(), JsonNode.class), row.appliedUs());
      shows.keepInHouse(KNOWN, String.valueOf(row.seq()));
    }
  }

  private void inDatabase(JsonNode line, long micros) {
    long show = line.path("show").asLong(0);
    switch (line.path("do").asString("")) {
      case "newShow" -> shows.setDemo(show, line.path("demo").asBoolean(false));
      case "rename" -> shows.rename(show, line.get("title").asString(""));
      case "delete" -> shows.setDeleted(show, true, micros);
      case "putBack" -> shows.setDeleted(show, false, 0);
      case CONTROLS -> shows.keepInHouse(CONTROLS, line.get("map").toString());
      case CLOCK_TO -> shows.keepInHouse(CLOCK_TO, line.get("devices").toString());
      case "nameRun" ->
          runs.rename(show, line.get("run").intValue(), line.get("name").asString(""));
      default -> LOG.warn("nothing is known of {}", line);
    }
  }
}
