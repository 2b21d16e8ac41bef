package ancora.core.engine;

import ancora.core.control.Action;
import ancora.core.control.Assignment;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.stage.Stage;

/**
 * A control that stands for an action is pressed: it means another command, as things stood at the
 * press.
 *
 * @param action what it stands for; not one for knobs
 * @param number which clip, section or part, from 1; 0 where there is only one, or for the armed
 *     part
 * @param sure whether it was a long press: what silences a loop does so at once
 */
public record Act(Action action, int number, boolean sure) implements Command {

  public Act {
    Assignment.checkNumber(number);
  }

  public Act(Action action, int number) {
    this(action, number, false);
  }

  @Override
  public Result apply(Stage stage, Moment moment) {
    return Acting.meant(stage, this, moment.stamp()).apply(stage, moment);
  }
}
