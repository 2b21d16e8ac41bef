package ancora.core.show;

import ancora.core.Refusal;
import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/**
 * Some components of a setting as they are to be; the others stay as they are. So who turns one
 * knob sets one thing, whatever else is set in the same moment.
 *
 * @param of the setting
 * @param values of the components that are said, by their names; at least one. Each is what it is
 *     to be, or an {@link Adjustment} of what it is
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

  /** One component of a setting, as it is to be, or adjusted. */
  public static <T extends Record> Components<T> one(Class<T> of, String name, Object value) {
    return new Components<>(of, Map.of(name, value));
  }

  /** A setting with these components; refuses what it refuses. */
  public T in(T now) {
    Shape shape = Shape.of(of);
    Object[] next = shape.apart(now);
    for (int i = 0; i < next.length; i++) {
      Object said = values.getOrDefault(shape.names().get(i), next[i]);
      next[i] = said instanceof Adjustment adjustment ? adjustment.of(next[i]) : said;
    }
    try {
      return of.cast(shape.together(next));
    } catch (IllegalArgumentException wrong) {
      throw new Refusal("A value is not what it should be: " + wrong.getMessage() + ".");
    }
  }

  private static Map<String, Object> valuesOf(Record setting) {
    Shape shape = Shape.of(setting.getClass());
    Object[] values = shape.apart(setting);
    Map<String, Object> named = new TreeMap<>();
    for (int i = 0; i < values.length; i++) {
      named.put(shape.names().get(i), values[i]);
    }
    return named;
  }
}
