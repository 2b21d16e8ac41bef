package ancora.core.history;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.show.Shape;
import ancora.core.show.Show;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Makes of something what differs between two states of it, three ways: what has become of it since
 * stays, thing by thing and component by component. What is about something that is gone does
 * nothing.
 */
final class Merge {

  private Merge() {}

  /**
   * A show of which is made what was made elsewhere.
   *
   * @param now the show
   * @param from how it was made from, cut down to what differs
   * @param to how it was made to, likewise
   */
  static Show of(Show now, Show from, Show to) {
    Show merged = (Show) of((Object) now, from, to);
    if (from.tempo().equals(to.tempo())) {
      return merged;
    }
    // a tempo goes with the clip in which it was found, while there is no other music
    Set<Object> with = shelved(from);
    with.addAll(shelved(to));
    boolean alone = with.containsAll(shelved(now)) && now.tempo().equals(from.tempo());
    return alone ? merged : merged.withTempo(now.tempo());
  }

  private static Set<Object> shelved(Show show) {
    Set<Object> clips = new HashSet<>();
    show.parts().forEach(part -> part.shelf().forEach(clip -> clips.add(clip.id())));
    return clips;
  }

  private static Object of(Object now, Object from, Object to) {
    if (from.equals(to)) {
      return now;
    }
    if (now instanceof Take take) {
      return take(take, (Take) from, (Take) to);
    }
    if (now instanceof Clip clip) {
      return clip(clip, (Clip) from, (Clip) to);
    }
    if (now instanceof Map<?, ?> map) {
      return map(map, (Map<?, ?>) from, (Map<?, ?>) to);
    }
    if (now instanceof List<?> list && Things.areThings((List<?>) from, (List<?>) to)) {
      return list(list, (List<?>) from, (List<?>) to);
    }
    return Things.isThing(now) && !now.equals(from) ? components(now, from, to) : to;
  }

  private static Object components(Object now, Object from, Object to) {
    Shape shape = Shape.of(now.getClass());
    boolean[] isStep = Things.isStep(now);
    Object[] values = shape.apart(now);
    Object[] was = shape.apart(from);
    Object[] is = shape.apart(to);
    for (int i = 0; i < values.length; i++) {
      values[i] = isStep[i] ? of(values[i], was[i], is[i]) : values[i];
    }
    return shape.together(values);
  }

  private static List<Object> list(List<?> now, List<?> from, List<?> to) {
    Map<Object, Object> was = Cut.byId(from);
    Map<Object, Object> is = Cut.byId(to);
    Set<Object> there = new HashSet<>();
    List<Object> next = new ArrayList<>();
    for (Object one : now) {
      Object id = Things.idOf(one);
      there.add(id);
      if (was.containsKey(id) && is.containsKey(id)) {
        next.add(of(one, was.get(id), is.get(id)));
      } else if (!was.containsKey(id)) {
        next.add(one);
      }
    }
    List<Object> order = List.copyOf(is.keySet());
    for (Object id : order) {
      if (!there.contains(id) && !was.containsKey(id)) {
        Object one = is.get(id);
        next.add(
            Things.hasPlace(one) ? Math.min(order.indexOf(id), next.size()) : next.size(), one);
      }
    }
    return inOrder(next, List.copyOf(was.keySet()), order);
  }

  /**
   * Where things that are there before and after stand otherwise, those that came since are last.
   */
  private static List<Object> inOrder(List<Object> things, List<Object> from, List<Object> to) {
    if (things.isEmpty()) {
      return things;
    }
    things.sort(Things.order(things.get(0)));
    boolean moved =
        Things.hasPlace(things.get(0))
            && from.size() == to.size()
            && to.containsAll(from)
            && !from.equals(to);
    if (moved) {
      things.sort(
          Comparator.comparingInt(
              one -> {
                int place = to.indexOf(Things.idOf(one));
                return place < 0 ? Integer.MAX_VALUE : place;
              }));
    }
    return things;
  }

  private static Map<Object, Object> map(Map<?, ?> now, Map<?, ?> from, Map<?, ?> to) {
    Map<Object, Object> next = new HashMap<>(now);
    from.keySet().stream().filter(key -> !to.containsKey(key)).forEach(next::remove);
    to.forEach(
        (key, value) -> {
          if (!value.equals(from.get(key))) {
            next.put(key, value);
          }
        });
    return next;
  }

  /** A take that was heard when it went is heard when it is back; one take stays. */
  private static Clip clip(Clip now, Clip from, Clip to) {
    Clip merged = (Clip) components(now, from, to);
    if (merged.takes().isEmpty()) {
      merged = merged.withTakes(now.takes());
    }
    int heard = to.heard().get(to.heard().size() - 1);
    boolean back = merged.findTake(heard).isPresent() && now.findTake(heard).isEmpty();
    Clip next = merged.withTakes(merged.takes());
    return back ? next.withHeard(heard) : next;
  }

  /** Layers are the same be they on or off; what others have added since to one that goes stays. */
  private static Take take(Take now, Take from, Take to) {
    Map<Integer, Layer> layers = new TreeMap<>(Cut.byNumber(now));
    Map<Integer, Layer> was = Cut.byNumber(from);
    Map<Integer, Layer> is = Cut.byNumber(to);
    Set<Integer> off = new HashSet<>(Cut.numbers(now.off()));
    Set<Integer> numbers = new TreeSet<>(was.keySet());
    numbers.addAll(is.keySet());
    for (int number : numbers) {
      Layer one = was.getOrDefault(number, Layer.empty(number));
      Layer other = is.getOrDefault(number, Layer.empty(number));
      boolean there = layers.containsKey(number);
      Layer next = (Layer) of(layers.getOrDefault(number, Layer.empty(number)), one, other);
      boolean gone = there ? !is.containsKey(number) : was.containsKey(number);
      if (gone && next.isEmpty()) {
        layers.remove(number);
        continue;
      }
      layers.put(number, next);
      boolean goesOff = isOff(to, number);
      boolean flips =
          was.containsKey(number) && is.containsKey(number) && isOff(from, number) != goesOff;
      if (!there || flips) {
        off.remove(number);
        off.addAll(goesOff ? Set.of(number) : Set.of());
      }
    }
    Take rest = (Take) components(now, from, to);
    List<Integer> order = off(now, from, to);
    return rest.withLayers(
            layers.values().stream().filter(layer -> !off.contains(layer.number())).toList())
        .withOff(
            order.stream()
                .filter(off::contains)
                .map(layers::get)
                .filter(Objects::nonNull)
                .toList());
  }

  private static boolean isOff(Take take, int number) {
    return Cut.numbers(take.off()).contains(number);
  }

  /** In which order layers may be off: where others were that went off, these are. */
  private static List<Integer> off(Take now, Take from, Take to) {
    Set<Integer> about = new HashSet<>(Cut.numbers(from.off()));
    about.addAll(Cut.numbers(to.off()));
    List<Integer> next = new ArrayList<>();
    int place = -1;
    for (int number : Cut.numbers(now.off())) {
      if (about.contains(number)) {
        place = place < 0 ? next.size() : place;
      } else {
        next.add(number);
      }
    }
    List<Integer> all = new ArrayList<>(Cut.numbers(to.off()));
    Cut.numbers(from.off()).stream().filter(number -> !all.contains(number)).forEach(all::add);
    next.addAll(place < 0 ? next.size() : place, all);
    return next;
  }
}
