package ancora.core.rules.undo;

import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.stage.Stage;

/** What takes back, and does again. */
public sealed interface UndoCommand extends Command {

  @Override
  default boolean isOfNoMoment() {
    return true;
  }

  /**
   * Takes back what is pending, else what is under way, else the latest step.
   *
   * @param sure whether a loop that sounds goes at once; else the first press only says so
   */
  record Undo(boolean sure) implements UndoCommand, Command.Sure {
    public Undo() {
      this(false);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Undoing.undo(stage, sure, moment);
    }
  }

  /** Does again what was undone last. */
  record Redo() implements UndoCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Undoing.redo(stage, moment);
    }
  }
}
