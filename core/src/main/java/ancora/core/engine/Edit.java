package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * One step of the history: what was done to the show, so that it can be undone.
 *
 * @param words what was done, for the performer
 * @param changes what is otherwise
 * @param ended what sounded and was ended by it, as long as the transport has not stopped since
 */
public record Edit(String words, List<Change> changes, Map<PartId, Vamp> ended) {

  public Edit {
    changes = List.copyOf(changes);
    ended = Map.copyOf(ended);
  }

  /** What leads from one stage to another; it may be nothing. */
  static Edit between(String words, Stage before, Stage after) {
    Map<PartId, Vamp> ended = new HashMap<>();
    before
        .partStages()
        .forEach(
            (part, on) -> {
              if (on.vamp().isPresent() && after.on(part).vamp().isEmpty()) {
                ended.put(part, on.vamp().get());
              }
            });
    return new Edit(words, changes(before.show(), after.show()), ended);
  }

  boolean isNothing() {
    return changes.isEmpty();
  }

  Edit withoutEnded() {
    return ended.isEmpty() ? this : new Edit(words, changes, Map.of());
  }

  private static List<Change> changes(Show before, Show after) {
    List<Change> changes = new ArrayList<>();
    // parts that have gone come first, the last one at the front: undone the other way round, each
    // comes back to its place
    List<PartId> backwards = new ArrayList<>(order(before));
    Collections.reverse(backwards);
    Set<PartId> ids = new LinkedHashSet<>(backwards);
    ids.addAll(order(after));
    for (PartId id : ids) {
      addPart(changes, id, before, after);
    }
    if (!before.meter().equals(after.meter())) {
      changes.add(new Change.OfMeter(before.meter(), after.meter()));
    }
    if (!before.form().equals(after.form())) {
      changes.add(new Change.OfForm(before.form(), after.form()));
    }
    boolean sameParts = Set.copyOf(order(before)).equals(Set.copyOf(order(after)));
    if (sameParts && !order(before).equals(order(after))) {
      changes.add(new Change.OfOrder(order(before), order(after)));
    }
    return changes;
  }

  private static void addPart(List<Change> changes, PartId id, Show before, Show after) {
    Optional<Part> was = before.parts().stream().filter(p -> p.id().equals(id)).findFirst();
    Optional<Part> is = after.parts().stream().filter(p -> p.id().equals(id)).findFirst();
    if (was.isEmpty() || is.isEmpty()) {
      int place = was.isEmpty() ? order(after).indexOf(id) : order(before).indexOf(id);
      changes.add(new Change.OfPart(was, is, place));
      return;
    }
    if (was.get() == is.get()) {
      return;
    }
    Part wasBare = was.get().withShelf(List.of());
    Part isBare = is.get().withShelf(List.of());
    if (!wasBare.equals(isBare)) {
      changes.add(new Change.OfPart(Optional.of(wasBare), Optional.of(isBare), 0));
    }
    Set<ClipId> clips = new LinkedHashSet<>();
    was.get().shelf().forEach(clip -> clips.add(clip.id()));
    is.get().shelf().forEach(clip -> clips.add(clip.id()));
    for (ClipId clip : clips) {
      Optional<Clip> old = was.get().clip(clip);
      Optional<Clip> now = is.get().clip(clip);
      if (!old.equals(now)) {
        changes.add(new Change.OfClip(id, old, now));
      }
    }
  }

  private static List<PartId> order(Show show) {
    return show.parts().stream().map(Part::id).toList();
  }
}
