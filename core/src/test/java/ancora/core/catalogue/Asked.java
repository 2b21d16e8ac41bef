package ancora.core.catalogue;

import ancora.core.rules.Command;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;

/** Commands of the catalogue, as a test wants them. */
public final class Asked {

  private Asked() {}

  /**
   * A command by the words of its entry, with blanks filled by the words of their choices.
   *
   * @param chosen field, choice, field, choice …
   */
  public static Command asked(String words, String... chosen) {
    Map<String, Object> filled = new HashMap<>();
    for (int i = 0; i < chosen.length; i += 2) {
      filled.put(chosen[i], Catalogue.value(words, chosen[i], chosen[i + 1]));
    }
    return Catalogue.named(words).with(filled);
  }

  /** Any command of the catalogue, with its blanks filled anyhow. */
  public static Command any(Random random) {
    Entry entry = Catalogue.ALL.get(random.nextInt(Catalogue.ALL.size()));
    Map<String, Object> filled = new HashMap<>();
    for (Blank blank : entry.blanks()) {
      // the first ones are those that mostly mean something
      int most = random.nextInt(3) == 0 ? blank.choices().size() : 4;
      int choice = random.nextInt(Math.min(most, blank.choices().size()));
      filled.put(blank.field(), blank.choices().get(choice).value());
    }
    return entry.with(filled);
  }
}
