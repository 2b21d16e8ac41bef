package ancora.core.record;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * The memory of all that was played on a part: the last ten minutes, and at least the last 20 000
 * events. Notes are kept in pages, so that remembering one more copies a page, not the whole.
 *
 * @param pages full pages first, each in the order of arrival
 */
public record Hindsight(List<List<Played>> pages) {

  /** Nothing played yet. */
  public static final Hindsight EMPTY = new Hindsight(List.of());

  /** What is older than this may be forgotten, in microseconds: ten minutes. */
  public static final long SPAN = 600_000_000;

  /** At least this many notes are remembered (a note is two events). */
  public static final int LEAST_NOTES = 10_000;

  private static final int PAGE = 64;

  public Hindsight {
    pages = List.copyOf(pages);
  }

  public int size() {
    return pages.isEmpty() ? 0 : (pages.size() - 1) * PAGE + lastPage().size();
  }

  /** All notes, in the order of arrival. */
  public Stream<Played> notes() {
    return pages.stream().flatMap(List::stream);
  }

  /** Notes that went down at an instant or later, in the order of arrival. */
  public List<Played> since(double micros) {
    List<Played> found = new ArrayList<>();
    for (int i = pages.size() - 1; i >= 0; i--) {
      List<Played> page = pages.get(i).stream().filter(p -> p.onMicros() >= micros).toList();
      found.addAll(0, page);
      if (page.isEmpty()) {
        break;
      }
    }
    return found;
  }

  public Hindsight with(Played note) {
    List<List<Played>> next = new ArrayList<>(pages);
    if (next.isEmpty() || lastPage().size() == PAGE) {
      next.add(List.of(note));
    } else {
      List<Played> page = new ArrayList<>(lastPage().size() + 1);
      page.addAll(lastPage());
      page.add(note);
      next.set(next.size() - 1, List.copyOf(page));
    }
    boolean firstPageIsOld =
        (next.size() - 2) * PAGE >= LEAST_NOTES
            && next.get(0).stream().allMatch(p -> p.onMicros() < note.onMicros() - SPAN);
    return new Hindsight(firstPageIsOld ? next.subList(1, next.size()) : next);
  }

  /** This memory with one note changed; unchanged if the note is forgotten. */
  public Hindsight map(long noteId, UnaryOperator<Played> change) {
    for (int i = pages.size() - 1; i >= 0; i--) {
      List<Played> page = pages.get(i);
      for (int j = page.size() - 1; j >= 0; j--) {
        if (page.get(j).noteId() == noteId) {
          List<Played> changedPage = new ArrayList<>(page);
          changedPage.set(j, change.apply(page.get(j)));
          List<List<Played>> next = new ArrayList<>(pages);
          next.set(i, List.copyOf(changedPage));
          return new Hindsight(next);
        }
      }
    }
    return this;
  }

  private List<Played> lastPage() {
    return pages.get(pages.size() - 1);
  }
}
