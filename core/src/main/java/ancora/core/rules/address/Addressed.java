package ancora.core.rules.address;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.edit.Clips;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.show.Address;
import ancora.core.show.Adjustment;
import ancora.core.show.PartId;
import ancora.core.show.SectionId;
import ancora.core.show.Shape;
import ancora.core.stage.Stage;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * A command of which some components are addresses, or turned over: what it means is found when it
 * is judged. Any command can be asked for so.
 *
 * @param of the command
 * @param said all its components by their names: values, or in place of an id an {@link Address},
 *     in place of on or off an {@link Adjustment.Toggle}; {@link Adjustment.Held} where the control
 *     says so itself
 */
public record Addressed(Class<? extends Command> of, Map<String, Object> said) implements Command {

  public Addressed {
    said = Collections.unmodifiableMap(new TreeMap<>(said));
    Shape shape = Shape.of(of);
    for (int i = 0; i < shape.names().size(); i++) {
      String name = shape.names().get(i);
      Refusal.unless(said.containsKey(name), "The message lacks “%s”.", name);
      boolean turned =
          said.get(name) instanceof Adjustment && shape.types().get(i) != Adjustment.class;
      Refusal.unless(
          !turned || Switched.class.isAssignableFrom(of) && name.equals("on"),
          "That cannot be turned over.");
    }
  }

  /** A command with something else in place of some of its components. */
  public static Addressed of(Command command, Map<String, Object> instead) {
    Shape shape = Shape.of(command.getClass());
    Map<String, Object> said = new TreeMap<>();
    List<String> names = shape.names();
    Object[] values = shape.apart(command);
    for (int i = 0; i < values.length; i++) {
      said.put(names.get(i), instead.getOrDefault(names.get(i), values[i]));
    }
    return new Addressed(command.getClass(), said);
  }

  /** The command itself, where it has no address, and nothing that is turned over; else this. */
  public Command plain() {
    List<String> names = Shape.of(of).names();
    List<Class<?>> types = Shape.of(of).types();
    for (int i = 0; i < names.size(); i++) {
      Object value = said.get(names.get(i));
      boolean own = types.get(i) == Adjustment.class;
      if (value instanceof Address || value instanceof Adjustment && !own) {
        return this;
      }
    }
    return (Command) Shape.of(of).together(names.stream().map(said::get).toArray());
  }

  @Override
  public Command meant(Stage stage, long stamp) {
    Shape shape = Shape.of(of);
    Object[] values = new Object[shape.names().size()];
    PartId part = null;
    ClipId clip = null;
    boolean turned = false;
    for (int i = 0; i < values.length; i++) {
      String name = shape.names().get(i);
      Object value = said.get(name);
      if (value instanceof Address address) {
        value = found(stage, part, clip, address, shape.types().get(i));
      }
      Refusal.unless(
          !(value instanceof Adjustment.Held), "That lasts as long as its control is held.");
      if (value instanceof Adjustment && shape.types().get(i) != Adjustment.class) {
        // how it stands is asked of the command itself
        value = true;
        turned = true;
      }
      part = part == null && value instanceof PartId id ? id : part;
      clip = clip == null && value instanceof ClipId id ? id : clip;
      values[i] = value;
    }
    Command meant = (Command) shape.together(values);
    return turned ? turned(meant, stage, stamp) : meant;
  }

  private static Object found(
      Stage stage, PartId part, ClipId clip, Address address, Class<?> type) {
    return switch (address.of()) {
      case PART -> Addresses.part(stage, address);
      case SECTION -> Addresses.section(stage, address);
      case CLIP -> {
        ClipId id = Addresses.clip(stage, part, address);
        yield type == Clips.class ? new Clips(List.of(id)) : id;
      }
      case TAKE -> Addresses.take(stage, part, clip, address);
    };
  }

  private static Command turned(Command on, Stage stage, long stamp) {
    if (!((Switched) on).isOn(stage, stamp)) {
      return on;
    }
    Shape shape = Shape.of(on.getClass());
    Object[] values = shape.apart(on);
    values[shape.names().indexOf("on")] = false;
    return (Command) shape.together(values);
  }

  /** Which address a component takes in place of an id; null if none. */
  public static Address.Of addressOf(Class<?> component, String name) {
    if (component == PartId.class) {
      return Address.Of.PART;
    }
    if (component == ClipId.class || component == Clips.class) {
      return Address.Of.CLIP;
    }
    if (component == SectionId.class) {
      return Address.Of.SECTION;
    }
    return component == int.class && name.equals("take") ? Address.Of.TAKE : null;
  }

  @Override
  public boolean isAtOnce() {
    return AtOnce.class.isAssignableFrom(of);
  }

  @Override
  public Result apply(Stage stage, Moment moment) {
    return meant(stage, moment.stamp()).apply(stage, moment);
  }
}
