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

  int size() {
    return all.size();
  }

  /** Only so many are remembered, the first. */
  void shorten(int size) {
    all.subList(Math.min(size, all.size()), all.size()).clear();
  }

  /** What was done last, or done in another's place, counts by a number of its own. */
  void numbered(Command command, long stamp, long number) {
    for (int i = all.size() - 1; i >= 0; i--) {
      Accepted one = all.get(i);
      if (one.command() == command && one.stamp() == stamp) {
        all.set(i, new Accepted(number, command, stamp, one.applied(), one.before()));
        return;
      }
    }
  }

  /** The command of a number, if it is remembered, and not taken back already. */
  Optional<Accepted> back(long number, long now) {
    return all.stream()
        .filter(one -> one.number() == number && one.applied() >= now - WITHIN)
        .findFirst();
  }

  List<Accepted> before(Accepted one) {
    return all.subList(0, all.indexOf(one));
  }

  List<Accepted> after(Accepted one) {
    return all.subList(all.indexOf(one) + 1, all.size());
  }
}
