package ancora.core.rules.editing;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Take;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.recording.Laps;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import java.util.List;
import java.util.Optional;

/** What is done to notes, and to clips by their notes, while they sound. */
public sealed interface EditCommand extends Command {

  /** No command makes more edits than this. */
  int MOST_EDITS = 64;

  @Override
  default boolean isOfNoMoment() {
    return true;
  }

  /** Edits notes, one edit after another, as one step. */
  record EditNotes(PartId part, Clips clip, WhichTakes takes, List<Edit> edits)
      implements EditCommand {
    public EditNotes {
      Refusal.unless(
          !edits.isEmpty() && edits.size() <= MOST_EDITS, "Make 1 to %s edits.", MOST_EDITS);
      edits = List.copyOf(edits);
    }

    @Override
    public Result apply(Stage stage, Moment moment) {
      return Notes.edit(stage, this);
    }
  }

  /**
   * Puts the notes of a clip to its part's grid, or back to where they were played.
   *
   * @param newest whether those of the newest layer alone
   * @param toGrid whether to the grid; else as played
   */
  record Regrid(PartId part, ClipId clip, boolean newest, boolean toGrid)
      implements EditCommand, Command.ShortFor {
    @Override
    public Command meant(Stage stage, long stamp) {
      Take take = stage.clip(part, clip).take();
      Chosen notes =
          newest && !take.layers().isEmpty()
              ? new Chosen.OfLayer(take.layers().get(take.layers().size() - 1).number())
              : new Chosen.All();
      InputGrid grid = stage.show().part(part).inputGrid();
      Refusal.unless(
          !toGrid || grid.grid() != Grid.OFF,
          "%s has no grid: choose one first.",
          stage.show().part(part).name());
      Edit edit =
          toGrid
              ? new Edit.ToGrid(
                  notes,
                  Optional.of(grid.grid()),
                  grid.strength(),
                  grid.swing(),
                  grid.endsToo(),
                  Optional.empty())
              : new Edit.AsPlayed(notes);
      return new EditNotes(part, new Clips(List.of(clip)), WhichTakes.HEARD, List.of(edit));
    }
  }

  /** Makes a clip with nothing in it, of so many bars. */
  record MakeClip(PartId part, int bars) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.make(stage, part, bars);
    }
  }

  /** Notes go to a clip of their own beside theirs. */
  record SplitNotes(PartId part, ClipId clip, Chosen notes) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.split(apart(stage, part, clip, moment), part, clip, notes);
    }
  }

  /** Makes clips of the pieces of one, each of so many bars; it stays itself. */
  record CutClip(PartId part, ClipId clip, int bars) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.cut(apart(stage, part, clip, moment), part, clip, bars);
    }
  }

  /** Clips go round so many times in all before they come to their line. */
  record RepeatClip(PartId part, Clips clip, int times) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.repeat(apart(stage, part, clip, moment), part, clip.ids(), times, moment);
    }
  }

  /** Makes a clip of several, one after another. */
  record ChainClips(PartId part, Clips clip) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.chain(apart(stage, part, clip, moment), part, clip.ids());
    }
  }

  /** Each layer but the lowest goes to a clip of its own. */
  record SpreadLayers(PartId part, ClipId clip) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.spreadLayers(apart(stage, part, clip, moment), part, clip);
    }
  }

  /** All layers of the take that is heard become one, of what sounds. */
  record Flatten(PartId part, ClipId clip) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.flatten(apart(stage, part, clip, moment), part, clip);
    }
  }

  /** Copies a clip to another part, with every layer and take. */
  record CopyClip(PartId part, ClipId clip, PartId to) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.copy(apart(stage, part, clip, moment), part, clip, to);
    }
  }

  /** Moves a clip to another part, with every layer and take. */
  record MoveClipTo(PartId part, ClipId clip, PartId to) implements EditCommand {
    @Override
    public Result apply(Stage stage, Moment moment) {
      return Cutting.moveTo(stage, part, clip, to, moment);
    }
  }

  private static Stage apart(Stage stage, PartId part, ClipId clip, Moment moment) {
    return Laps.apart(stage, part, clip, moment);
  }

  private static Stage apart(Stage stage, PartId part, Clips clips, Moment moment) {
    Stage next = stage;
    for (ClipId clip : clips.ids()) {
      next = Laps.apart(next, part, clip, moment);
    }
    return next;
  }
}
