package ancora.core.history;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.ClipTraits;
import ancora.core.clip.Layer;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/**
 * One thing that is otherwise in a show after a step; it can be done the other way round. It holds
 * what it changes and nothing else: what others have changed since stays as it is.
 */
public sealed interface Change {

  /** What is otherwise in one show than in another, but for what is no step. */
  static List<Change> between(Show before, Show after) {
    return Changes.between(before, after);
  }

  /** The other way round. */
  Change inverse();

  /** A show with this change made. What it is about may be gone by now: then nothing is done. */
  Show apply(Show show);

  /**
   * A part has come, gone, or has another name, pennant, sound or device.
   *
   * @param before how it was, its shelf left out if it is still there; empty if it was not there
   * @param after how it is; empty if it has gone
   * @param place its place among the staves, from 0
   */
  record OfPart(PartId part, Optional<Part> before, Optional<Part> after, int place)
      implements Change {
    @Override
    public Change inverse() {
      return new OfPart(part, after, before, place);
    }

    @Override
    public Show apply(Show show) {
      List<Part> parts = new ArrayList<>(show.parts());
      if (after.isEmpty()) {
        parts.removeIf(p -> p.id().equals(part));
        return show.withParts(parts);
      }
      if (parts.stream().anyMatch(p -> p.id().equals(part))) {
        return before.isEmpty() ? show : show.mapPart(part, this::changed);
      }
      if (before.isPresent()) {
        return show;
      }
      parts.add(Math.min(place, parts.size()), after.get());
      return show.withParts(parts);
    }

    private Part changed(Part now) {
      Part was = before.orElseThrow();
      Part is = after.orElseThrow();
      return now.withName(pick(now.name(), was.name(), is.name()))
          .withPennant(pick(now.pennant(), was.pennant(), is.pennant()))
          .withSound(pick(now.sound(), was.sound(), is.sound()))
          .withOutput(pick(now.output(), was.output(), is.output()));
    }
  }

  /**
   * Parts stand in another order.
   *
   * @param before as they stood
   * @param after as they stand
   */
  record OfOrder(List<PartId> before, List<PartId> after) implements Change {
    @Override
    public Change inverse() {
      return new OfOrder(after, before);
    }

    @Override
    public Show apply(Show show) {
      List<Part> parts = new ArrayList<>(show.parts());
      parts.sort(
          Comparator.comparingInt(
              part -> {
                int place = after.indexOf(part.id());
                return place < 0 ? Integer.MAX_VALUE : place;
              }));
      return show.withParts(parts);
    }
  }

  /**
   * A clip has come or gone.
   *
   * @param before as it was; empty if it was not there
   * @param after as it is; empty if it has gone
   */
  record OfClip(PartId part, ClipId clip, Optional<Clip> before, Optional<Clip> after)
      implements Change {
    @Override
    public Change inverse() {
      return new OfClip(part, clip, after, before);
    }

    @Override
    public Show apply(Show show) {
      if (!has(show, part)) {
        return show;
      }
      return show.mapPart(
          part,
          on ->
              after.isEmpty()
                  ? on.withoutClip(clip)
                  : on.clip(clip).isPresent() ? on : on.withClip(after.get()));
    }
  }

  /**
   * A clip has another letter, name, window or manner.
   *
   * @param before as they were
   * @param after as they are
   */
  record OfTraits(PartId part, ClipId clip, ClipTraits before, ClipTraits after) implements Change {
    @Override
    public Change inverse() {
      return new OfTraits(part, clip, after, before);
    }

    @Override
    public Show apply(Show show) {
      return mapClip(show, part, clip, now -> ClipTraits.changed(now, before, after));
    }
  }

  /**
   * A take has come or gone.
   *
   * @param before as it was; empty if it was not there
   * @param after as it is; empty if it has gone
   * @param heard whether it was, or is, the one that is heard
   */
  record OfTake(
      PartId part,
      ClipId clip,
      int take,
      Optional<Take> before,
      Optional<Take> after,
      boolean heard)
      implements Change {
    @Override
    public Change inverse() {
      return new OfTake(part, clip, take, after, before, heard);
    }

    @Override
    public Show apply(Show show) {
      return mapClip(show, part, clip, this::changed);
    }

    private Clip changed(Clip now) {
      if (after.isEmpty()) {
        boolean sole = now.takes().size() == 1;
        return sole || now.findTake(take).isEmpty() ? now : now.without(take);
      }
      Clip with = now.findTake(take).isPresent() ? now : now.with(after.get());
      return heard ? with.withHeard(take) : with;
    }
  }

