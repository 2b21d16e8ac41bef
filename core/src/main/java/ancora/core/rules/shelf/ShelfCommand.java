package ancora.core.rules.shelf;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.show.Adjustment;
import ancora.core.show.Components;
import ancora.core.show.PartId;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.EntryUnit;
import java.util.Collections;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** What is done to clips on the shelf, and to parts. */
public sealed interface ShelfCommand extends Command {

  @Override
  default boolean isOfNoMoment() {
    return true;
  }

  /** Changes a clip's window, at the next beat if it sounds. */
  record Reshape(PartId part, ClipId clip, Reshaping reshaping) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Shelves.reshape(stage, this, moment));
    }
  }

  /**
   * Changes windows by bars, at the next beat: of what the armed part has in hand, or of all that
   * vamp.
   */
  record WindowBars(Bars bars, boolean all) implements ShelfCommand {
    /** What becomes of a window. */
    public enum Bars {
      /** The bar that sounds, alone. */
      ALONE,
      /** A bar longer at its end. */
      LONGER,
      /** A bar shorter at its end. */
      SHORTER
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Shelves.windowBars(stage, this, moment));
    }

    @Override
    public boolean isOfNoMoment() {
      return false;
    }
  }

  /** The loop's notes go round by some beats. */
  record ShiftLoop(PartId part, ClipId clip, int beats) implements ShelfCommand, Command.ShortFor {
    public ShiftLoop {
      Refusal.unless(beats >= -64 && beats <= 64, "Shift a loop by less than its length.");
    }

    @Override
    public Command meant(Stage stage, long stamp) {
      long ticks = beats * stage.show().meter().beatTicks();
      return new Reshape(part, clip, new Reshaping.Shift(ticks));
    }
  }

  /**
   * Moves an edge of a clip's window, at the next beat if it sounds.
   *
   * @param edge which
   * @param unit in what it is counted: beats or bars
   * @param by how far, or to where by a knob
   */
  record MoveEdge(PartId part, ClipId clip, Edge edge, EntryUnit unit, Adjustment by)
      implements ShelfCommand {
    /** What of a window is moved. */
    public enum Edge {
      /** Where it starts; it stays as long as it is. */
      START,
      /** How long it is. */
      LENGTH
    }

    public MoveEdge {
      Refusal.unless(
          unit == EntryUnit.BEAT || unit == EntryUnit.BAR, "A window moves by beats or bars.");
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Shelves.moveEdge(stage, this, moment));
    }
  }

  /** Copies a clip, with all its layers and takes, onto the same shelf. */
  record DuplicateClip(PartId part, ClipId clip) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(stage, Shelves.duplicate(stage, part, clip), "duplicate a clip"));
    }
  }

  /** Copies a clip with only its louder notes, to be cued where there should be less. */
  record ThinClip(PartId part, ClipId clip) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Shelves.thin(stage, part, clip), "thin a clip"));
    }
  }

  /** Takes a clip off the shelf. */
  record DeleteClip(PartId part, ClipId clip) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Shelves.deleted(stage, part, clip, moment));
    }
  }

  /** Gives a clip a name; an empty one takes it away. */
  record RenameClip(PartId part, ClipId clip, String name) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(stage, Shelves.rename(stage, part, clip, name), "rename a clip"));
    }
  }

  /**
   * From its entry on a clip's part sounds like this; until a clip without a sound of its own
   * enters.
   */
  record SetClipSound(PartId part, ClipId clip, Sound sound) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              Shelves.withSound(stage, part, clip, Optional.of(sound)),
              "give a sound to a clip"));
    }
  }

  /** A clip sounds like its part again. */
  record ClipSoundAsPart(PartId part, ClipId clip) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              Shelves.withSound(stage, part, clip, Optional.empty()),
              "take a sound from a clip"));
    }
  }

  /** Moves a clip to a place on its shelf, from 0. */
  record MoveClip(PartId part, ClipId clip, int place) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Shelves.move(stage, part, clip, place), "move a clip"));
    }
  }

  /** Sets how a clip comes in and goes round. */
  record SetManner(PartId part, ClipId clip, Components<Manner> manner) implements ShelfCommand {
    public SetManner(PartId part, ClipId clip, Manner whole) {
      this(part, clip, Components.all(whole));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              Shelves.manner(stage, part, clip, manner.in(stage.clip(part, clip).manner())),
              "how a clip goes"));
    }
  }

  /** Makes a clip of its own of some pitches of a clip. */
  record SplitClip(PartId part, ClipId clip, Set<Integer> pitches) implements ShelfCommand {
    public SplitClip {
      pitches = Collections.unmodifiableSet(new TreeSet<>(pitches));
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(stage, Splitting.splitClip(stage, part, clip, pitches), "split a clip"));
    }
  }

  /** Gives each drum of a part a part of its own. */
  record SplitPart(PartId part) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Splitting.splitPart(stage, part), "split a part"));
    }
  }

  /** Brings in music from a file, a run, or another show; all of it, or none. */
  record BringIn(Arrival arrival) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Arriving.take(stage, arrival, moment);
    }
  }

  /** Joins another part's clips into a part. */
  record JoinParts(PartId part, PartId other) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Splitting.joinParts(stage, part, other), "join parts"));
    }
  }

  /** Gives a part another name. */
  record RenamePart(PartId part, String name) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(
          Steps.noted(
              stage,
              stage.withShow(stage.show().mapPart(part, p -> p.withName(name))),
              "rename a part"));
    }
  }

  /** Deletes a part with its clips. */
  record DeletePart(PartId part) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Shelves.deletePart(stage, part), "delete a part"));
    }
  }

  /** Moves a part to a place among the staves, from 0. */
  record MovePart(PartId part, int place) implements ShelfCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Result.to(Steps.noted(stage, Shelves.movePart(stage, part, place), "move a part"));
    }
  }
}
