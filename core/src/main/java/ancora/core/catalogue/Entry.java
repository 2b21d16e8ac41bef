package ancora.core.catalogue;

import ancora.core.rules.Command;
import ancora.core.rules.address.Addressed;
import ancora.core.show.Adjustment;
import ancora.core.show.Components;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Something that a performer may want on a control.
 *
 * @param group where it is found
 * @param words what it does, with {@code {field}} for each blank
 * @param usual the command with each blank as it usually is
 * @param blanks what can be chosen
 */
public record Entry(Group group, String words, Command usual, List<Blank> blanks) {

  public Entry {
    blanks = List.copyOf(blanks);
  }

  /** How a control works that stands for a command. */
  public enum Hold {
    PRESSED,
    /** It lasts as long as the control is held. */
    WHILE_HELD,
    /** It is turned. */
    TURNED
  }

  /** The command with some blanks filled; the others are as usual. */
  public Command with(Map<String, Object> values) {
    Map<String, Object> instead = new HashMap<>(values);
    Map<String, Object> own = Said.components(usual);
    own.forEach(
        (name, value) -> {
          if (value instanceof Components<?> some) {
            Map<String, Object> all = new HashMap<>(some.values());
            all.replaceAll((field, said) -> values.getOrDefault(field, said));
            instead.put(name, new Components<>(some.of(), all));
          }
        });
    instead.keySet().retainAll(own.keySet());
    Addressed filled =
        usual instanceof Addressed addressed
            ? new Addressed(addressed.of(), merged(addressed.said(), instead))
            : Addressed.of(usual, instead);
    return filled.plain();
  }

  private static Map<String, Object> merged(Map<String, Object> said, Map<String, Object> instead) {
    Map<String, Object> all = new HashMap<>(said);
    all.putAll(instead);
    return all;
  }

  /** How each blank is filled in a command; empty if the command is not this one. */
  public Optional<Map<String, Object>> filled(Command command) {
    if (Said.kind(command) != Said.kind(usual)) {
      return Optional.empty();
    }
    Map<String, Object> here = new LinkedHashMap<>(Said.all(usual));
    Map<String, Object> there = new LinkedHashMap<>(Said.all(command));
    Map<String, Object> filled = new LinkedHashMap<>();
    for (Blank blank : blanks) {
      here.remove(blank.field());
      Object value = there.remove(blank.field());
      if (value == null) {
        return Optional.empty();
      }
      filled.put(blank.field(), value);
    }
    // a long press is sure of what a short one only says
    here.remove("sure");
    there.remove("sure");
    return here.equals(there) ? Optional.of(filled) : Optional.empty();
  }

  /** What a command of this entry does, in words. */
  public String words(Map<String, Object> filled) {
    String told = words;
    for (Blank blank : blanks) {
      told = told.replace("{" + blank.field() + "}", words(blank, filled.get(blank.field())));
    }
    return told;
  }

  private static String words(Blank blank, Object value) {
    return blank.choices().stream()
        .filter(choice -> choice.value().equals(value))
        .map(Blank.Choice::words)
        .findFirst()
        .orElseGet(() -> Said.words(value));
  }

  /** How a control works that stands for a command. */
  public static Hold holdOf(Command command) {
    if (Said.all(command).values().stream().anyMatch(Adjustment.Knob.class::isInstance)) {
      return Hold.TURNED;
    }
    return Said.all(command).values().stream().anyMatch(Adjustment.Held.class::isInstance)
        ? Hold.WHILE_HELD
        : Hold.PRESSED;
  }
}