  /**
   * What a take is called is otherwise, or what a comp is put together from.
   *
   * @param before as it was
   * @param after as it is
   */
  record OfTakeTraits(PartId part, ClipId clip, int take, Traits before, Traits after)
      implements Change {

    /** What a take is, apart from its music. */
    public record Traits(String name, boolean partial, List<Stretch> stretches) {
      static Traits of(Take take) {
        return new Traits(take.name(), take.partial(), take.stretches());
      }
    }

    @Override
    public Change inverse() {
      return new OfTakeTraits(part, clip, take, after, before);
    }

    @Override
    public Show apply(Show show) {
      return mapClip(show, part, clip, now -> now.mapTake(take, this::changed));
    }

    private Take changed(Take now) {
      return now.withName(pick(now.name(), before.name, after.name))
          .withPartial(pick(now.partial(), before.partial, after.partial))
          .withStretches(pick(now.stretches(), before.stretches, after.stretches));
    }
  }

  /**
   * A layer has come, gone, is on or off, or holds other things.
   *
   * @param before of what has changed, how it was; empty if the layer was not there
   * @param after of what has changed, how it is; empty if the layer has gone
   */
  record OfLayer(
      PartId part,
      ClipId clip,
      int take,
      int layer,
      Optional<Content> before,
      Optional<Content> after)
      implements Change {

    /** Whether a layer is on, and what of it has changed. */
    public record Content(
        boolean on,
        List<Note> notes,
        List<ControllerMove> moves,
        List<Long> notesOut,
        List<Long> movesOut) {

      static final Content ON = new Content(true, List.of(), List.of(), List.of(), List.of());
      static final Content OFF = new Content(false, List.of(), List.of(), List.of(), List.of());
    }

    /** A layer came on; undone, it is off. */
    public static OfLayer on(PartId part, ClipId clip, int take, int layer) {
      return new OfLayer(
          part, clip, take, layer, Optional.of(Content.OFF), Optional.of(Content.ON));
    }

    @Override
    public Change inverse() {
      return new OfLayer(part, clip, take, layer, after, before);
    }

    @Override
    public Show apply(Show show) {
      return mapClip(show, part, clip, now -> now.mapTake(take, this::changed));
    }

    private Take changed(Take now) {
      Optional<Layer> present = now.layer(layer);
      if (present.isEmpty() && before.isPresent() && !bringsNotes()) {
        return now;
      }
      Content none = new Content(true, List.of(), List.of(), List.of(), List.of());
      Content was = before.orElse(none);
      Content is = after.orElse(none);
      Layer changed = merged(present.orElse(Layer.empty(layer)), was, is);
      if (after.isEmpty() && changed.isEmpty()) {
        return now.without(layer);
      }
      if (present.isEmpty()) {
        return now.with(changed, is.on);
      }
      Take next = now.mapLayer(layer, l -> changed);
      boolean flips = before.isPresent() && after.isPresent() && was.on != is.on;
      return !flips ? next : is.on ? next.putBack(layer) : next.takenOff(layer);
    }

    private boolean bringsNotes() {
      return after.isPresent() && (!after.get().notes.isEmpty() || !after.get().moves.isEmpty());
    }

    private static Layer merged(Layer now, Content was, Content is) {
      return now.withNotes(
              merged(
                  now.notes(), was.notes, is.notes, Note::id, Comparator.comparingLong(Note::id)))
          .withMoves(merged(now.moves(), was.moves, is.moves, ControllerMove::id, null))
          .puttingBack(was.notesOut, was.movesOut)
          .takingOut(is.notesOut, is.movesOut);
    }

    private static <T> List<T> merged(
        List<T> now, List<T> was, List<T> is, Function<T, Long> id, Comparator<T> order) {
      if (was.isEmpty() && is.isEmpty()) {
        return now;
      }
      Set<Long> old = new HashSet<>();
      was.forEach(one -> old.add(id.apply(one)));
      Map<Long, T> wanted = new HashMap<>();
      is.forEach(one -> wanted.put(id.apply(one), one));
      List<T> next = new ArrayList<>();
      Set<Long> there = new HashSet<>();
      for (T one : now) {
        long key = id.apply(one);
        there.add(key);
        if (wanted.containsKey(key)) {
          next.add(wanted.get(key));
        } else if (!old.contains(key)) {
          next.add(one);
        }
      }
      for (T one : is) {
        long key = id.apply(one);
        if (!there.contains(key) && !old.contains(key)) {
          next.add(one);
        }
      }
      if (order != null) {
        next.sort(order);
      }
      return next;
    }
  }

