package ancora.core.history;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.ClipTraits;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.history.Change.OfLayer.Content;
import ancora.core.history.Change.OfTakeTraits.Traits;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Finds what is otherwise in one show than in another, thing by thing. What is no step is left. */
public final class Changes {

  private final Show before;
  private final Show after;
  private final List<Change> changes = new ArrayList<>();

  private Changes(Show before, Show after) {
    this.before = before;
    this.after = after;
  }

  public static List<Change> between(Show before, Show after) {
    Changes found = new Changes(before, after);
    found.addTempo();
    found.addParts();
    found.addMeter();
    found.addForm();
    return found.changes;
  }

  /** A tempo is otherwise with the clip in which it was found; else it is no step. */
  private void addTempo() {
    Set<ClipId> clips = new LinkedHashSet<>(clips(after));
    clips.addAll(clips(before));
    if (!before.tempo().equals(after.tempo()) && clips.size() == 1) {
      ClipId with = clips.iterator().next();
      changes.add(new Change.OfTempo(before.tempo(), after.tempo(), with));
    }
  }

  private static List<ClipId> clips(Show show) {
    return show.parts().stream().flatMap(part -> part.shelf().stream()).map(Clip::id).toList();
  }

  private void addParts() {
    // parts that have gone come first, the last one at the front: undone the other way round, each
    // comes back to its place
    List<PartId> backwards = new ArrayList<>(order(before));
    Collections.reverse(backwards);
    Set<PartId> ids = new LinkedHashSet<>(backwards);
    ids.addAll(order(after));
    ids.forEach(this::addPart);
    boolean sameParts = new HashSet<>(order(before)).equals(new HashSet<>(order(after)));
    if (sameParts && !order(before).equals(order(after))) {
      changes.add(new Change.OfOrder(order(before), order(after)));
    }
  }

  private void addPart(PartId id) {
    Optional<Part> was = part(before, id);
    Optional<Part> is = part(after, id);
    if (was.isEmpty() || is.isEmpty()) {
      int place = was.isEmpty() ? order(after).indexOf(id) : order(before).indexOf(id);
      changes.add(new Change.OfPart(id, was, is, place));
      return;
    }
    if (was.get() == is.get()) {
      return;
    }
    if (!traits(was.get()).equals(traits(is.get()))) {
      changes.add(
          new Change.OfPart(
              id,
              Optional.of(was.get().withShelf(List.of())),
              Optional.of(is.get().withShelf(List.of())),
              0));
    }
    Set<ClipId> clips = new LinkedHashSet<>();
    was.get().shelf().forEach(clip -> clips.add(clip.id()));
    is.get().shelf().forEach(clip -> clips.add(clip.id()));
    for (ClipId clip : clips) {
      addClip(id, clip, was.get().clip(clip), is.get().clip(clip));
    }
  }

  private static List<Object> traits(Part part) {
    return List.of(part.name(), part.pennant(), part.sound(), part.output());
  }

  private void addClip(PartId part, ClipId id, Optional<Clip> was, Optional<Clip> is) {
    if (was.isEmpty() || is.isEmpty()) {
      changes.add(new Change.OfClip(part, id, was, is));
      return;
    }
    if (was.get() == is.get()) {
      return;
    }
    ClipTraits old = ClipTraits.of(was.get());
    ClipTraits now = ClipTraits.of(is.get());
    if (!old.equals(now)) {
      changes.add(new Change.OfTraits(part, id, old, now));
    }
    Set<Integer> takes = new TreeSet<>();
    was.get().takes().forEach(take -> takes.add(take.number()));
    is.get().takes().forEach(take -> takes.add(take.number()));
    for (int take : takes) {
      addTake(part, was.get(), is.get(), take);
    }
  }

