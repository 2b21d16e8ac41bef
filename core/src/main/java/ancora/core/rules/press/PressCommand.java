package ancora.core.rules.press;

import ancora.core.Refusal;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.recording.Sounding;
import ancora.core.show.PartId;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;

/** What begins, closes and keeps recordings, and on which parts. */
public sealed interface PressCommand extends Command {

  /**
   * The one control that starts a recording, closes it, and starts and stops overdubbing, on the
   * armed part.
   */
  record MainPress() implements PressCommand, Command.Timeless, Command.AtOnce {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Pressing.press(stage, moment);
    }
  }

  /** Closes the loop that is being recorded, and does nothing else. */
  record Close() implements PressCommand, Command.ShortFor, Command.Timeless, Command.AtOnce {
    @Override
    public Command meant(Stage stage, long stamp) {
      Refusal.unless(
          stage.on(stage.playedPart()).first().isPresent(),
          "No loop is being recorded: start one.");
      return new MainPress();
    }
  }

  /** Switches overdub on and off, and does nothing else. */
  record Overdub() implements PressCommand, Command.ShortFor, Command.Timeless, Command.AtOnce {
    @Override
    public Command meant(Stage stage, long stamp) {
      PartId part = stage.playedPart();
      PartStage on = stage.on(part);
      Sounding.refuseWhileFirst(stage, part);
      Refusal.unless(
          on.inHand().isPresent(),
          "%s has no loop yet: record one, and close it.",
          stage.show().part(part).name());
      return new MainPress();
    }
  }

  /** Records into a new clip on the armed part, from the next entry point on. */
  record RecordAnew() implements PressCommand, Command.Timeless, Command.AtOnce {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Pressing.recordAnew(stage, moment);
    }
  }

  /** Finishes the armed part's loop, and records on in a new part with the same sound. */
  record HandOff() implements PressCommand, Command.Timeless, Command.AtOnce {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return HandOffs.handOff(stage, moment);
    }
  }

  /** Makes a part the one that recording goes to, and no other. */
  record Arm(PartId part) implements PressCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Arming.arm(stage, part, moment));
    }
  }

  /** A part is played, and recorded on, together with the one that is armed; or is not any more. */
  record ArmAlongside(PartId part, boolean on) implements PressCommand, Command.Switched {
    @Override
    public boolean isOn(Stage stage, long stamp) {
      return stage.armed().filter(part::equals).isPresent() || stage.alongside().contains(part);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Arming.alongside(stage, part, on, moment));
    }
  }
}
