package ancora.core.engine;

import ancora.core.show.PartId;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Predicate;

/**
 * What undo takes back at once: what was done to the show, so that it can be undone.
 *
 * @param words what was done, for the performer
 * @param changes what is otherwise
 * @param ended what sounded and was ended by it, as long as the transport has not stopped since
 */
public record Step(String words, List<Change> changes, Map<PartId, Vamp> ended) {

  public Step {
    changes = List.copyOf(changes);
    ended = Collections.unmodifiableMap(new TreeMap<>(ended));
  }

  /** What leads from one stage to another; it may be nothing. */
  static Step between(String words, Stage before, Stage after) {
    Map<PartId, Vamp> ended = new TreeMap<>();
    before
        .partStages()
        .forEach(
            (part, on) -> {
              if (on.vamp().isPresent() && after.on(part).vamp().isEmpty()) {
                ended.put(part, on.vamp().get());
              }
            });
    return new Step(words, Changes.between(before.show(), after.show()), ended);
  }

  boolean isNothing() {
    return changes.isEmpty();
  }

  /** Whether a part has come by it. */
  boolean brings(PartId part) {
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
        : new Step(words, changes.stream().filter(which.negate()).toList(), ended);
  }

  Step withoutEnded() {
    return ended.isEmpty() ? this : new Step(words, changes, Map.of());
  }
}