  private void addTake(PartId part, Clip from, Clip to, int number) {
    Optional<Take> was = from.findTake(number);
    Optional<Take> is = to.findTake(number);
    if (was.isEmpty() || is.isEmpty()) {
      boolean heard = (was.isEmpty() ? to : from).take().number() == number;
      changes.add(new Change.OfTake(part, from.id(), number, was, is, heard));
      return;
    }
    if (was.get() == is.get()) {
      return;
    }
    Traits old = Traits.of(was.get());
    Traits now = Traits.of(is.get());
    if (!old.equals(now)) {
      changes.add(new Change.OfTakeTraits(part, from.id(), number, old, now));
    }
    Set<Integer> layers = new TreeSet<>();
    was.get().allLayers().forEach(layer -> layers.add(layer.number()));
    is.get().allLayers().forEach(layer -> layers.add(layer.number()));
    Optional<Change> order = order(part, from.id(), was.get(), is.get());
    // whichever way round it is done, once all that come are there they stand in order
    order.ifPresent(changes::add);
    for (int layer : layers) {
      addLayer(part, from.id(), was.get(), is.get(), layer);
    }
    order.ifPresent(changes::add);
  }

  /** In which order layers are off, where more happened than that one went off, or came back. */
  private static Optional<Change> order(PartId part, ClipId clip, Take was, Take is) {
    List<Integer> before = was.off().stream().map(Layer::number).toList();
    List<Integer> after = is.off().stream().map(Layer::number).toList();
    return before.equals(after) || isOneMore(before, after) || isOneMore(after, before)
        ? Optional.empty()
        : Optional.of(new Change.OfOff(part, clip, was.number(), before, after));
  }

  private static boolean isOneMore(List<Integer> some, List<Integer> more) {
    return more.size() == some.size() + 1 && more.subList(0, some.size()).equals(some);
  }

  private void addLayer(PartId part, ClipId clip, Take from, Take to, int number) {
    Optional<Layer> was = from.layer(number);
    Optional<Layer> is = to.layer(number);
    boolean sameOn = from.isOn(number) == to.isOn(number);
    if (was.isPresent() && is.isPresent() && sameOn && was.get().equals(is.get())) {
      return;
    }
    Layer old = was.orElse(Layer.empty(number));
    Layer now = is.orElse(Layer.empty(number));
    changes.add(
        new Change.OfLayer(
            part,
            clip,
            from.number(),
            number,
            was.map(layer -> content(layer, now, from.isOn(number))),
            is.map(layer -> content(layer, old, to.isOn(number)))));
  }

  /** What a layer holds that another does not. */
  private static Content content(Layer layer, Layer other, boolean on) {
    return new Content(
        on,
        without(layer.notes(), other.notes()),
        without(layer.moves(), other.moves()),
        without(layer.notesOut(), other.notesOut()),
        without(layer.movesOut(), other.movesOut()));
  }

  private static <T> List<T> without(List<T> some, List<T> others) {
    if (some.equals(others)) {
      return List.of();
    }
    Set<T> there = new HashSet<>(others);
    return some.stream().filter(one -> !there.contains(one)).toList();
  }

  private void addMeter() {
    if (!before.meter().equals(after.meter())) {
      changes.add(new Change.OfMeter(before.meter(), after.meter()));
    }
  }

  private void addForm() {
    if (before.form().equals(after.form())) {
      return;
    }
    List<SectionId> backwards = new ArrayList<>(sections(before));
    Collections.reverse(backwards);
    Set<SectionId> ids = new LinkedHashSet<>(backwards);
    ids.addAll(sections(after));
    for (SectionId id : ids) {
      Optional<Section> was = section(before, id);
      Optional<Section> is = section(after, id);
      if (!was.equals(is)) {
        int place = was.isEmpty() ? sections(after).indexOf(id) : sections(before).indexOf(id);
        changes.add(new Change.OfSection(id, was, is, place));
      }
    }
    boolean same = new HashSet<>(sections(before)).equals(new HashSet<>(sections(after)));
    if (same && !sections(before).equals(sections(after))) {
      changes.add(new Change.OfForm(sections(before), sections(after)));
    }
  }

  private static Optional<Part> part(Show show, PartId id) {
    return show.parts().stream().filter(p -> p.id().equals(id)).findFirst();
  }

  private static Optional<Section> section(Show show, SectionId id) {
    return show.form().stream().filter(s -> s.id().equals(id)).findFirst();
  }

  private static List<PartId> order(Show show) {
    return show.parts().stream().map(Part::id).toList();
  }

  private static List<SectionId> sections(Show show) {
    return show.form().stream().map(Section::id).toList();
  }
}
