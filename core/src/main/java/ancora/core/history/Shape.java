package ancora.core.history;

import ancora.core.clip.Clip;
import ancora.core.clip.Take;
import ancora.core.show.Part;
import ancora.core.show.Show;
import java.lang.reflect.Constructor;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.Map;
import java.util.Set;

/**
 * How a thing is taken apart into its components, and put together again. A component that comes to
 * a thing some day is of what a step changes, unless it is named here.
 */
final class Shape {

  /** Settings, and what counts up: a step that is taken back leaves them as they are. */
  private static final Map<Class<?>, Set<String>> NO_STEP =
      Map.of(
          Show.class, Set.of("title", "click", "recording", "master", "nextId"),
          Part.class, Set.of("inputGrid", "input", "leaving", "balance"),
          Clip.class, Set.of("unit", "recordedAt", "heard", "nextTake"),
          Take.class, Set.of("layers", "off", "nextLayer", "nextMove"));

  private static final ClassValue<Shape> ALL =
      new ClassValue<>() {
        @Override
        protected Shape computeValue(Class<?> type) {
          return new Shape(type);
        }
      };

  private final RecordComponent[] components;
  private final boolean[] isStep;
  private final Constructor<?> constructor;

  private Shape(Class<?> type) {
    components = type.getRecordComponents();
    isStep = new boolean[components.length];
    for (int i = 0; i < components.length; i++) {
      isStep[i] = !NO_STEP.getOrDefault(type, Set.of()).contains(components[i].getName());
    }
    Class<?>[] types =
        Arrays.stream(components).map(RecordComponent::getType).toArray(Class<?>[]::new);
    try {
      constructor = type.getDeclaredConstructor(types);
    } catch (NoSuchMethodException impossible) {
      throw new AssertionError("a record has its constructor", impossible);
    }
  }

  static Shape of(Object thing) {
    return ALL.get(thing.getClass());
  }

  /** Whether a step may change a component. */
  boolean isStep(int component) {
    return isStep[component];
  }

  /** The components of a thing, in their order. */
  Object[] apart(Object thing) {
    Object[] values = new Object[components.length];
    try {
      for (int i = 0; i < values.length; i++) {
        values[i] = components[i].getAccessor().invoke(thing);
      }
    } catch (ReflectiveOperationException impossible) {
      throw new AssertionError("a record's components are public", impossible);
    }
    return values;
  }

  /** A thing of some components; refuses what its constructor refuses. */
  Object together(Object[] values) {
    try {
      return constructor.newInstance(values);
    } catch (InvocationTargetException refused) {
      if (refused.getCause() instanceof RuntimeException why) {
        throw why;
      }
      throw new AssertionError(refused);
    } catch (ReflectiveOperationException impossible) {
      throw new AssertionError("a record's constructor is public", impossible);
    }
  }
}
