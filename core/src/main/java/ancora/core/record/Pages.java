package ancora.core.record;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * A list that goes on growing, in pages: one more copies a page, not the whole.
 *
 * @param pages full pages first, in the order of arrival
 */
public record Pages<T>(List<List<T>> pages) {

  private static final int PAGE = 64;

  public Pages {
    pages = List.copyOf(pages);
  }

  public static <T> Pages<T> empty() {
    return new Pages<>(List.of());
  }

  public int size() {
    return pages.isEmpty() ? 0 : (pages.size() - 1) * PAGE + lastPage().size();
  }

  /** The newest. */
  public Optional<T> last() {
    return pages.isEmpty() ? Optional.empty() : Optional.of(lastPage().get(lastPage().size() - 1));
  }

  public Stream<T> stream() {
    return pages.stream().flatMap(List::stream);
  }

  /** The newest that fit, back to the last page in which none does, in the order of arrival. */
  public List<T> newest(Predicate<T> fits) {
    List<List<T>> found = new ArrayList<>();
    for (int i = pages.size() - 1; i >= 0; i--) {
      List<T> page = pages.get(i).stream().filter(fits).toList();
      if (page.isEmpty()) {
        break;
      }
      found.add(0, page);
    }
    return found.stream().flatMap(List::stream).toList();
  }

  public Pages<T> with(T one) {
    List<List<T>> next = new ArrayList<>(pages);
    if (next.isEmpty() || lastPage().size() == PAGE) {
      next.add(List.of(one));
    } else {
      List<T> page = new ArrayList<>(lastPage().size() + 1);
      page.addAll(lastPage());
      page.add(one);
      next.set(next.size() - 1, List.copyOf(page));
    }
    return new Pages<>(next);
  }

  /** This, without its first page where that is old and so many are left without it. */
  public Pages<T> forgetting(Predicate<T> isOld, int least) {
    boolean goes =
        pages.size() > 1 && size() - PAGE >= least && pages.get(0).stream().allMatch(isOld);
    return goes ? new Pages<>(pages.subList(1, pages.size())) : this;
  }

  /** The newest that fits. */
  Optional<T> findNewest(Predicate<T> fits) {
    for (int i = pages.size() - 1; i >= 0; i--) {
      List<T> page = pages.get(i);
      for (int j = page.size() - 1; j >= 0; j--) {
        if (fits.test(page.get(j))) {
          return Optional.of(page.get(j));
        }
      }
    }
    return Optional.empty();
  }

  /** This, with the newest that fits changed; the same if none does. */
  public Pages<T> mapNewest(Predicate<T> fits, UnaryOperator<T> change) {
    for (int i = pages.size() - 1; i >= 0; i--) {
      List<T> page = pages.get(i);
      for (int j = page.size() - 1; j >= 0; j--) {
        if (fits.test(page.get(j))) {
          List<T> changedPage = new ArrayList<>(page);
          changedPage.set(j, change.apply(page.get(j)));
          List<List<T>> next = new ArrayList<>(pages);
          next.set(i, List.copyOf(changedPage));
          return new Pages<>(next);
        }
      }
    }
    return this;
  }

  private List<T> lastPage() {
    return pages.get(pages.size() - 1);
  }
}
