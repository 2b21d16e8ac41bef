package ancora.app.journal;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.Manner;
import ancora.core.engine.Commands;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.rules.address.Addressed;
import ancora.core.show.Address;
import ancora.core.show.Adjustment;
import ancora.core.show.Components;
import ancora.core.show.PartInput;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.lang.reflect.Constructor;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * Commands as JSON, read from pages and written to the journal: {@code do} with the command's name,
 * and its components by theirs. A text in place of an id is an address. What a setting or a key
 * consists of stands beside them, not in an object of its own.
 */
public final class CommandJson {

  /** The components of these stand among the command's own. */
  private static final Set<Class<?>> UNFOLDED =
      Set.of(InputKey.class, Meter.class, Sound.class, NoteRepeat.class);

  /** What has come later is as usual where it is lacking, so that older journals can be read. */
  private static final ObjectNode CAME_LATER =
      JsonNodeFactory.instance.objectNode().put("sure", false).put("takes", "heard");

  private static final Map<String, Form> FORMS =
      Commands.kinds().map(Form::of).collect(Collectors.toMap(Form::name, Function.identity()));

  private CommandJson() {}

  /** How commands of one kind are written. */
  private record Form(String name, Constructor<?> constructor, List<RecordComponent> components) {

    static Form of(Class<?> type) {
      RecordComponent[] components = type.getRecordComponents();
      Class<?>[] types =
          Stream.of(components).map(RecordComponent::getType).toArray(Class<?>[]::new);
      try {
        return new Form(
            nameOf(type), type.getDeclaredConstructor(types), Arrays.asList(components));
      } catch (NoSuchMethodException impossible) {
        throw new IllegalStateException(impossible);
      }
    }

    Command read(JsonNode node) {
      ObjectNode whole = CAME_LATER.deepCopy();
      whole.setAll((ObjectNode) node);
      Object[] values = components.stream().map(c -> value(whole, c)).toArray();
      if (Stream.of(values).anyMatch(v -> v instanceof Address || v instanceof Adjustment)) {
        return addressed(values);
      }
      try {
        return (Command) constructor.newInstance(values);
      } catch (InvocationTargetException refused) {
        if (refused.getCause() instanceof Refusal refusal) {
          throw refusal;
        }
        throw new IllegalStateException(refused.getCause());
      } catch (ReflectiveOperationException impossible) {
        throw new IllegalStateException(impossible);
      }
    }

    /** What names something by an address, or is turned over, is found when it is judged. */
    private Command addressed(Object[] values) {
      Map<String, Object> said = new TreeMap<>();
      for (int i = 0; i < values.length; i++) {
        said.put(components.get(i).getName(), values[i]);
      }
      Class<?> type = constructor.getDeclaringClass();
      return new Addressed(type.asSubclass(Command.class), said).plain();
    }

    private Object value(JsonNode node, RecordComponent component) {
      if (component.getType() == Components.class) {
        return some(node, component);
      }
      if (UNFOLDED.contains(component.getType())) {
        return CoreJson.read(node, component.getType());
      }
      JsonNode value = node.get(fieldOf(component));
      Refusal.unless(
          value != null && !value.isNull(), "The message lacks “%s”.", fieldOf(component));
      if (component.getType() == Command.class) {
        Refusal.unless(!value.has("command"), "One press is taken back at a time.");
        return CommandJson.read(value);
      }
      Address.Of of = Addressed.addressOf(component.getType(), component.getName());
      if (of != null && value.isString()) {
        return new Address(of, value.stringValue());
      }
      if (component.getType() == Adjustment.class || isTurned(component, value)) {
        return AdjustmentJson.read(value);
      }
      if (component.getType() == Set.class) {
        return new TreeSet<>(list(value, Integer.class));
      }
      if (component.getType() == List.class
          && component.getGenericType() instanceof ParameterizedType generic) {
        return list(value, (Class<?>) generic.getActualTypeArguments()[0]);
      }
      return CoreJson.read(value, component.getType());
    }
  }

  /** Whether on or off is to be turned over, or held. */
  private static boolean isTurned(RecordComponent component, JsonNode value) {
    return component.getType() == boolean.class && value.isString();
  }

