package ancora.core.control;

import ancora.core.Refusal;

/**
 * A control that stands for an action.
 *
 * @param control which control
 * @param gesture how it is pressed
 * @param action what it does
 * @param number which clip, section or part, from 1; 0 where there is only one, or for the armed
 *     part
 */
public record Assignment(Control control, Gesture gesture, Action action, int number) {

  /** How a control is pressed. */
  public enum Gesture {
    SHORT("short press"),
    LONG("long press"),
    DOUBLE("double press"),
    RELEASE("letting go"),
    /**
     * For a pedal that latches: it sends one thing when it is trodden on, another the next time.
     */
    EACH("each change, if it latches");

    private final String words;

    Gesture(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  public Assignment {
    checkNumber(number);
    Refusal.unless(
        gesture == Gesture.SHORT
            || action.hold() == Action.Hold.PRESSED
            || action.hold() == Action.Hold.NUMBERED,
        "“%s” needs the control for itself: give it a short press.",
        action.words());
    Refusal.unless(
        control.kind() != Control.Kind.PROGRAM_CHANGE
            || gesture != Gesture.RELEASE && gesture != Gesture.EACH,
        "A program change is over at once: give it a short press.");
  }

  /** What it does, in words. */
  public String words() {
    return number == 0 ? action.words() : action.words() + " " + number;
  }

  /** Refuses a number that chooses nothing. */
  public static void checkNumber(int number) {
    Refusal.unless(number >= 0 && number <= 26, "A control chooses one of 26 at most.");
  }
}
