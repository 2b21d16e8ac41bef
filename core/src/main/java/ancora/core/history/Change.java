package ancora.core.history;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * What is otherwise in a show after a step; it can be done the other way round.
 *
 * @param before how it was, cut down to what differs
 * @param after how it is, likewise
 */
public record Change(Show before, Show after) {

  /** What is otherwise in one show than in another, but for what is no step. */
  public static Change between(Show before, Show after) {
    Cut cut = Cut.of(before, after);
    return new Change((Show) cut.before(), (Show) cut.after());
  }

  /** A layer came on; undone, it is off, with all that has come to it meanwhile. */
  public static Change layerOn(Show show, PartId part, ClipId clip, int take, int layer) {
    Part owner = show.part(part);
    Clip of = owner.clipOf(clip);
    Take bare = of.take(take).withLayers(List.of(Layer.empty(layer))).withOff(List.of());
    Clip clipped = of.with(c -> c.takes(List.of(bare)));
    Show on = Cut.BARE.withParts(List.of(owner.withShelf(List.of(clipped))));
    return new Change(mapClips(on, c -> takes(c, t -> t.takenOff(layer))), on);
  }

  /** The other way round. */
  public Change inverse() {
    return new Change(after, before);
  }

  /** A show with this change made, whatever else has become of it since. */
  public Show madeIn(Show show) {
    return Merge.of(show, before, after);
  }

  /** Whether nothing is otherwise, or no more than the order of what went off. */
  public boolean isNothing() {
    return inOrder(before).equals(inOrder(after));
  }

  private static Show inOrder(Show show) {
    UnaryOperator<Take> sorted =
        take ->
            take.withOff(
                take.off().stream().sorted(Comparator.comparingInt(Layer::number)).toList());
    return mapClips(show, clip -> takes(clip, sorted));
  }

  /** The first part that it is about. */
  public Optional<PartId> part() {
    return Stream.of(after, before)
        .flatMap(show -> show.parts().stream())
        .map(Part::id)
        .findFirst();
  }

  /** Whether a part has come by it. */
  public boolean brings(PartId part) {
    return has(after, part) && !has(before, part);
  }

  private static boolean has(Show show, PartId part) {
    return show.parts().stream().anyMatch(p -> p.id().equals(part));
  }

  /** Whether a clip has come by it, on whatever part. */
  public boolean brings(ClipId clip) {
    return clip(after, clip).isPresent() && clip(before, clip).isEmpty();
  }

  /** Whether a clip has come by it, and nothing else. */
  public boolean bringsOnly(ClipId clip) {
    return brings(clip)
        && between(before, mapParts(after, part -> part.withoutClip(clip))).isNothing();
  }

  /** Whether a take has come by it to a clip that was there. */
  public boolean brings(ClipId clip, int take) {
    return takesOf(clip).contains(take);
  }

  /** Whether takes have come by it to a clip that was there, and nothing else. */
  public boolean bringsOnlyTakesOf(ClipId clip) {
    List<Integer> came = takesOf(clip);
    Change rest = this;
    for (int take : came) {
      rest = rest.withoutTake(clip, take);
    }
    return !came.isEmpty() && rest.isNothing();
  }

  private List<Integer> takesOf(ClipId clip) {
    Optional<Clip> was = clip(before, clip);
    Optional<Clip> is = clip(after, clip);
    return was.isEmpty() || is.isEmpty()
        ? List.of()
        : is.get().takes().stream()
            .map(Take::number)
            .filter(take -> was.get().findTake(take).isEmpty())
            .toList();
  }

  /** Whether it is about a layer. */
  public boolean isAbout(ClipId clip, int take, int layer) {
    return Stream.of(before, after).anyMatch(show -> layer(show, clip, take, layer).isPresent());
  }

  /** This change, but for a layer's going on or off, if that is all that it does to it. */
  public Change withoutTurning(ClipId clip, int take, int layer) {
    boolean turns =
        Stream.of(before, after)
            .allMatch(show -> layer(show, clip, take, layer).filter(Layer::isEmpty).isPresent());
    return turns ? withoutLayer(clip, take, layer) : this;
  }

