package ancora.core.control;

import ancora.core.Refusal;
import ancora.core.catalogue.Catalogue;
import ancora.core.catalogue.Entry;
import ancora.core.catalogue.Entry.Hold;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.Sequence;
import ancora.core.rules.address.Addressed;
import java.util.List;
import java.util.Map;

/**
 * A control that stands for a command.
 *
 * @param control which control
 * @param gesture how it is used
 * @param command what it does: one of the catalogue's, or a sequence of those. By a long press it
 *     is sure of what a short one only says
 */
public record Assignment(Control control, Gesture gesture, Command command) {

  /** How a control is pressed. */
  public enum Gesture {
    SHORT("short press"),
    LONG("long press"),
    DOUBLE("double press"),
    RELEASE("letting go"),
    /**
     * For a pedal that latches: it sends one thing when it is trodden on, another the next time.
     */
    EACH("each change of a pedal that stays down");

    private final String words;

    Gesture(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  public Assignment {
    for (Command one : commands(command)) {
      Refusal.unless(
          Catalogue.entry(one).isPresent(), "No control can stand for that: choose from the list.");
      Refusal.unless(
          !(command instanceof Sequence)
              || Entry.holdOf(one) == Hold.PRESSED && !(one instanceof OnPage),
          "“%s” needs a control for itself: leave it out of the sequence.",
          Catalogue.words(one));
    }
    command = gesture == Gesture.LONG ? sure(command) : command;
    Refusal.unless(
        gesture == Gesture.SHORT || Entry.holdOf(command) == Hold.PRESSED,
        "“%s” needs the control for itself: give it a short press.",
        Catalogue.words(command));
    Refusal.unless(
        control.kind() != Control.Kind.PROGRAM_CHANGE
            || gesture != Gesture.RELEASE && gesture != Gesture.EACH,
        "A program change is over at once: give it a short press.");
    Refusal.unless(
        control.kind() != Control.Kind.KEY || Entry.holdOf(command) != Hold.TURNED,
        "A key of the computer does not turn: give “%s” to a knob.",
        Catalogue.words(command));
  }

  private static List<Command> commands(Command command) {
    return command instanceof Sequence sequence ? sequence.commands() : List.of(command);
  }

  private static Command sure(Command command) {
    if (command instanceof Sequence sequence) {
      return new Sequence(
          sequence.name(), sequence.commands().stream().map(Assignment::sure).toList());
    }
    return command instanceof Command.Sure ? sureOf(command) : command;
  }

  private static Command sureOf(Command command) {
    return Addressed.of(command, Map.of("sure", true)).plain();
  }

  /** What it does, in words. */
  public String words() {
    return Catalogue.words(command);
  }
}
