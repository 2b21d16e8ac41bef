package ancora.core.history;

import ancora.core.clip.ClipId;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.vamp.Vamp;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import java.util.stream.Stream;

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
            && clipAlone().isPresent()
            && clipAlone().equals(later.clipAlone());
    if (!goesOn) {
      return Optional.empty();
    }
    Change both = Change.between(changes.get(0).before(), later.changes.get(0).after());
    return Optional.of(new Step(later.words, List.of(both), ended, later.turned));
  }

  private Optional<ClipId> clipAlone() {
    return changes.size() == 1 ? changes.get(0).clipAlone() : Optional.empty();
  }

  /** This step that has made other changes. */
  public Step with(List<Change> others) {
    return new Step(words, others, ended, turned);
  }

  /** This step that has made one change more. */
  public Step with(Change more) {
    return new Step(
        words, Stream.concat(changes.stream(), Stream.of(more)).toList(), ended, turned);
  }

  /** This step with each change made another, and without those that are nothing then. */
  public Step map(UnaryOperator<Change> change) {
    List<Change> next = changes.stream().map(change).toList();
    boolean same = IntStream.range(0, next.size()).allMatch(i -> next.get(i) == changes.get(i));
    return same
        ? this
        : new Step(words, next.stream().filter(c -> !c.isNothing()).toList(), ended, turned);
  }

  /** A show with this step taken back, whatever else has become of it since. */
  public Show takenBackIn(Show show) {
    Show next = show;
    for (int i = changes.size() - 1; i >= 0; i--) {
      next = changes.get(i).inverse().madeIn(next);
    }
    return next;
  }

  /** Whether it changes nothing, or no more than the order of what has gone by now. */
  public boolean isNothing() {
    return changes.stream().allMatch(Change::isNothing);
  }

  Step withoutEnded() {
    return ended.isEmpty() ? this : new Step(words, changes, Map.of(), turned);
  }
}
