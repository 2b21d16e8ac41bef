package ancora.core.catalogue;

import ancora.core.rules.Command;
import ancora.core.rules.Sequence;
import ancora.core.rules.address.Addressed;
import ancora.core.show.Adjustment;
import ancora.core.show.Components;
import ancora.core.show.Shape;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** What a command says, by names: its components, and what it says of a setting beside them. */
final class Said {

  private Said() {}

  static Class<?> kind(Command command) {
    return command instanceof Addressed addressed ? addressed.of() : command.getClass();
  }

  /** The components of a command, by their names. */
  static Map<String, Object> components(Command command) {
    if (command instanceof Addressed addressed) {
      return addressed.said();
    }
    Shape shape = Shape.of(command.getClass());
    Object[] values = shape.apart(command);
    Map<String, Object> said = new TreeMap<>();
    for (int i = 0; i < values.length; i++) {
      said.put(shape.names().get(i), values[i]);
    }
    return said;
  }

  /** All that a command says, what it says of a setting among it. */
  static Map<String, Object> all(Command command) {
    if (command instanceof Sequence) {
      return Map.of();
    }
    Map<String, Object> all = new TreeMap<>();
    components(command)
        .forEach(
            (name, value) -> {
              if (value instanceof Components<?> some) {
                all.putAll(some.values());
              } else {
                all.put(name, value);
              }
            });
    return all;
  }

  /** A value that is among no choices, in words. */
  static String words(Object value) {
    if (value instanceof Adjustment.By by) {
      String number = number(Math.abs(by.amount()));
      return (by.amount() > 0 ? "+" : "−") + number;
    }
    if (value instanceof Adjustment.Knob knob) {
      return "by knob, " + number(knob.from()) + " to " + number(knob.to());
    }
    if (value instanceof Optional<?> some) {
      return some.map(Said::words).orElse("off");
    }
    return value instanceof Double some ? number(some) : String.valueOf(value);
  }

  private static String number(double value) {
    String sign = value < 0 ? "−" : "";
    double much = Math.abs(value);
    return sign + (much == Math.rint(much) ? String.valueOf((long) much) : String.valueOf(much));
  }
}
