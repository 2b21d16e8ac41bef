package ancora.core.rules.settings;

import ancora.core.Refusal;
import ancora.core.note.InputGrid;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.TempoAndMeter;
import ancora.core.rules.recording.Breathers;
import ancora.core.show.Adjustment;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Components;
import ancora.core.show.Leaving;
import ancora.core.show.Master;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartOutput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.Optional;

/** What the show and its parts are set to. */
public sealed interface SettingCommand extends Command {

  @Override
  default boolean isOfNoMoment() {
    return true;
  }

  /** Sets the tempo. */
  record SetTempo(Tempo tempo) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(TempoAndMeter.withTempo(stage, tempo, moment));
    }
  }

  /** Changes the tempo: by quarter notes a minute, or to where a knob stands. */
  record ShiftTempo(Adjustment by) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Settings.shiftTempo(stage, by, moment));
    }
  }

  /** A tap of the tempo, on a beat of the click. */
  record TapTempo() implements SettingCommand {
    @Override
    public boolean isOfNoMoment() {
      return false;
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Settings.tap(stage, moment));
    }
  }

  /** Sets the meter; refused once there is music. */
  record SetMeter(Meter meter) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Settings.meter(stage, meter), "set the meter"));
    }
  }

  /** Sets the click. */
  record SetClick(Components<Click> click) implements SettingCommand {
    public SetClick(Click whole) {
      this(Components.all(whole));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(stage.withShow(stage.show().withClick(click.in(stage.show().click()))));
    }
  }

  /** Sets how recordings begin and close. */
  record SetRecording(Components<RecordingSettings> settings) implements SettingCommand {
    public SetRecording(RecordingSettings whole) {
      this(Components.all(whole));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      Show show = stage.show();
      Stage set = stage.withShow(show.withRecording(settings.in(show.recording())));
      return Result.to(Breathers.set(stage, set, moment));
    }
  }

  /** After closing a loop vamps, goes on with overdub, or with takes: the next of these. */
  record NextAfterClosing() implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      RecordingSettings now = stage.show().recording();
      RecordingSettings next =
          now.takesAfter()
              ? now.withTakesAfter(false).withOverdubAfter(false)
              : now.withTakesAfter(now.overdubAfter()).withOverdubAfter(!now.overdubAfter());
      return new SetRecording(Components.between(now, next)).apply(stage, moment);
    }
  }

  /** Gives the show another name. */
  record Rename(String title) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(stage.withShow(stage.show().withTitle(title)));
    }
  }

  /** Sets what all parts go through. */
  record SetMaster(Components<Master> master) implements SettingCommand {
    public SetMaster(Master whole) {
      this(Components.all(whole));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(stage.withShow(stage.show().withMaster(master.in(stage.show().master()))));
    }
  }

  /** Moves the levels of all parts by some dB, −24 to +24. */
  record TrimAll(double decibels) implements SettingCommand {
    public TrimAll {
      Refusal.unless(decibels >= -24 && decibels <= 24, "Trim by −24 to +24 dB at a time.");
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Settings.trimAll(stage, decibels));
    }
  }

  /** Adds a part, and arms it if none is armed. */
  record AddPart(String name, Sound sound) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Settings.addPart(stage, this), "add a part"));
    }
  }

  /**
   * Chooses a part's sound.
   *
   * @param part the part
   * @param sound its sound
   * @param evenWithMusic must be set if the part has a clip
   */
  record ChooseSound(PartId part, Sound sound, boolean evenWithMusic) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Settings.sound(stage, this), "choose a sound"));
    }
  }

  /**
   * Adds a part that sounds as the one that is armed does, and arms it.
   *
   * @param next whether with the next sound of its family instead
   */
  record AddPartLike(boolean next) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Settings.addLike(stage, next), "add a part"));
    }
  }

  /**
   * A part has the sound so many places further on, with the music that it has.
   *
   * @param by 1 for the next, −1 for the one before
   */
  record StepSound(PartId part, int by) implements SettingCommand {
    public StepSound {
      Refusal.unless(by == 1 || by == -1, "Go one sound further, or one back.");
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      Sound sound = stage.show().part(part).sound().further(by);
      return new ChooseSound(part, sound, true).apply(stage, moment);
    }
  }

  /** Sets a part's input grid. */
  record SetInputGrid(PartId part, Components<InputGrid> grid) implements SettingCommand {
    public SetInputGrid(PartId part, InputGrid whole) {
      this(part, Components.all(whole));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          stage.withShow(stage.show().mapPart(part, p -> p.withInputGrid(grid.in(p.inputGrid())))));
    }
  }

  /** Sets what a part takes of what is played. */
  record SetPartInput(PartId part, Components<PartInput> input) implements SettingCommand {
    public SetPartInput(PartId part, PartInput whole) {
      this(part, Components.all(whole));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          stage.withShow(stage.show().mapPart(part, p -> p.withInput(input.in(p.input())))));
    }
  }

  /** Sets how a part stands in the whole. */
  record SetBalance(PartId part, Components<Balance> balance) implements SettingCommand {
    public SetBalance(PartId part, Balance whole) {
      this(part, Components.all(whole));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          stage.withShow(stage.show().mapPart(part, p -> p.withBalance(balance.in(p.balance())))));
    }
  }

  /** Gives a part another pennant. */
  record SetPennant(PartId part, int pennant) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              stage.withShow(stage.show().mapPart(part, p -> p.withPennant(pennant))),
              "change a pennant"));
    }
  }

  /** Sets what becomes of a part's notes where a clip leaves. */
  record SetLeaving(PartId part, Leaving leaving) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(stage.withShow(stage.show().mapPart(part, p -> p.withLeaving(leaving))));
    }
  }

  /** From now on a part sounds on an outside device, besides or instead of its own sound. */
  record SoundOutside(PartId part, PartOutput output) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              stage.withShow(stage.show().mapPart(part, p -> p.withOutput(Optional.of(output)))),
              "sound on a device"));
    }
  }

  /** A part has its own sound alone again. */
  record SoundInside(PartId part) implements SettingCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              stage.withShow(stage.show().mapPart(part, p -> p.withOutput(Optional.empty()))),
              "sound inside"));
    }
  }

  /** The page reports D: delivery and output latency, 0 to 1 000 000 µs. */
  record ReportDelay(long micros) implements SettingCommand, Command.ByHand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Settings.delay(stage, micros));
    }
  }
}
