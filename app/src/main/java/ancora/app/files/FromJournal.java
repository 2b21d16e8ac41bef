package ancora.app.files;

import ancora.app.journal.JournalFile;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.rules.cues.CueCommand;
import ancora.core.show.Show;
import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * A journal done again, as far as its show goes.
 *
 * @param show what it came to
 * @param leftOut what was not done, in sentences
 */
record FromJournal(Show show, List<String> leftOut) {

  static FromJournal of(byte[] bytes) {
    InputStreamReader text =
        new InputStreamReader(new ByteArrayInputStream(bytes), StandardCharsets.UTF_8);
    JournalFile journal = JournalFile.read(new BufferedReader(text).lines().iterator());
    Engine engine = Engine.of(journal.show());
    long last = 0;
    int refused = 0;
    for (JournalFile.Line line : journal.lines()) {
      last = line.at();
      if (engine.apply(line.command(), line.stamp(), last) instanceof Outcome.Refused) {
        refused++;
      }
    }
    engine.apply(new CueCommand.Stop(), last, last);
    List<String> leftOut = new ArrayList<>();
    if (refused > 0) {
      leftOut.add(refused + " of " + journal.lines().size() + " lines were refused.");
    }
    if (journal.rules() < Engine.RULES) {
      leftOut.add("It was made under older rules: it was done again under today's.");
    }
    return new FromJournal(engine.stage().show(), leftOut);
  }
}