  /** Of a setting, the components that the message says, or how they are adjusted. */
  @SuppressWarnings({"unchecked", "rawtypes"})
  private static Components<?> some(JsonNode node, RecordComponent component) {
    Class<? extends Record> of =
        (Class<? extends Record>)
            ((ParameterizedType) component.getGenericType()).getActualTypeArguments()[0];
    if (of == PartInput.class && node.has("channel")) {
      // it once had one channel, or all
      return Components.all(CoreJson.read(node, PartInput.class));
    }
    if (of == Manner.class && node.has("manner")) {
      // it once was said whole
      return Components.all(CoreJson.read(node.get("manner"), Manner.class));
    }
    Map<String, Object> said = new TreeMap<>();
    for (RecordComponent one : of.getRecordComponents()) {
      JsonNode value = node.get(one.getName());
      if (value != null) {
        said.put(
            one.getName(),
            AdjustmentJson.isOne(value)
                ? AdjustmentJson.read(value)
                : CoreJson.read(value, one.getGenericType()));
      }
    }
    return new Components(of, said);
  }

  /** The command that a page sent; refuses what is none. */
  public static Command read(JsonNode said) {
    JsonNode node = FormerCommands.today(said);
    String name = text(node, "do");
    Form form = FORMS.get(name);
    Refusal.unless(
        form != null,
        "There is no such command: %s.",
        name.length() <= 40 ? name : Names.cut(name, 40) + "…");
    return form.read(node);
  }

  /** A command as {@link #read} reads it. */
  public static ObjectNode write(Command command) {
    Class<?> kind = command instanceof Addressed addressed ? addressed.of() : command.getClass();
    ObjectNode node = JsonNodeFactory.instance.objectNode().put("do", nameOf(kind));
    for (RecordComponent component : FORMS.get(nameOf(kind)).components()) {
      Object held = valueOf(command, component);
      if (held instanceof Components<?> some) {
        Stream.of(some.of().getRecordComponents())
            .map(RecordComponent::getName)
            .filter(some.values()::containsKey)
            .forEach(name -> node.set(name, CoreJson.write(some.values().get(name))));
        continue;
      }
      JsonNode value = CoreJson.write(held);
      if (UNFOLDED.contains(component.getType())) {
        node.setAll((ObjectNode) value);
      } else {
        node.set(fieldOf(component), value);
      }
    }
    return node;
  }

  private static Object valueOf(Command command, RecordComponent component) {
    if (command instanceof Addressed addressed) {
      return addressed.said().get(component.getName());
    }
    try {
      return component.getAccessor().invoke(command);
    } catch (ReflectiveOperationException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  private static String nameOf(Class<?> type) {
    String simple = type.getSimpleName();
    return Character.toLowerCase(simple.charAt(0)) + simple.substring(1);
  }

  private static String fieldOf(RecordComponent component) {
    return component.getType() == Tempo.class ? "bpm" : component.getName();
  }

  /** A list of values; refuses what is none, and one that lacks a value. */
  public static <T> List<T> list(JsonNode value, Class<T> type) {
    Refusal.unless(value != null && value.isArray(), "A list is lacking.");
    List<T> all = new ArrayList<>();
    for (JsonNode one : value) {
      Refusal.unless(!one.isNull(), "A value of a list is lacking.");
      all.add(CoreJson.read(one, type));
    }
    return all;
  }

  /** A value of a message; refuses one that is not there. */
  public static <T> T part(JsonNode node, String field, Class<T> type) {
    JsonNode value = node.get(field);
    Refusal.unless(value != null && !value.isNull(), "The message lacks “%s”.", field);
    return CoreJson.read(value, type);
  }

  /** A text of a message; refuses one that is not there. */
  public static String text(JsonNode node, String field) {
    JsonNode value = node.get(field);
    Refusal.unless(value != null && value.isString(), "The message lacks the text “%s”.", field);
    return value.stringValue();
  }

  /** A whole number of a message; refuses one that is not there. */
  public static long whole(JsonNode node, String field) {
    JsonNode value = node.get(field);
    Refusal.unless(
        value != null && value.isIntegralNumber() && value.canConvertToLong(),
        "The message lacks the whole number “%s”.",
        field);
    return value.longValue();
  }

  /** A whole number; refuses what is none. */
  static long wholeOf(JsonNode value) {
    Refusal.unless(
        value.isIntegralNumber() && value.canConvertToLong(), "A whole number is lacking.");
    return value.longValue();
  }

  static int integerOf(JsonNode value) {
    Refusal.unless(
        value.isIntegralNumber() && value.canConvertToInt(), "A whole number is lacking.");
    return value.intValue();
  }

  /** A whole number of a message that fits in 32 bits. */
  public static int integer(JsonNode node, String field) {
    long value = whole(node, field);
    Refusal.unless(
        value >= Integer.MIN_VALUE && value <= Integer.MAX_VALUE,
        "The number “%s” is out of reach.",
        field);
    return (int) value;
  }

  /** A number of a message; refuses one that is not there. */
  public static double number(JsonNode node, String field) {
    JsonNode value = node.get(field);
    Refusal.unless(value != null && value.isNumber(), "The message lacks the number “%s”.", field);
    return value.doubleValue();
  }
}
