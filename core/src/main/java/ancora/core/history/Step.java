package ancora.core.history;

import ancora.core.show.PartId;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.TreeMap;
import java.util.function.Predicate;

/**
 * What undo takes back at once: what was done to the show, so that it can be undone.
 *
 * @param words what was done, for the performer
 * @param changes what is otherwise
 * @param ended what sounded and was ended by it, as long as the transport has not stopped since
 * @param turned of what a knob did, the instant at which it was turned last, in microseconds
 */
public record Step(
    String words, List<Change> changes, Map<PartId, Vamp> ended, OptionalLong turned) {

  /** A knob that has rested so long begins another step, in microseconds. */
  private static final long REST = 1_000_000;

  /** What was not done by a knob. */
  public Step(String words, List<Change> changes, Map<PartId, Vamp> ended) {
    this(words, changes, ended, OptionalLong.empty());
  }

  public Step {
    changes = List.copyOf(changes);
    ended = Collections.unmodifiableMap(new TreeMap<>(ended));
  }

  /** This step, done by a knob that was turned at an instant. */
  public Step turnedAt(long micros) {
    return new Step(words, changes, ended, OptionalLong.of(micros));
  }

  /** This step and a later one as one, if a knob did both without a rest between. */
  Optional<Step> with(Step later) {
    boolean goesOn =
        turned.isPresent()
            && later.turned.isPresent()
            && later.turned.getAsLong() - turned.getAsLong() <= REST
            && changes.size() == 1
            && later.changes.size() == 1;
    if (goesOn
        && changes.get(0) instanceof Change.OfTraits was
        && later.changes.get(0) instanceof Change.OfTraits is
        && was.part().equals(is.part())
        && was.clip().equals(is.clip())) {
      Change both = new Change.OfTraits(is.part(), is.clip(), was.before(), is.after());
      return Optional.of(new Step(later.words, List.of(both), ended, later.turned));
    }
    return Optional.empty();
  }

  /** This step with a change in place of others. */
  public Step with(Change change, Predicate<Change> others) {
    List<Change> all = new ArrayList<>(changes);
    all.removeIf(others);
    all.add(change);
    return new Step(words, all, ended, turned);
  }

  /** Whether it changes nothing, or no more than the order of what has gone by now. */
  public boolean isNothing() {
    return changes.stream().allMatch(Change.OfOff.class::isInstance);
  }

  /** Whether a part has come by it. */
  public boolean brings(PartId part) {
    return changes.stream()
        .anyMatch(
            change ->
                change instanceof Change.OfPart one
                    && one.part().equals(part)
                    && one.before().isEmpty());
  }

  Step without(Predicate<Change> which) {
    return changes.stream().noneMatch(which)
        ? this
        : new Step(words, changes.stream().filter(which.negate()).toList(), ended, turned);
  }

  Step withoutEnded() {
    return ended.isEmpty() ? this : new Step(words, changes, Map.of(), turned);
  }
}
