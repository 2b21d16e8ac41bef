package ancora.core.show;

import java.lang.reflect.Constructor;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.List;

/** How records of a kind are taken apart into their components, and put together again. */
public final class Shape {

  private static final ClassValue<Shape> ALL =
      new ClassValue<>() {
        @Override
        protected Shape computeValue(Class<?> type) {
          return new Shape(type);
        }
      };

  private final RecordComponent[] components;
  private final List<String> names;
  private final Constructor<?> constructor;

  private Shape(Class<?> type) {
    components = type.getRecordComponents();
    names = Arrays.stream(components).map(RecordComponent::getName).toList();
    Class<?>[] types =
        Arrays.stream(components).map(RecordComponent::getType).toArray(Class<?>[]::new);
    try {
      constructor = type.getDeclaredConstructor(types);
    } catch (NoSuchMethodException impossible) {
      throw new AssertionError("a record has its constructor", impossible);
    }
  }

  public static Shape of(Class<?> type) {
    return ALL.get(type);
  }

  /** The names of the components, in their order. */
  public List<String> names() {
    return names;
  }

  /** The types of the components, in their order. */
  public List<Class<?>> types() {
    return List.of(constructor.getParameterTypes());
  }

  /** The components of a record, in their order. */
  public Object[] apart(Object whole) {
    Object[] values = new Object[components.length];
    try {
      for (int i = 0; i < values.length; i++) {
        values[i] = components[i].getAccessor().invoke(whole);
      }
    } catch (ReflectiveOperationException impossible) {
      throw new AssertionError("a record's components are public", impossible);
    }
    return values;
  }

  /** A record of some components; refuses what its constructor refuses. */
  public Object together(Object[] values) {
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
