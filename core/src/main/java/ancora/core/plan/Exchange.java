package ancora.core.plan;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;

/**
 * Lists in order, of which some elements have become others: what stays is copied, not looked at.
 */
final class Exchange {

  private Exchange() {}

  /**
   * A list without some elements, and with others. All are in order, and no two of one list are
   * equal in it.
   *
   * @param gone elements of the list
   */
  static <T> List<T> of(List<T> among, List<T> gone, List<T> come, Comparator<? super T> order) {
    List<T> next = new ArrayList<>(among.size() + come.size());
    int from = 0;
    int i = 0;
    int j = 0;
    while (i < gone.size() || j < come.size()) {
      boolean goes =
          j == come.size() || i < gone.size() && order.compare(gone.get(i), come.get(j)) <= 0;
      T one = goes ? gone.get(i++) : come.get(j++);
      int found = Collections.binarySearch(among.subList(from, among.size()), one, order);
      int until = from + (found < 0 ? -found - 1 : found);
      next.addAll(among.subList(from, until));
      from = until;
      if (goes) {
        from++;
      } else {
        next.add(one);
      }
    }
    next.addAll(among.subList(from, among.size()));
    return next;
  }
}
