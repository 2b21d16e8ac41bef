package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Layer;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/** One thing that is otherwise in a show after an edit; it can be done the other way round. */
public sealed interface Change {

  /** The other way round. */
  Change inverse();

  /** A show with this change made. What was changed since by others stays as it is. */
  Show apply(Show show);

  /**
   * A clip has come, gone, or is otherwise.
   *
   * @param part the part on whose shelf it is
   * @param before how it was; empty if it was not there
   * @param after how it is; empty if it has gone
   */
  record OfClip(PartId part, Optional<Clip> before, Optional<Clip> after) implements Change {
    @Override
    public Change inverse() {
      return new OfClip(part, after, before);
    }

    @Override
    public Show apply(Show show) {
      if (show.parts().stream().noneMatch(p -> p.id().equals(part))) {
        return show;
      }
      return show.mapPart(part, this::applied);
    }

    private Part applied(Part on) {
      ClipId id = before.or(() -> after).orElseThrow().id();
      Optional<Clip> present = on.clip(id);
      if (after.isEmpty()) {
        return on.withoutClip(id);
      }
      if (present.isPresent() && before.isPresent()) {
        return on.withClip(
            present.equals(before)
                ? after.get()
                : merged(present.get(), before.get(), after.get()));
      }
      return on.withClip(after.get());
    }

    /** What differs between before and after is made so; what else has changed since stays. */
    private static Clip merged(Clip now, Clip before, Clip after) {
      Clip next =
          now.withName(pick(now.name(), before.name(), after.name()))
              .withLetter(pick(now.letter(), before.letter(), after.letter()))
              .withWindow(pick(now.window(), before.window(), after.window()))
              .withManner(pick(now.manner(), before.manner(), after.manner()));
      if (!before.others().equals(after.others()) || !before.take().equals(after.take())) {
        return next.withTakes(after.take(), after.others())
            .withLayers(after.layers())
            .withPeeled(after.peeled());
      }
      return next.withLayers(mergedLayers(now.layers(), before.layers(), after.layers()));
    }

    private static <T> T pick(T now, T before, T after) {
      return Objects.equals(before, after) ? now : after;
    }

    private static List<Layer> mergedLayers(
        List<Layer> now, List<Layer> before, List<Layer> after) {
      Map<Integer, Layer> old = byNumber(before);
      Map<Integer, Layer> wanted = byNumber(after);
      Map<Integer, Layer> next = byNumber(now);
      wanted.forEach(
          (number, layer) ->
              next.put(
                  number,
                  mergedLayer(
                      next.getOrDefault(number, Layer.empty(number)),
                      old.getOrDefault(number, Layer.empty(number)),
                      layer)));
      old.forEach(
          (number, layer) -> {
            if (!wanted.containsKey(number) && next.containsKey(number)) {
              next.put(number, mergedLayer(next.get(number), layer, Layer.empty(number)));
            }
          });
      return next.values().stream()
          .filter(layer -> !layer.isEmpty())
          .sorted(Comparator.comparingInt(Layer::number))
          .toList();
    }

    private static Layer mergedLayer(Layer now, Layer before, Layer after) {
      Map<Long, Note> old = byId(before);
      Map<Long, Note> wanted = byId(after);
      List<Note> notes = new ArrayList<>();
      for (Note note : now.notes()) {
        boolean gone = old.containsKey(note.id()) && !wanted.containsKey(note.id());
        if (!gone) {
          Note was = old.get(note.id());
          Note becomes = wanted.get(note.id());
          notes.add(becomes != null && !becomes.equals(was) ? becomes : note);
        }
      }
      Map<Long, Note> there = byId(now);
      wanted.forEach(
          (id, note) -> {
            if (!old.containsKey(id) && !there.containsKey(id)) {
              notes.add(note);
            }
          });
      notes.sort(Comparator.comparingLong(Note::id));
      List<Move> moves = new ArrayList<>(now.moves());
      before.moves().stream().filter(m -> !after.moves().contains(m)).forEach(moves::remove);
      after.moves().stream()
          .filter(m -> !before.moves().contains(m) && !moves.contains(m))
          .forEach(moves::add);
      return new Layer(now.number(), notes, moves);
    }

    private static Map<Integer, Layer> byNumber(List<Layer> layers) {
      return layers.stream()
          .collect(Collectors.toMap(Layer::number, Function.identity(), (a, b) -> a, HashMap::new));
    }

    private static Map<Long, Note> byId(Layer layer) {
      return layer.notes().stream().collect(Collectors.toMap(Note::id, Function.identity()));
    }
  }

  /**
   * A part has come, gone, or has other settings. Of one whose settings have changed the shelf is
   * left out.
   *
   * @param before how it was; empty if it was not there
   * @param after how it is; empty if it has gone
   * @param place its place among the staves, from 0
   */
  record OfPart(Optional<Part> before, Optional<Part> after, int place) implements Change {
    @Override
    public Change inverse() {
      return new OfPart(after, before, place);
    }

    @Override
    public Show apply(Show show) {
      List<Part> parts = new ArrayList<>(show.parts());
      PartId id = before.or(() -> after).orElseThrow().id();
      if (after.isEmpty()) {
        parts.removeIf(part -> part.id().equals(id));
        return show.withParts(parts);
      }
      if (parts.stream().anyMatch(part -> part.id().equals(id))) {
        return show.mapPart(id, part -> after.get().withShelf(part.shelf()));
      }
      parts.add(Math.min(place, parts.size()), after.get());
      return show.withParts(parts);
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
   * The form is otherwise.
   *
   * @param before as it was
   * @param after as it is
   */
  record OfForm(List<Section> before, List<Section> after) implements Change {
    @Override
    public Change inverse() {
      return new OfForm(after, before);
    }

    @Override
    public Show apply(Show show) {
      return show.withForm(after);
    }
  }
}
