package ancora.app.stage;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;

/**
 * How one list becomes another, as JSON: {@code [place in the list before, how many go there, [what
 * comes there]]}, by rising place. What has stayed is not told, however much it is.
 */
final class ListEdits<T> {

  private final List<T> before;
  private final List<T> after;
  private final BiConsumer<ArrayNode, T> writer;
  private final ArrayNode edits = JsonNodeFactory.instance.arrayNode();

  private ListEdits(List<T> before, List<T> after, BiConsumer<ArrayNode, T> writer) {
    this.before = before;
    this.after = after;
    this.writer = writer;
  }

  /**
   * What leads from a list to another; empty if they are equal.
   *
   * @param writer fills a row with what comes
   */
  static <T> Optional<ArrayNode> of(
      List<T> before, List<T> after, BiConsumer<ArrayNode, T> writer) {
    ListEdits<T> found = new ListEdits<>(before, after, writer);
    found.find();
    return found.edits.isEmpty() ? Optional.empty() : Optional.of(found.edits);
  }

  /** A list's rows. */
  static <T> ArrayNode rows(List<T> list, BiConsumer<ArrayNode, T> writer) {
    ArrayNode rows = JsonNodeFactory.instance.arrayNode();
    list.forEach(each -> writer.accept(rows.addArray(), each));
    return rows;
  }

  private void find() {
    if (before == after) {
      return;
    }
    int shorter = Math.min(before.size(), after.size());
    int same = 0;
    while (same < shorter && isSame(before.get(same), after.get(same))) {
      same++;
    }
    int tail = 0;
    while (tail < shorter - same
        && isSame(before.get(before.size() - 1 - tail), after.get(after.size() - 1 - tail))) {
      tail++;
    }
    between(same, before.size() - tail, same, after.size() - tail);
  }

  /** The edits where the lists differ: from {@code i} to {@code endI}, and from {@code j} on. */
  private void between(int i, int endI, int j, int endJ) {
    Set<T> stay = new HashSet<>(after.subList(j, endJ));
    Set<T> known = new HashSet<>(before.subList(i, endI));
    while (i < endI || j < endJ) {
      int goes = i;
      int comes = j;
      while (goes < endI && !stay.contains(before.get(goes))) {
        goes++;
      }
      while (comes < endJ && !known.contains(after.get(comes))) {
        comes++;
      }
      boolean goOn =
          goes == endI ? comes == endJ : comes < endJ && isSame(before.get(goes), after.get(comes));
      if (!goOn) {
        // what stays has changed places: the rest is told anew
        add(i, endI, j, endJ);
        return;
      }
      add(i, goes, j, comes);
      i = Math.min(endI, goes + 1);
      j = Math.min(endJ, comes + 1);
    }
  }

  private void add(int from, int until, int comes, int comesUntil) {
    if (until > from || comesUntil > comes) {
      edits
          .addArray()
          .add(from)
          .add(until - from)
          .add(rows(after.subList(comes, comesUntil), writer));
    }
  }

  private boolean isSame(T one, T other) {
    return one == other || one.equals(other);
  }
}
