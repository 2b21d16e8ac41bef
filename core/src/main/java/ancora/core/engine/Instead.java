package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.stage.Stage;

/**
 * A press that was done at once turns out to have been another gesture: long, or the first of two.
 * What it did is taken back as if it had not been, and something else is done in its place. The
 * engine alone can do so, since it knows what has come in since.
 *
 * @param of how many accepted commands back it was, from 1
 * @param command what is done in its place, or after it
 */
public record Instead(int of, Command command) implements Command {

  public Instead {
    Refusal.unless(of >= 1, "Say how many commands back: 1 is the last one.");
    Refusal.unless(!(command instanceof Instead), "One press is taken back at a time.");
  }

  @Override
  public boolean isTimeless() {
    return command.isTimeless();
  }

  /** Done where nothing can be taken back any more. */
  @Override
  public Result apply(Stage stage, Moment moment) {
    return command.apply(stage, moment);
  }
}
