package ancora.core.rules.hands;

import ancora.core.Refusal;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.recording.Repeats;
import ancora.core.stage.Stage;
import java.util.Optional;

/** What hands and feet do. */
public sealed interface HandCommand extends Command {

  /** A key goes down; velocity 0 is a key coming up, as in MIDI 1.0. */
  record KeyDown(InputKey key, int velocity) implements HandCommand, Command.ByHand {
    public KeyDown {
      refusePedal(key);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      Stage down = Playing.keyDown(stage, this, moment);
      return new Result(down, Playing.full(stage, down, moment));
    }
  }

  /** A key comes up. */
  record KeyUp(InputKey key) implements HandCommand, Command.ByHand {
    public KeyUp {
      refusePedal(key);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Playing.keyUp(stage, key, moment.stamp()));
    }
  }

  /**
   * The sustain pedal of a device is moved: 64 and more is down.
   *
   * @param device the device's name
   * @param channel MIDI channel, 0 to 15
   * @param value 0 to 127
   */
  record Sustain(String device, int channel, int value) implements HandCommand, Command.ByHand {
    public Sustain {
      new InputKey(device, channel, 0);
      Refusal.unless(
          value >= 0 && value <= 127, "A pedal at %s does not exist: use 0 to 127.", value);
    }

    /** Whether the foot is down: from half way on (MIDI 1.0). */
    public boolean isDown() {
      return value >= HALF_WAY;
    }

    private static final int HALF_WAY = 64;

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Playing.sustain(stage, this, moment));
    }
  }

  /**
   * A controller of a device is moved.
   *
   * @param device the device's name
   * @param channel MIDI channel, 0 to 15
   * @param controller which; {@link Controller#SUSTAIN} goes by {@link Sustain}
   * @param value 0 to {@link Controller#most()}
   */
  record MoveController(String device, int channel, Controller controller, int value)
      implements HandCommand, Command.ByHand {
    public MoveController {
      new InputKey(device, channel, 0);
      Refusal.unless(
          value >= 0 && value <= controller.most(),
          "A value of %s does not exist there: use 0 to %s.",
          value,
          controller.most());
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(MovingControllers.move(stage, this, moment));
    }
  }

  /** Pressure on a key that is down, 0 to 127: repeats of it get this velocity. */
  record KeyPressure(InputKey key, int value) implements HandCommand, Command.ByHand {
    public KeyPressure {
      refusePedal(key);
      Refusal.unless(
          value >= 0 && value <= 127, "A pressure of %s does not exist: use 0 to 127.", value);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Playing.pressure(stage, key, value));
    }
  }

  /** All keys of a device come up, since the device has gone. */
  record DeviceGone(String device) implements HandCommand, Command.Timeless {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Playing.deviceGone(stage, device, moment.stamp()));
    }
  }

  /** Ends every key that is down. */
  record Panic() implements HandCommand, Command.Timeless {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Playing.panic(stage, moment.stamp()));
    }
  }

  /** Sounds held keys again on every line of a grid. */
  record RepeatNotes(NoteRepeat repeat) implements HandCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Repeats.set(stage, Optional.of(repeat), moment));
    }
  }

  /**
   * Sounds held keys again on every line of a grid, with the swing of the armed part; or no more.
   */
  record RepeatKeys(boolean on, Grid grid)
      implements HandCommand, Command.ShortFor, Command.Switched {
    @Override
    public boolean isOn(Stage stage, long stamp) {
      return stage.hands().repeat().isPresent();
    }

    @Override
    public Command meant(Stage stage, long stamp) {
      double swing =
          stage
              .armed()
              .map(part -> stage.show().part(part).inputGrid().swing())
              .orElse(NoteRepeat.STRAIGHT);
      return on ? new RepeatNotes(new NoteRepeat(grid, swing)) : new RepeatOff();
    }
  }

  /** Held keys sound as they are. */
  record RepeatOff() implements HandCommand, Command.Timeless {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Repeats.set(stage, Optional.empty(), moment));
    }
  }

  private static void refusePedal(InputKey key) {
    Refusal.unless(!key.isPedal(), "Key %s does not exist: use 0 to 127.", key.pitch());
  }
}
