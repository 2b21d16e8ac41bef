package ancora.core.rules.keeping;

import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;

/** Making clips of what was played while nothing was recording (rule 15). */
public sealed interface KeepCommand extends Command {

  /**
   * Makes a clip of the last phrase played on the part that is armed, whether or not it was
   * recorded, and whether or not the transport ran. Pressed again within two seconds it takes the
   * other instead: that of the run, or that of the standstill.
   *
   * @param ofLoopLength whether it is to be as long as the loop that vamps
   * @param cue whether it is cued
   */
  record Keep(boolean ofLoopLength, boolean cue) implements KeepCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Keeping.keep(stage, this, moment);
    }
  }

  /**
   * The same, on another part.
   *
   * @param onto on whose shelf the clip goes
   */
  record KeepOnto(PartId onto, boolean ofLoopLength, boolean cue) implements KeepCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Keeping.onto(stage, this, moment);
    }
  }

  /**
   * Makes a clip of the last bars of the run.
   *
   * @param part on which they were played
   * @param onto on whose shelf the clip goes
   * @param bars 1 to 32
   * @param cue whether it is cued
   */
  record KeepBars(PartId part, PartId onto, int bars, boolean cue) implements KeepCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Keeping.bars(stage, this, moment);
    }
  }

  /**
   * Makes a clip of a stretch of what was played, on the bar lines around it.
   *
   * @param part on which it was played
   * @param onto on whose shelf the clip goes
   * @param from instant at which it begins, in microseconds of server time
   * @param until instant at which it ends
   * @param cue whether it is cued
   */
  record KeepStretch(PartId part, PartId onto, long from, long until, boolean cue)
      implements KeepCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Keeping.stretch(stage, this, moment);
    }
  }

  /** Takes the tempo of what was kept at standstill otherwise, as long as nothing else was done. */
  record ChangeKept(Otherwise by) implements KeepCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Keeping.change(stage, by, moment);
    }
  }

  /**
   * Takes the phrase before what was kept last as well, or gives it back; where none was taken, it
   * lets go of what lies before the first silence of a bar. As long as nothing else was done.
   *
   * @param by 1 for one more, −1 for one fewer
   */
  record KeepPhrases(int by) implements KeepCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Keeping.phrases(stage, by, moment);
    }
  }

  /** Starts the transport with what was kept last alone. */
  record HearKept() implements KeepCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Keeping.hear(stage, moment);
    }
  }
}
