package ancora.app.store;

import ancora.core.Refusal;
import ancora.core.engine.Engine;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * What is done to the list of shows, and what the house keeps apart from them: a line of its own
 * journal each, which is on the disk itself before anybody is told that it is done.
 */
@Component
class HouseJournal {

  private static final Logger LOG = LoggerFactory.getLogger(HouseJournal.class);

  private static final String FULL =
      "The disk takes nothing: free space on it, then do that again.";

  private final Journals journals;

  HouseJournal(Journals journals) {
    this.journals = journals;
  }

  /** A line that says what is done. */
  static ObjectNode line(String what) {
    return JsonNodeFactory.instance.objectNode().put("do", what);
  }

  /** Writes a line; refuses, in a sentence, where the disk does not take it. Gives its number. */
  synchronized long write(ObjectNode line) {
    long micros = System.currentTimeMillis() * 1000;
    long seq = journals.lastSeq(Journals.HOUSE) + 1;
    try {
      journals.append(
          Journals.HOUSE,
          List.of(
              new JournalRow(seq, micros, micros, "house", seq, line.toString(), Engine.RULES)));
      return seq;
    } catch (IOException full) {
      LOG.error("the disk takes nothing", full);
      throw new Refusal(FULL);
    }
  }

  /** The lines after a number. */
  List<JournalRow> after(long seq) {
    return journals.after(Journals.HOUSE, seq);
  }
}
