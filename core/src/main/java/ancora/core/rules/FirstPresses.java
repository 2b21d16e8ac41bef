package ancora.core.rules;

import ancora.core.stage.FirstPress;
import ancora.core.stage.Stage;
import java.util.Optional;

/** A press that would silence a loop only says so, the first time. */
public final class FirstPresses {

  private FirstPresses() {}

  // a press that silences a loop

  /** Whether a press only says what it would silence: a short one, the first of two. */
  public static boolean onlySays(Stage stage, FirstPress.Of of, boolean sure, Moment moment) {
    boolean second =
        stage.firstPress().filter(press -> press.before(of, moment.stamp())).isPresent();
    return !sure && !second;
  }

  public static Result said(Stage stage, FirstPress.Of of, String what, Moment moment) {
    return Result.to(
        stage.withFirstPress(Optional.of(new FirstPress(of, moment.stamp()))),
        what + ": press again to do it.");
  }
}
