package ancora.core.show;

import ancora.core.Refusal;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/**
 * Some components of a setting as they are to be; the others stay as they are. So who turns one
 * knob sets one thing, whatever else is set in the same moment.
 *
 * @param of the setting
 * @param values of the components that are said, by their names; at least one
 */
public record Components<T extends Record>(Class<T> of, Map<String, Object> values) {

  public Components {
    values = Collections.unmodifiableMap(new TreeMap<>(values));
    Refusal.unless(!values.isEmpty(), "Say what is to be otherwise.");
  }

  /** A setting with all that it has. */
  @SuppressWarnings("unchecked")
  public static <T extends Record> Components<T> all(T setting) {
    return new Components<>((Class<T>) setting.getClass(), valuesOf(setting));
  }

  /** What is otherwise in one setting than in another. */
  public static <T extends Record> Components<T> between(T before, T after) {
    Components<T> all = all(after);
    Map<String, Object> values = new TreeMap<>(all.values);
    values.entrySet().removeAll(valuesOf(before).entrySet());
    return new Components<>(all.of, values);
  }

  /** A setting with these components; refuses what it refuses. */
  public T in(T now) {
    Map<String, Object> all = valuesOf(now);
    all.putAll(values);
    RecordComponent[] components = of.getRecordComponents();
    Class<?>[] types =
        Arrays.stream(components).map(RecordComponent::getType).toArray(Class<?>[]::new);
    Object[] next = Arrays.stream(components).map(c -> all.get(c.getName())).toArray();
    try {
      return of.getDeclaredConstructor(types).newInstance(next);
    } catch (InvocationTargetException refused) {
      if (refused.getCause() instanceof Refusal refusal) {
        throw refusal;
      }
      if (refused.getCause() instanceof IllegalArgumentException wrong) {
        throw new Refusal("A value is not what it should be: " + wrong.getMessage() + ".");
      }
      throw new AssertionError(refused);
    } catch (ReflectiveOperationException impossible) {
      throw new AssertionError(impossible);
    }
  }

  private static Map<String, Object> valuesOf(Record setting) {
    Map<String, Object> values = new TreeMap<>();
    try {
      for (RecordComponent component : setting.getClass().getRecordComponents()) {
        values.put(component.getName(), component.getAccessor().invoke(setting));
      }
    } catch (ReflectiveOperationException impossible) {
      throw new AssertionError("a record's components are public", impossible);
    }
    return values;
  }
}
