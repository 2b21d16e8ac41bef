package ancora.core.history;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.show.Shape;
import ancora.core.show.Show;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Two states of something, cut down to what differs: of a list of things only those are left that
 * have come, gone or become others, and of these again only what differs. What is no step is in
 * both as it was before.
 */
record Cut(Object before, Object after) {

  /** A show of which nothing is told. */
  static final Show BARE = Show.named("Show");

  static Cut of(Show before, Show after) {
    Cut cut = components(before, after);
    Show was = (Show) cut.before;
    Show is = (Show) cut.after;
    // a tempo is otherwise with the clip in which it was found; else it is no step
    boolean found = shelved(before) + shelved(after) == 1 && !was.tempo().equals(is.tempo());
    boolean meter = !was.meter().equals(is.meter());
    return new Cut(told(was, found, meter), told(is, found, meter));
  }

  private static Show told(Show cut, boolean tempo, boolean meter) {
    return BARE.withParts(cut.parts())
        .withForm(cut.form())
        .withTempo(tempo ? cut.tempo() : BARE.tempo())
        .withMeter(meter ? cut.meter() : BARE.meter());
  }

  private static long shelved(Show show) {
    return show.parts().stream().mapToLong(part -> part.shelf().size()).sum();
  }

  private boolean isNothing() {
    return before.equals(after);
  }

  private static Cut of(Object before, Object after) {
    if (before instanceof Take was && after instanceof Take is) {
      return takes(was, is);
    }
    if (before instanceof Clip was && after instanceof Clip is) {
      return clips(was, is);
    }
    if (Things.holdsOthers(before)) {
      return components(before, after);
    }
    if (before instanceof List<?> was && after instanceof List<?> is && Things.areThings(was, is)) {
      return lists(was, is);
    }
    return new Cut(before, after);
  }

  private static Cut components(Object before, Object after) {
    Shape shape = Shape.of(before.getClass());
    boolean[] isStep = Things.isStep(before);
    Object[] was = shape.apart(before);
    Object[] is = shape.apart(after);
    for (int i = 0; i < was.length; i++) {
      Cut cut = isStep[i] ? of(was[i], is[i]) : new Cut(was[i], was[i]);
      was[i] = cut.before;
      is[i] = cut.after;
    }
    return new Cut(shape.together(was), shape.together(is));
  }

  private static Cut lists(List<?> before, List<?> after) {
    if (before == after) {
      return new Cut(List.of(), List.of());
    }
    Map<Object, Object> was = byId(before);
    Map<Object, Object> is = byId(after);
    Object any = (before.isEmpty() ? after : before).get(0);
    // where one stands among the others is told by all of them
    boolean all =
        Things.hasPlace(any) && !List.copyOf(was.keySet()).equals(List.copyOf(is.keySet()));
    Map<Object, Object> then = new HashMap<>();
    Map<Object, Object> now = new HashMap<>();
    was.forEach(
        (id, one) -> {
          Object other = is.get(id);
          if (other == null) {
            then.put(id, one);
          } else if (all || one != other) {
            Cut cut = of(one, other);
            if (all || !cut.isNothing()) {
              then.put(id, cut.before);
              now.put(id, cut.after);
            }
          }
        });
    is.forEach(
        (id, one) -> {
          if (!was.containsKey(id)) {
            now.put(id, one);
          }
        });
    return new Cut(left(was, then), left(is, now));
  }

  static Map<Object, Object> byId(List<?> things) {
    Map<Object, Object> all = new LinkedHashMap<>();
    things.forEach(one -> all.put(Things.idOf(one), one));
    return all;
  }

  private static List<Object> left(Map<Object, Object> all, Map<Object, Object> left) {
    return all.keySet().stream().filter(left::containsKey).map(left::get).toList();
  }

  /** With a take that comes or goes it is told which was heard. */
  private static Cut clips(Clip before, Clip after) {
    Cut cut = components(before, after);
    boolean same = byId(before.takes()).keySet().equals(byId(after.takes()).keySet());
    return same ? cut : new Cut(cut.before, ((Clip) cut.after).withHeard(after.heard()));
  }

  /** Layers are compared be they on or off: one that went off is still the same. */
  private static Cut takes(Take before, Take after) {
    Map<Integer, Layer> was = byNumber(before);
    Map<Integer, Layer> is = byNumber(after);
    List<Integer> offBefore = numbers(before.off());
    List<Integer> offAfter = numbers(after.off());
    int alike = alike(offBefore, offAfter);
    Set<Integer> left = new TreeSet<>(offBefore.subList(alike, offBefore.size()));
    left.addAll(offAfter.subList(alike, offAfter.size()));
    Map<Integer, Layer> then = new HashMap<>();
    Map<Integer, Layer> now = new HashMap<>();
    Set<Integer> numbers = new TreeSet<>(was.keySet());
    numbers.addAll(is.keySet());
    for (int number : numbers) {
      Layer one = was.get(number);
      Layer other = is.get(number);
      if (one != null && other != null && one != other || left.contains(number)) {
        Cut cut = of((Object) orEmpty(one, number), orEmpty(other, number));
        if (left.contains(number) || !cut.isNothing()) {
          then.put(number, (Layer) cut.before);
          now.put(number, (Layer) cut.after);
        }
      } else if (one != other) {
        then.put(number, one);
        now.put(number, other);
      }
    }
    Cut rest = components(before, after);
    return new Cut(
        only((Take) rest.before, before, was.keySet(), then),
        only((Take) rest.after, after, is.keySet(), now));
  }

  private static Layer orEmpty(Layer layer, int number) {
    return layer == null ? Layer.empty(number) : layer;
  }

  private static Take only(Take bare, Take whole, Set<Integer> there, Map<Integer, Layer> left) {
    Function<List<Layer>, List<Layer>> some =
        layers ->
            layers.stream()
                .map(Layer::number)
                .filter(number -> there.contains(number) && left.get(number) != null)
                .map(left::get)
                .toList();
    return bare.withLayers(some.apply(whole.layers())).withOff(some.apply(whole.off()));
  }

  /** So many are alike from the first on. */
  private static int alike(List<Integer> some, List<Integer> others) {
    int alike = 0;
    while (alike < Math.min(some.size(), others.size())
        && some.get(alike).equals(others.get(alike))) {
      alike++;
    }
    return alike;
  }

  static List<Integer> numbers(List<Layer> layers) {
    return layers.stream().map(Layer::number).toList();
  }

  static Map<Integer, Layer> byNumber(Take take) {
    return take.allLayers().collect(Collectors.toMap(Layer::number, layer -> layer));
  }
}
