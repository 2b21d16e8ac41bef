package ancora.core.history;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.show.Part;
import ancora.core.show.Section;
import ancora.core.show.Shape;
import ancora.core.show.Show;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a show is made of. A thing has an identity, by which it is found again among others; all
 * else is a value.
 */
final class Things {

  /** Settings, and what counts up: a step that is taken back leaves them as they are. */
  private static final Map<Class<?>, Set<String>> NO_STEP =
      Map.of(
          Show.class, Set.of("title", "click", "recording", "master", "nextId"),
          Part.class, Set.of("inputGrid", "input", "leaving", "balance"),
          Clip.class, Set.of("unit", "recordedAt", "heard", "nextTake"),
          Take.class, Set.of("layers", "off", "nextLayer", "nextMove"));

  private static final ClassValue<boolean[]> IS_STEP =
      new ClassValue<>() {
        @Override
        protected boolean[] computeValue(Class<?> type) {
          List<String> names = Shape.of(type).names();
          boolean[] isStep = new boolean[names.size()];
          for (int i = 0; i < isStep.length; i++) {
            isStep[i] = !NO_STEP.getOrDefault(type, Set.of()).contains(names.get(i));
          }
          return isStep;
        }
      };

  private Things() {}

  /**
   * Whether a step may change a component, by its place. One that comes to a thing some day is of
   * what a step changes, unless it is named here.
   */
  static boolean[] isStep(Object thing) {
    return IS_STEP.get(thing.getClass());
  }

  /** The identity of a thing among others of its kind; the ids of a list are their own. */
  static Object idOf(Object one) {
    if (one instanceof Part part) {
      return part.id();
    }
    if (one instanceof Section section) {
      return section.id();
    }
    if (one instanceof Clip clip) {
      return clip.id();
    }
    if (one instanceof Take take) {
      return take.number();
    }
    if (one instanceof Layer layer) {
      return layer.number();
    }
    if (one instanceof Note note) {
      return note.id();
    }
    if (one instanceof ControllerMove move) {
      return move.id();
    }
    return one instanceof Long id ? id : null;
  }

  static boolean isThing(Object one) {
    return one instanceof Show || one instanceof Record && idOf(one) != null;
  }

  /** Whether a thing holds others. */
  static boolean holdsOthers(Object one) {
    return one instanceof Show
        || one instanceof Part
        || one instanceof Clip
        || one instanceof Layer;
  }

  /** Whether lists, of which one at least has something in it, are of things. */
  static boolean areThings(List<?> some, List<?> others) {
    List<?> list = some.isEmpty() ? others : some;
    return !list.isEmpty() && idOf(list.get(0)) != null;
  }

  /** Whether the place of a thing among the others is the performer's choice. */
  static boolean hasPlace(Object one) {
    return one instanceof Part || one instanceof Section;
  }

  /** The order in which things stand by themselves; as they are, if there is none. */
  static Comparator<Object> order(Object one) {
    if (one instanceof Clip) {
      return Comparator.comparing(Clip.class::cast, Part.BY_LETTER);
    }
    if (one instanceof Take) {
      return Comparator.comparingInt(take -> ((Take) take).number());
    }
    if (one instanceof Note) {
      return Comparator.comparingLong(note -> ((Note) note).id());
    }
    return one instanceof Long ? Comparator.comparingLong(id -> (Long) id) : (a, b) -> 0;
  }
}
