package ancora.core.engine;

import ancora.core.rules.Command;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * What was done since a press is done again as if the press had not been: at the same instants, and
 * with the same ids. What is made that was not made before has ids that nothing has had yet.
 */
final class Again {

  private final List<String> lost = new ArrayList<>();
  private Engine engine;
  private long freshId;

  /**
   * @param before as it was just before the press
   * @param freshId the first id that nothing has had yet
   */
  Again(Engine before, long freshId) {
    this.engine = before;
    this.freshId = freshId;
  }

  /** How all has become; what comes next has an id of its own. */
  Engine engine() {
    engine.numberFrom(Math.max(freshId, engine.nextId()));
    return engine;
  }

  /** What could not be done again, in words: the first of it. */
  Optional<String> lost() {
    return lost.stream().findFirst();
  }

  /** Does something that was not done before. */
  Outcome anew(Command command, long stamp, long number) {
    engine.numberFrom(freshId);
    Outcome outcome = engine.done(command, stamp, number);
    freshId = engine.nextId();
    return outcome;
  }

  /**
   * Does again what was done, up to an instant.
   *
   * @param endId the first id after all that it had
   * @param now the instant, in microseconds
   */
  void again(List<Recent.Accepted> since, long endId, long now) {
    for (int i = 0; i < since.size(); i++) {
      Recent.Accepted one = since.get(i);
      long end = i + 1 < since.size() ? since.get(i + 1).before().show().nextId() : endId;
      long first = one.before().show().nextId();
      pass(one.applied(), first);
      Outcome outcome = withIds(first, end, e -> e.done(one.command(), one.stamp(), one.number()));
      if (outcome instanceof Outcome.Refused refused) {
        lost.add("What was done since is not: " + refused.why());
      }
    }
    pass(now, endId);
  }

  private void pass(long instant, long endId) {
    withIds(
        engine.nextId(),
        endId,
        e -> {
          e.advance(instant);
          return instant;
        });
  }

  /** A step with the ids that it had; where it makes more than it did, with fresh ones. */
  private <T> T withIds(long firstId, long endId, Function<Engine, T> step) {
    Engine as = engine.copy();
    as.numberFrom(firstId);
    T result = step.apply(as);
    if (as.nextId() > endId) {
      as = engine.copy();
      as.numberFrom(freshId);
      result = step.apply(as);
      freshId = as.nextId();
    }
    engine = as;
    return result;
  }
}