  /**
   * Layers that are off went off in another order: the one that went off last comes back first.
   *
   * @param before their numbers, as they stood
   * @param after as they stand
   */
  record OfOff(PartId part, ClipId clip, int take, List<Integer> before, List<Integer> after)
      implements Change {
    @Override
    public Change inverse() {
      return new OfOff(part, clip, take, after, before);
    }

    @Override
    public Show apply(Show show) {
      return mapClip(show, part, clip, now -> now.mapTake(take, this::changed));
    }

    private Take changed(Take now) {
      List<Layer> off = new ArrayList<>(now.off());
      off.sort(
          Comparator.comparingInt(
              layer -> {
                int place = after.indexOf(layer.number());
                return place < 0 ? Integer.MAX_VALUE : place;
              }));
      return now.withOff(off);
    }
  }

  /**
   * The tempo was found in what was played, in a show without music. It is taken back, or done
   * again, only while there is no other music, and if it was not changed since.
   *
   * @param before as it was
   * @param after as it is
   * @param with the clip in which it was found
   */
  record OfTempo(Tempo before, Tempo after, ClipId with) implements Change {
    @Override
    public Change inverse() {
      return new OfTempo(after, before, with);
    }

    @Override
    public Show apply(Show show) {
      boolean alone =
          show.parts().stream()
              .flatMap(part -> part.shelf().stream())
              .allMatch(clip -> clip.id().equals(with));
      return alone && show.tempo().equals(before) ? show.withTempo(after) : show;
    }
  }

  /**
   * The meter is otherwise.
   *
   * @param before as it was
   * @param after as it is
   */
  record OfMeter(Meter before, Meter after) implements Change {
    @Override
    public Change inverse() {
      return new OfMeter(after, before);
    }

    @Override
    public Show apply(Show show) {
      return show.withMeter(after);
    }
  }

  /**
   * A section has come, gone, or is otherwise.
   *
   * @param before as it was; empty if it was not there
   * @param after as it is; empty if it has gone
   * @param place its place in the form, from 0
   */
  record OfSection(SectionId section, Optional<Section> before, Optional<Section> after, int place)
      implements Change {
    @Override
    public Change inverse() {
      return new OfSection(section, after, before, place);
    }

    @Override
    public Show apply(Show show) {
      List<Section> form = new ArrayList<>(show.form());
      boolean there = form.stream().anyMatch(s -> s.id().equals(section));
      if (after.isEmpty()) {
        form.removeIf(s -> s.id().equals(section));
      } else if (there && before.isPresent()) {
        form.replaceAll(s -> s.id().equals(section) ? changed(s) : s);
      } else if (!there && before.isEmpty()) {
        form.add(Math.min(place, form.size()), after.get());
      }
      return show.withForm(form);
    }

    private Section changed(Section now) {
      Section was = before.orElseThrow();
      Section is = after.orElseThrow();
      Map<PartId, Optional<ancora.core.clip.ClipId>> lineUp = new HashMap<>(now.lineUp());
      was.lineUp()
          .forEach(
              (part, clip) -> {
                if (!is.lineUp().containsKey(part)) {
                  lineUp.remove(part);
                }
              });
      is.lineUp()
          .forEach(
              (part, clip) -> {
                if (!clip.equals(was.lineUp().get(part))) {
                  lineUp.put(part, clip);
                }
              });
      return now.withLetter(pick(now.letter(), was.letter(), is.letter()))
          .withName(pick(now.name(), was.name(), is.name()))
          .withOthersTacet(pick(now.othersTacet(), was.othersTacet(), is.othersTacet()))
          .withGoesOn(pick(now.goesOn(), was.goesOn(), is.goesOn()))
          .withLineUp(lineUp);
    }
  }

  /**
   * Sections stand in another order.
   *
   * @param before as they stood
   * @param after as they stand
   */
  record OfForm(List<SectionId> before, List<SectionId> after) implements Change {
    @Override
    public Change inverse() {
      return new OfForm(after, before);
    }

    @Override
    public Show apply(Show show) {
      List<Section> form = new ArrayList<>(show.form());
      form.sort(
          Comparator.comparingInt(
              section -> {
                int place = after.indexOf(section.id());
                return place < 0 ? Integer.MAX_VALUE : place;
              }));
      return show.withForm(form);
    }
  }

  private static boolean has(Show show, PartId part) {
    return show.parts().stream().anyMatch(p -> p.id().equals(part));
  }

  private static Show mapClip(Show show, PartId part, ClipId clip, UnaryOperator<Clip> change) {
    boolean there = has(show, part) && show.part(part).clip(clip).isPresent();
    return there ? show.mapPart(part, p -> p.withClip(change.apply(p.clipOf(clip)))) : show;
  }

  private static <T> T pick(T now, T before, T after) {
    return Objects.equals(before, after) ? now : after;
  }
}
