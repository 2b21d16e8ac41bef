package ancora.core.engine;

import ancora.core.rules.Command;
import ancora.core.stage.Stage;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What was accepted in the last moments, in the order in which it was done, and what there was
 * before each: so it can be done again.
 */
final class Recent {

  /** So long, in microseconds, what was accepted can be taken back. */
  static final long WITHIN = 2_000_000;

  /** No more is remembered. */
  private static final int MOST = 4096;

  /**
   * A command that was accepted.
   *
   * @param number of all that were accepted
   * @param before the stage just before it
   */
  record Accepted(long number, Command command, long stamp, long applied, Stage before) {}

  private final List<Accepted> all = new ArrayList<>();

  void add(Accepted accepted) {
    all.add(accepted);
    int old = 0;
    while (all.size() - old > MOST || all.get(old).applied() < accepted.applied() - WITHIN) {
      old++;
    }
    all.subList(0, old).clear();
  }

  Recent copy() {
    Recent copy = new Recent();
    copy.all.addAll(all);
    return copy;
  }

  /** The command of a number, if it is remembered, and not taken back already. */
  Optional<Accepted> back(long number, long now) {
    return all.stream()
        .filter(one -> one.number() == number && one.applied() >= now - WITHIN)
        .findFirst();
  }

  Recent before(Accepted one) {
    Recent before = new Recent();
    before.all.addAll(all.subList(0, all.indexOf(one)));
    return before;
  }

  List<Accepted> after(Accepted one) {
    return List.copyOf(all.subList(all.indexOf(one) + 1, all.size()));
  }
}
