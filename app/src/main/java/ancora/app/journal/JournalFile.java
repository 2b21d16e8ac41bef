package ancora.app.journal;

import ancora.core.Refusal;
import ancora.core.rules.Command;
import ancora.core.show.Show;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.function.Supplier;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * A journal as a text file, a JSON object a line; {@code docs/journal.md} describes it.
 *
 * @param rules the version of the rules under which it was made
 * @param show the show as it stood before the first line
 * @param lines what was done, in the order in which it was applied
 */
public record JournalFile(int rules, Show show, List<Line> lines) {

  /** The format that is written, and the only one that is read. */
  public static final int FORMAT = 1;

  /** A journal that does not say under which rules it was made is of the first. */
  private static final int OLDEST_RULES = 1;

  /** A journal has no more lines than this. */
  static final int MOST_LINES = 2_000_000;

  private static final JsonMapper JSON = JsonMapper.shared();

  /**
   * Something done.
   *
   * @param at instant at which it was applied, in microseconds
   * @param stamp instant at which hand or foot acted, in microseconds
   * @param command what
   */
  public record Line(long at, long stamp, Command command) {}

  public JournalFile {
    lines = List.copyOf(lines);
  }

  /**
   * The head of a file.
   *
   * @param rules the version of the rules under which it was made
   */
  public static String head(Show show, int rules) {
    ObjectNode head =
        JsonNodeFactory.instance.objectNode().put("journal", FORMAT).put("rules", rules);
    head.set("show", CoreJson.write(show));
    return head.toString();
  }

  /**
   * A line of a file.
   *
   * @param command as {@link CommandJson} writes it
   */
  public static String line(long at, long stamp, ObjectNode command) {
    ObjectNode line = JsonNodeFactory.instance.objectNode().put("at", at).put("stamp", stamp);
    line.setAll(command);
    return line.toString();
  }

  /** Reads a file; refuses a bad line with its number and a reason. */
  public static JournalFile read(List<String> text) {
    return read(text.iterator());
  }

  /** The same, line by line: what comes after a bad line is not even looked at. */
  public static JournalFile read(Iterator<String> text) {
    Refusal.unless(text.hasNext(), "line 1: the file is empty: the first line has the show.");
    JsonNode head = at(1, () -> object(text.next()));
    Show show = at(1, () -> show(head));
    int rules = head.path("rules").asInt(OLDEST_RULES);
    List<Line> lines = new ArrayList<>();
    for (int number = 2; text.hasNext(); number++) {
      Refusal.unless(number <= MOST_LINES, "The file has more than %s lines.", MOST_LINES);
      String one = text.next();
      if (one.isBlank()) {
        continue;
      }
      long earliest = lines.isEmpty() ? Long.MIN_VALUE : lines.get(lines.size() - 1).at();
      lines.add(at(number, () -> line(object(one), earliest)));
    }
    return new JournalFile(rules, show, lines);
  }

  /** The show that a journal begins with; one that was kept long ago is brought along. */
  public static Show show(String origin) {
    return ShowDraft.read(object(origin));
  }

  /** The show that the first line of a journal has. */
  public static Show headShow(String head) {
    return show(object(head));
  }

  private static Show show(JsonNode head) {
    Refusal.unless(
        head.has("journal") && head.get("journal").isInt() && head.has("show"),
        "the first line is not the head of a journal: {\"journal\": 1, \"show\": …}.");
    Refusal.unless(
        head.get("journal").intValue() == FORMAT,
        "this is a journal of format %s: only format %s is read.",
        head.get("journal"),
        FORMAT);
    return ShowDraft.read(head.get("show"));
  }

  private static Line line(JsonNode node, long earliest) {
    long at = CommandJson.whole(node, "at");
    long stamp = CommandJson.whole(node, "stamp");
    Refusal.unless(at >= earliest, "it was applied before the line above it.");
    return new Line(at, stamp, CommandJson.read(node));
  }

  private static JsonNode object(String text) {
    try (CountingParser in = new CountingParser(JSON.createParser(text))) {
      JsonNode node = JSON.readTree(in);
      Refusal.unless(node != null && node.isObject(), "that is not a JSON object.");
      return node;
    } catch (JacksonException malformed) {
      throw new Refusal("that is not JSON.");
    }
  }

  private static <T> T at(int number, Supplier<T> reading) {
    try {
      return reading.get();
    } catch (Refusal refusal) {
      throw new Refusal("line " + number + ": " + refusal.getMessage());
    }
  }
}