  /** This change without what it does to a layer. */
  public Change withoutLayer(ClipId clip, int take, int layer) {
    return isAbout(clip, take, layer)
        ? map(clip, c -> takes(c, t -> t.number() == take ? t.without(layer) : t))
        : this;
  }

  /** This change without what it does to notes, in whichever layer it has them. */
  public Change withoutNotes(Set<Long> ids) {
    boolean has =
        Stream.of(before, after)
            .flatMap(show -> show.parts().stream())
            .flatMap(part -> part.shelf().stream())
            .flatMap(clip -> clip.takes().stream())
            .flatMap(Take::allLayers)
            .anyMatch(layer -> ids.stream().anyMatch(layer::holds));
    return has ? between(without(ids, before, after), without(ids, after, before)) : this;
  }

  private static Show without(Set<Long> notes, Show show, Show other) {
    return mapClips(show, clip -> takes(clip, take -> without(notes, clip.id(), take, other)));
  }

  /** A take without notes; a layer that came or went, and has none of them left, did neither. */
  private static Take without(Set<Long> notes, ClipId clip, Take take, Show other) {
    Take less = take.mapLayers(layer -> layer.where(n -> !notes.contains(n.id())));
    if (take(other, clip, take.number()).isEmpty()) {
      return less;
    }
    for (Layer layer : less.allLayers().filter(Layer::isEmpty).toList()) {
      int number = layer.number();
      boolean had = take.layer(number).filter(l -> !l.isEmpty()).isPresent();
      boolean stays = layer(other, clip, take.number(), number).isPresent();
      less = had && !stays ? less.without(number) : less;
    }
    return less;
  }

  /** This change without a take that has come by it. */
  public Change withoutTake(ClipId clip, int take) {
    return brings(clip, take)
        ? map(
            clip,
            c ->
                c.with(
                    with ->
                        with.takes(c.takes().stream().filter(t -> t.number() != take).toList())))
        : this;
  }

  /** A clip that is otherwise in what it is called or how it goes, if that is all. */
  public Optional<ClipId> clipAlone() {
    boolean alone =
        Stream.of(before, after)
            .allMatch(
                show ->
                    show.form().isEmpty()
                        && show.parts().size() == 1
                        && show.parts().get(0).shelf().size() == 1
                        && show.parts().get(0).shelf().get(0).takes().isEmpty());
    Optional<ClipId> clip =
        alone ? Optional.of(after.parts().get(0).shelf().get(0).id()) : Optional.empty();
    return clip.filter(id -> clip(before, id).isPresent());
  }

  private Change map(ClipId clip, UnaryOperator<Clip> change) {
    UnaryOperator<Clip> one = c -> c.id().equals(clip) ? change.apply(c) : c;
    return between(mapClips(before, one), mapClips(after, one));
  }

  private static Optional<Layer> layer(Show show, ClipId clip, int take, int layer) {
    return take(show, clip, take).flatMap(t -> t.layer(layer));
  }

  private static Optional<Take> take(Show show, ClipId clip, int take) {
    return clip(show, clip).flatMap(c -> c.findTake(take));
  }

  private static Optional<Clip> clip(Show show, ClipId clip) {
    return show.parts().stream().flatMap(part -> part.clip(clip).stream()).findFirst();
  }

  private static Show mapClips(Show show, UnaryOperator<Clip> change) {
    return mapParts(show, part -> part.withShelf(part.shelf().stream().map(change).toList()));
  }

  private static Show mapParts(Show show, UnaryOperator<Part> change) {
    return show.withParts(show.parts().stream().map(change).toList());
  }

  /** A clip's takes as they are: those of a cut are not all. */
  private static Clip takes(Clip clip, UnaryOperator<Take> change) {
    return clip.with(c -> c.takes(clip.takes().stream().map(change).toList()));
  }
}
