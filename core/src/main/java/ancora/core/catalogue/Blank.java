package ancora.core.catalogue;

import java.util.List;

/**
 * Something of a command that the performer chooses: which part, how far, on or off.
 *
 * @param field the component that it fills; of a setting, that of the setting
 * @param choices what it may be, the usual one first
 */
public record Blank(String field, List<Choice> choices) {

  public Blank {
    choices = List.copyOf(choices);
  }

  /**
   * One of what it may be.
   *
   * @param value the component's value, an address, or an adjustment
   * @param words as it stands in the words of the command
   */
  public record Choice(Object value, String words) {}
}
