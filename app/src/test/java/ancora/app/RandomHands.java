package ancora.app;

import ancora.core.clip.Clip;
import ancora.core.clip.ComesIn;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.Tempo;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;

/** Hands and feet that do anything at all, one thing after another. */
public final class RandomHands {

  private static final InputKey[] KEYS = {
    new InputKey("pads", 9, 36), new InputKey("pads", 9, 38), new InputKey("keys", 0, 60)
  };

  private static final Grid[] GRIDS = {Grid.EIGHTH, Grid.SIXTEENTH, Grid.EIGHTH_TRIPLET};

  private final Random random;

  public RandomHands(Random random) {
    this.random = random;
  }

  /** A show for them, in which one number decides what follows. */
  public static Show show(long seed) {
    return Show.named("random")
        .withRecording(
            RecordingSettings.DEFAULT
                .withCountInBars((int) (seed % 2))
                .withOverdubAfter(seed % 3 == 0))
        .withNewPart("Kit", Sound.STANDARD_KIT)
        .withNewPart("Bass", Sound.of(33));
  }

  /** What they do next. */
  public Command next(Stage stage) {
    InputKey key = KEYS[random.nextInt(KEYS.length)];
    List<PartId> parts = stage.show().parts().stream().map(Part::id).toList();
    PartId part = parts.get(random.nextInt(parts.size()));
    List<Clip> shelf = stage.show().part(part).shelf();
    boolean clips = !shelf.isEmpty() && random.nextBoolean();
    if (clips) {
      return ofClip(part, shelf.get(random.nextInt(shelf.size())));
    }
    return switch (random.nextInt(30)) {
      case 0, 1, 2, 3, 4, 5, 6 -> new HandCommand.KeyDown(key, 1 + random.nextInt(127));
      case 7, 8, 9, 10, 11 -> new HandCommand.KeyUp(key);
      case 12, 13, 14 -> new PressCommand.MainPress();
      case 15 -> new SettingCommand.SetTempo(new Tempo(60_000 + random.nextInt(240_000)));
      case 16 -> new MendCommand.Restore();
      case 17, 18 -> new PressCommand.Arm(part);
      case 19, 20 -> new HandCommand.Sustain("keys", 0, random.nextInt(128));
      case 21 -> new HandCommand.MoveController("keys", 0, Controller.BEND, random.nextInt(16_384));
      case 22 ->
          new HandCommand.MoveController("keys", 0, Controller.change(1), random.nextInt(128));
      case 23 -> new HandCommand.RepeatNotes(new NoteRepeat(GRIDS[random.nextInt(3)], 58));
      case 24 -> new HandCommand.RepeatOff();
      case 25 -> new HandCommand.KeyPressure(key, 1 + random.nextInt(127));
      case 26 -> new PressCommand.RecordAnew();
      case 27 -> random.nextBoolean() ? new PressCommand.HandOff() : new CueCommand.StopAll();
      case 28 -> random.nextInt(4) == 0 ? new CueCommand.Stop() : new CueCommand.Start();
      default -> random.nextInt(4) == 0 ? new HandCommand.Panic() : new CueCommand.CutAll();
    };
  }

  /** Something that takes clips, parts and takes from one place to another, or away, or back. */
  public Command moving(Stage stage) {
    List<Part> parts = stage.show().parts();
    if (parts.size() < 2) {
      return new SettingCommand.AddPart("Guest", Sound.of(random.nextInt(128)));
    }
    Part part = parts.get(random.nextInt(parts.size()));
    PartId other = parts.get(random.nextInt(parts.size())).id();
    if (part.shelf().isEmpty()) {
      return random.nextBoolean()
          ? new UndoCommand.Undo(true)
          : new ShelfCommand.JoinParts(part.id(), other);
    }
    Clip clip = part.shelf().get(random.nextInt(part.shelf().size()));
    return switch (random.nextInt(12)) {
      case 0, 1 -> new ShelfCommand.JoinParts(part.id(), other);
      case 2 -> new ShelfCommand.SplitPart(part.id());
      case 3 -> new ShelfCommand.DeleteClip(part.id(), clip.id());
      case 4 -> new ShelfCommand.MoveClip(part.id(), clip.id(), random.nextInt(4));
      case 5 -> new ShelfCommand.MovePart(part.id(), random.nextInt(parts.size()));
      case 6 -> new MendCommand.SpreadTakes(part.id(), clip.id());
      case 7 -> new MendCommand.LayTakesInRow(part.id(), clip.id());
      case 8 -> new ShelfCommand.SplitClip(part.id(), clip.id(), Set.of(36, 60));
      case 9 -> new UndoCommand.Redo();
      default -> new UndoCommand.Undo(true);
    };
  }

  private Command ofClip(PartId part, Clip clip) {
    long bar = 3840;
    boolean on = random.nextBoolean();
    Manner manner =
        new Manner(
            random.nextInt(4) > 0,
            on ? 960 : 0,
            Optional.empty(),
            ComesIn.values()[random.nextInt(3)],
            !on);
    return switch (random.nextInt(20)) {
      case 0, 1, 2 -> new CueCommand.CueClip(part, clip.id());
      case 3 -> new CueCommand.CueTacet(part);
      case 4 -> on ? new MendCommand.Peel() : new MendCommand.PeelClip(part, clip.id());
      case 5 -> new MendCommand.Replace(on);
      case 6 -> new MendCommand.EraseHeld(on);
      case 7 -> new MendCommand.Takes(on);
      case 8 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.Shift(480));
      case 9 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.Halve());
      case 10 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.Twice());
      case 11 -> new ShelfCommand.Reshape(part, clip.id(), new Reshaping.ToWindow(960, bar));
      case 12 -> new ShelfCommand.SetManner(part, clip.id(), manner);
      case 13 -> new SettingCommand.SetLeaving(part, on ? Leaving.LET_RING : Leaving.CUT);
      case 15, 16, 17, 18 ->
          new EditCommand.EditNotes(
              part, new Clips(List.of(clip.id())), WhichTakes.HEARD, List.of(edit()));
      case 14 -> on ? new UndoCommand.Undo() : new UndoCommand.Redo();
      default ->
          on
              ? new ShelfCommand.DuplicateClip(part, clip.id())
              : new KeepCommand.Keep(false, random.nextBoolean());
    };
  }

  private Edit edit() {
    Chosen notes =
        random.nextBoolean()
            ? new Chosen.OfPitch(random.nextBoolean() ? 36 : 60)
            : new Chosen.Within(0, 1 + random.nextInt(3840));
    return switch (random.nextInt(5)) {
      case 0 -> new Edit.Delete(notes);
      case 1 -> new Edit.Move(notes, random.nextInt(2000) - 1000, 0);
      case 2 -> new Edit.Move(notes, 0, random.nextInt(5) - 2);
      case 3 ->
          new Edit.Length(
              notes, OptionalLong.of(15 + random.nextInt(4000)), OptionalDouble.empty(), false);
      default -> new Edit.Copy(notes, 240, 0, Optional.empty(), Optional.empty());
    };
  }
}
