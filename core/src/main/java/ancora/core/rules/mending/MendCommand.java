package ancora.core.rules.mending;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Stretch;
import ancora.core.record.Way;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.recording.Erasing;
import ancora.core.rules.recording.Recordings;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.stage.Stage;
import ancora.core.vamp.ShortLoop;
import java.util.List;

/** What mends a loop that sounds, and what chooses among its layers and takes. */
public sealed interface MendCommand extends Command {

  /** Puts new notes for old in the stretch being played, on the armed part. */
  record Replace(boolean on) implements MendCommand, Command.AtOnce, Command.OffByItsStamp {
    @Override
    public boolean isOn(Stage stage, long stamp) {
      return Recordings.isOn(stage, Way.REPLACE, stamp);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Mending.replace(stage, on, moment);
    }
  }

  /**
   * Puts new notes for old in a range of the armed part's clip.
   *
   * @param from its first place, in ticks of the clip's material
   * @param to the first place after it
   */
  record Punch(long from, long to) implements MendCommand, Command.AtOnce {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Mending.punch(stage, from, to, moment);
    }
  }

  /** Punches the bar of the armed part's loop that sounds now. */
  record PunchHere() implements MendCommand, Command.AtOnce {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Mending.punchHere(stage, moment);
    }
  }

  /** Ends a punch. */
  record PunchOff() implements MendCommand, Command.Timeless, Command.AtOnce {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Recordings.off(stage, Way.PUNCH, moment));
    }
  }

  /**
   * Puts new notes for old in some bars of the armed part's loop.
   *
   * @param first the first of them, from 1
   * @param bars how many
   */
  record PunchBars(int first, int bars) implements MendCommand, Command.AtOnce {
    public PunchBars {
      Refusal.unless(
          Math.min(first, bars) >= 1 && Math.max(first, bars) <= RecordingSettings.MOST_BARS,
          "A loop has bars from 1 to %s.",
          RecordingSettings.MOST_BARS);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Mending.punchBars(stage, this, moment);
    }
  }

  /** Punches the bar that sounds now, or ends a punch. */
  record PunchBar(boolean on) implements MendCommand, Command.AtOnce, Command.OffByItsStamp {
    @Override
    public boolean isOn(Stage stage, long stamp) {
      return Recordings.isOn(stage, Way.PUNCH, stamp);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return on
          ? Mending.punchHere(stage, moment)
          : Result.to(Recordings.off(stage, Way.PUNCH, moment));
    }
  }

  /** While it is held, pitches held with it are taken out of the armed part's loop as they pass. */
  record EraseHeld(boolean on) implements MendCommand, Command.OffByItsStamp {
    @Override
    public boolean isOn(Stage stage, long stamp) {
      return stage.hands().isErasing();
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Erasing.set(stage, on, moment);
    }
  }

  /**
   * While it is held, a loop goes round in the beat in which the press fell.
   *
   * @param on whether it is held
   * @param divide 1 for a beat, 2 for half, 4 for a quarter of one
   * @param all whether all loops do that vamp; else that of the armed part
   */
  record Stutter(boolean on, int divide, boolean all)
      implements MendCommand, Command.OffByItsStamp {
    public Stutter {
      Refusal.unless(
          divide == 1 || divide == 2 || divide == 4,
          "A stutter is a beat long, or half or a quarter of one: use 1, 2 or 4.");
    }

    @Override
    public boolean isOn(Stage stage, long stamp) {
      return stage.partStages().values().stream()
          .anyMatch(part -> part.stutter().filter(ShortLoop::isHeld).isPresent());
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Stuttering.set(stage, this, moment));
    }
  }

  /** Takes the newest layer off the armed part's clip, or starts its first recording afresh. */
  record Peel() implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Peeling.peel(stage, moment);
    }
  }

  /** Puts back the layer that was peeled off last. */
  record Restore() implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Peeling.restore(stage, moment));
    }
  }

  /** Takes the newest layer off a clip, be it in hand or not. */
  record PeelClip(PartId part, ClipId clip) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Peeling.peel(stage, part, clip, moment);
    }
  }

  /** Puts back onto a clip the layer that was taken off it last. */
  record RestoreClip(PartId part, ClipId clip) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Peeling.restore(stage, part, clip, moment));
    }
  }

  /** Peels to the state in which overdub was last switched on. */
  record PeelAll() implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Peeling.peelAll(stage, moment));
    }
  }

  /**
   * Takes the armed part's clip off the shelf.
   *
   * @param sure whether a loop that sounds goes at once; else the first press only says so
   */
  record Clear(boolean sure) implements MendCommand, Command.Sure {
    public Clear() {
      this(false);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Peeling.clear(stage, sure, moment);
    }
  }

  /**
   * Makes each pass a take of the armed part's clip; switched off, the last complete one is heard.
   */
  record Takes(boolean on) implements MendCommand, Command.AtOnce, Command.OffByItsStamp {
    @Override
    public boolean isOn(Stage stage, long stamp) {
      return Recordings.isOn(stage, Way.TAKES, stamp);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Taking.set(stage, on, moment);
    }
  }

  /** Hears another take of a clip. */
  record HearTake(PartId part, ClipId clip, int take, boolean atOnce) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Taking.hear(stage, part, clip, take, atOnce, moment));
    }
  }

  /** Gives a take a name. */
  record RenameTake(PartId part, ClipId clip, int take, String name) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(stage, Taking.rename(stage, part, clip, take, name), "rename a take"));
    }
  }

  /** Deletes a take that is not heard. */
  record DeleteTake(PartId part, ClipId clip, int take) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Taking.delete(stage, part, clip, take), "delete a take"));
    }
  }

  /** Keeps the take that is heard, and no other. */
  record CropTakes(PartId part, ClipId clip) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Taking.crop(stage, part, clip), "keep one take"));
    }
  }

  /** Makes each other take a clip of its own. */
  record SpreadTakes(PartId part, ClipId clip) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Taking.spread(stage, part, clip), "spread the takes"));
    }
  }

  /** Takes one after another make a longer clip, beside this one. */
  record LayTakesInRow(PartId part, ClipId clip) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(stage, Taking.layInRow(stage, part, clip), "lay takes in a row"));
    }
  }

  /** Some takes, in the order given, make a longer clip. */
  record TakesInARow(PartId part, ClipId clip, List<Integer> takes) implements MendCommand {
    public TakesInARow {
      takes = List.copyOf(takes);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(stage, Taking.layInRow(stage, part, clip, takes), "lay takes in a row"));
    }
  }

  /** Puts a take together from stretches of others, a later one over an earlier. */
  record Comp(PartId part, ClipId clip, List<Stretch> stretches) implements MendCommand {
    public Comp {
      Refusal.unless(
          !stretches.isEmpty() && stretches.size() <= Stretch.MOST,
          "A comp has 1 to %s stretches.",
          Stretch.MOST);
      stretches = List.copyOf(stretches);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Taking.comp(stage, part, clip, stretches, moment));
    }
  }

  /**
   * From the place that sounds to the end of the loop it is another take: so a comp is made, or
   * drawn anew if one is heard.
   */
  record CompHere(PartId part, ClipId clip, int take) implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Sweeping.fromHere(stage, this, moment));
    }
  }

  /** While it is held another take is heard, and that stretch of it goes into the comp. */
  record CompHeld(PartId part, ClipId clip, int take, boolean on)
      implements MendCommand, Command.OffByItsStamp {
    @Override
    public boolean isOn(Stage stage, long stamp) {
      return stage.hands().sweep().isPresent();
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Sweeping.set(stage, this, moment));
    }
  }

  /**
   * Draws a stretch of a comp anew.
   *
   * @param take the comp
   * @param from the stretch's first place, in ticks of the clip's material
   * @param to the first place after it
   * @param of the take that it is drawn from
   */
  record RedrawComp(PartId part, ClipId clip, int take, long from, long to, int of)
      implements MendCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              Taking.redraw(stage, part, clip, take, new Stretch(from, to, of)),
              "a stretch of a comp"));
    }
  }
}
