package ancora.core.engine;

import ancora.core.catalogue.Asked;
import ancora.core.catalogue.Entry;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.ComesIn;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.edit.Chosen;
import ancora.core.edit.Clips;
import ancora.core.edit.Edit;
import ancora.core.edit.WhichTakes;
import ancora.core.file.Arranging;
import ancora.core.file.Wanted;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.rules.Sequence;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.keeping.Otherwise;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Balance;
import ancora.core.show.Click;
import ancora.core.show.Leaving;
import ancora.core.show.LengthRule;
import ancora.core.show.Master;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartOutput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.RunUp;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;

/**
 * Something that somebody wants, in numbers: which command it is depends on what there is at that
 * moment. Senseless ones are among them.
 *
 * @param kind 0 to {@link #KINDS} − 1
 * @param which of several
 * @param much how much
 */
record Wish(int kind, int which, int much) {

  static final int KINDS = 70;

  private static final List<InputKey> KEYS =
      List.of(
          new InputKey("pads", 9, 36), new InputKey("pads", 9, 38), new InputKey("keys", 0, 60));

  private Command keep(PartId part, PartId other, boolean on) {
    return switch (much % 5) {
      case 0 -> new KeepCommand.KeepBars(part, other, 1 + much % 32, on);
      case 1 -> new KeepCommand.KeepStretch(part, other, 0, 1 + much * 10_000L, on);
      case 2 -> new KeepCommand.ChangeKept(Otherwise.values()[which % 9]);
      case 3 -> new KeepCommand.HearKept();
      default ->
          which % 4 == 1
              ? new KeepCommand.Keep(on, which % 3 == 0)
              : new KeepCommand.KeepOnto(other, on, which % 3 == 0);
    };
  }

  Command on(Stage stage) {
    List<Part> parts = stage.show().parts();
    PartId part = parts.isEmpty() ? new PartId(99) : parts.get(which % parts.size()).id();
    List<Clip> shelf = parts.isEmpty() ? List.of() : parts.get(which % parts.size()).shelf();
    ClipId clip = shelf.isEmpty() ? new ClipId(98) : shelf.get(much % shelf.size()).id();
    InputKey key = KEYS.get(which % KEYS.size());
    boolean on = much % 2 == 0;
    return switch (kind) {
      case 0, 1, 2, 3, 4, 5, 6 -> new HandCommand.KeyDown(key, much % 128);
      case 7, 8, 9, 10, 11 -> new HandCommand.KeyUp(key);
      case 12, 13, 14, 15, 16 -> new PressCommand.MainPress();
      case 17 -> which % 3 == 0 ? new MendCommand.PeelClip(part, clip) : new MendCommand.Peel();
      case 18 ->
          which % 3 == 0 ? new MendCommand.RestoreClip(part, clip) : new MendCommand.Restore();
      case 19 -> on ? new MendCommand.PeelAll() : new MendCommand.Clear();
      case 20 -> on ? new SettingCommand.TapTempo() : new HandCommand.Panic();
      case 21 -> which % 5 == 0 ? new CueCommand.Stop() : new CueCommand.Start();
      case 22 -> new HandCommand.DeviceGone("keys");
      case 23, 24 -> new PressCommand.Arm(part);
      case 25 -> new SettingCommand.SetTempo(new Tempo(40_000 + much % 260 * 1000));
      case 26 ->
          new SettingCommand.SetInputGrid(
              part, InputGrid.of(Grid.values()[much % Grid.values().length]));
      case 27 -> new SettingCommand.SetRecording(recording(on));
      case 28, 29 -> new HandCommand.Sustain("keys", 0, much % 128);
      case 30 -> new HandCommand.MoveController("keys", 0, Controller.BEND, much);
      case 31 -> new HandCommand.MoveController("keys", 0, Controller.change(1), much % 128);
      case 32 -> new HandCommand.RepeatNotes(new NoteRepeat(Grid.EIGHTH, 50 + much % 26));
      case 33 -> new HandCommand.RepeatOff();
      case 34 -> new HandCommand.KeyPressure(key, much % 128);
      case 35 -> new PressCommand.RecordAnew();
      case 36 ->
          which % 2 == 0 || parts.isEmpty()
              ? new PressCommand.HandOff()
              : keep(part, parts.get(0).id(), on);
      case 37 -> on ? new CueCommand.StopAll() : new CueCommand.CutAll();
      case 38, 39, 40 -> new CueCommand.CueClip(part, clip);
      case 41 -> new CueCommand.CueTacet(part);
      case 42 -> on ? new CueCommand.CallOff(part) : new CueCommand.Cut(part);
      case 43 -> new MendCommand.Replace(on);
      case 44 -> new MendCommand.EraseHeld(on);
      case 45 -> new MendCommand.Takes(on);
      case 46 ->
          switch (much % 3) {
            case 0 -> new MendCommand.PunchOff();
            case 1 -> new MendCommand.PunchHere();
            default -> new MendCommand.Punch(960, 1920);
          };
      case 47 -> new MendCommand.HearTake(part, clip, 1 + much % 4, on);
      case 48 ->
          which % 5 == 0
              ? new ShelfCommand.WindowBars(ShelfCommand.WindowBars.Bars.values()[much % 3], on)
              : new ShelfCommand.Reshape(part, clip, reshaping());
      case 49 -> on ? new ShelfCommand.DuplicateClip(part, clip) : shelfThing(part, clip);
      case 50 -> new ShelfCommand.DeleteClip(part, clip);
      case 51 ->
          new ShelfCommand.SetManner(
              part,
              clip,
              new Manner(on, which % 3 * 960, Optional.empty(), ComesIn.values()[which % 3], !on));
      case 52 -> partThing(part, on);
      case 53, 54 -> new UndoCommand.Undo();
      case 55 -> new UndoCommand.Redo();
      case 56 -> which % 3 == 0 ? new CueCommand.MakeSection("s") : section(stage, part, clip);
      case 57 ->
          which % 3 == 0
              ? Asked.asked("cue {section}", "section", "the section before")
              : Asked.asked("cue {section}");
      case 60, 61 -> sequenceOr(Asked.any(new Random(which * 20_000L + much)));
      case 69 -> new Instead(1 + which % 6, inPlace(part, on));
      case 62 -> new SettingCommand.SoundOutside(part, outside(on));
      case 63 -> new SettingCommand.SoundInside(part);
      case 64 -> bringIn(stage.show(), part, on);
      case 67 -> setting(part, on);
      case 68 -> mend(part, clip, on);
      case 65, 66 -> edit(part, parts.isEmpty() ? part : parts.get(0).id(), clip);
      case 58 -> which % 4 == 0 ? new ShelfCommand.DeletePart(part) : other(part, clip, on);
      default ->
          switch (which % 5) {
            case 0 -> new ShelfCommand.SplitPart(part);
            case 1 -> new PressCommand.ArmAlongside(part, on);
            case 2 -> new ShelfCommand.JoinParts(part, parts.isEmpty() ? part : parts.get(0).id());
            default -> new SettingCommand.AddPart("New", Sound.of(much % 128));
          };
    };
  }

  /** Now and then the same is one of several, one after another. */
  private Command sequenceOr(Command command) {
    Command second = Asked.any(new Random(much));
    boolean pressed =
        Entry.holdOf(command) == Entry.Hold.PRESSED && Entry.holdOf(second) == Entry.Hold.PRESSED;
    return pressed && which % 4 == 3 ? new Sequence("several", List.of(command, second)) : command;
  }

  /** What a long or a double press stands for. */
  private Command inPlace(PartId part, boolean on) {
    return switch (which % 4) {
      case 0 -> new MendCommand.Peel();
      case 1 -> new CueCommand.CueTacet(part);
      case 2 -> Asked.any(new Random(much));
      default -> on ? new UndoCommand.Undo(true) : new PressCommand.MainPress();
    };
  }

  private PartOutput outside(boolean alone) {
    return new PartOutput(
        "box", which % 16, OptionalInt.empty(), OptionalInt.of(much % 128), alone);
  }

  /** Notes go to another owner, or are otherwise. */
  private Command edit(PartId part, PartId other, ClipId clip) {
    return switch (much % 11) {
      case 0 -> new EditCommand.Flatten(part, clip);
      case 1 -> new EditCommand.SplitNotes(part, clip, new Chosen.OfLayer(1 + which % 3));
      case 2 -> new EditCommand.CutClip(part, clip, 1);
      case 3 -> new EditCommand.RepeatClip(part, new Clips(List.of(clip)), 2);
      case 4 -> new EditCommand.ChainClips(part, new Clips(List.of(clip, new ClipId(which))));
      case 5 -> new EditCommand.SpreadLayers(part, clip);
      case 6 -> new EditCommand.CopyClip(part, clip, other);
      case 7 -> new EditCommand.MoveClipTo(part, clip, other);
      case 8 -> new EditCommand.MakeClip(part, 1 + which % 4);
      case 9 -> edits(part, clip, new Edit.Move(new Chosen.All(), which * 60L - 480, 0));
      default -> edits(part, clip, new Edit.Delete(new Chosen.OfLayer(1 + which % 3)));
    };
  }

  private Command setting(PartId part, boolean on) {
    return switch (which % 5) {
      case 0 -> new SettingCommand.ChooseSound(part, Sound.of(much % 128), on);
      case 1 -> new SettingCommand.SetClick(Click.DEFAULT.withOn(on));
      case 2 -> new SettingCommand.Rename("Night " + much % 9);
      case 3 -> new SettingCommand.SetMaster(Master.DEFAULT);
      default -> new SettingCommand.ReportDelay(much * 10L);
    };
  }

  private Command mend(PartId part, ClipId clip, boolean on) {
    return switch (which % 6) {
      case 0 -> new MendCommand.TakesInARow(part, clip, List.of(1 + much % 3, 1));
      case 1 -> new MendCommand.RedrawComp(part, clip, 1 + much % 5, 960, 1920, 1 + much % 2);
      case 2, 3 -> new MendCommand.Stutter(much % 3 > 0, 1 << much % 3, on);
      case 4 -> new KeepCommand.KeepPhrases(on ? 1 : -1);
      default -> edits(part, clip, noteEdit());
    };
  }

  private Edit noteEdit() {
    Chosen some = new Chosen.Within(0, 240L * (which + 1));
    return switch (much % 10) {
      case 0 -> new Edit.Length(some, OptionalLong.empty(), OptionalDouble.empty(), true);
      case 1 -> new Edit.Length(some, OptionalLong.of(240), OptionalDouble.empty(), false);
      case 2 ->
          new Edit.Velocity(
              some, OptionalInt.of(80), OptionalInt.empty(), OptionalDouble.empty(), false);
      case 3 ->
          new Edit.Draw(60 + which, 240L * which, 120, OptionalInt.of(90), OptionalInt.empty());
      case 4 ->
          new Edit.ToGrid(
              some, Optional.of(Grid.EIGHTH), 100, 50, which % 2 == 0, Optional.empty());
      case 5 -> new Edit.AsPlayed(some);
      case 6 -> new Edit.DeleteMoves(Controller.BEND, 0, 240L * (which + 1));
      case 7 -> new Edit.ThinMoves(Controller.BEND, 0, 3840, 60);
      case 8 -> new Edit.DeletePedal(0, 240L * (which + 1));
      default -> new Edit.Copy(some, 240L * which, 0, Optional.empty(), Optional.empty());
    };
  }

  private static Command edits(PartId part, ClipId clip, Edit edit) {
    return new EditCommand.EditNotes(
        part, new Clips(List.of(clip)), WhichTakes.HEARD, List.of(edit));
  }

  /** What is in the show comes in once more, as from another. */
  private Command bringIn(Show show, PartId onto, boolean isOnto) {
    List<Wanted> wanted =
        show.parts().stream()
            .skip(which % 2)
            .map(
                part ->
                    new Wanted(
                        part.id(),
                        part.shelf().stream().map(Clip::id).limit(much % 3).toList(),
                        isOnto ? Optional.of(onto) : Optional.empty()))
            .toList();
    return Arranging.of(show, wanted).bringIn();
  }

  private Command shelfThing(PartId part, ClipId clip) {
    int number = which % 4;
    return switch (much % 9) {
      case 1 -> new ShelfCommand.MoveClip(part, clip, number);
      case 3 -> new ShelfCommand.ThinClip(part, clip);
      case 5 -> new ShelfCommand.SplitClip(part, clip, Set.of(36, 60));
      case 7 -> new MendCommand.DeleteTake(part, clip, number);
      case 0 -> new MendCommand.RenameTake(part, clip, number, "calm");
      case 2 -> new ShelfCommand.RenameClip(part, clip, "n" + number);
      case 4 -> new ShelfCommand.SetClipSound(part, clip, Sound.of(number));
      case 6 -> new ShelfCommand.ClipSoundAsPart(part, clip);
      default ->
          new MendCommand.Comp(
              part, clip, List.of(new Stretch(0, 960, number), new Stretch(960, 3840, number + 1)));
    };
  }

  private Command partThing(PartId part, boolean on) {
    return switch (which % 6) {
      case 0 -> new ShelfCommand.MovePart(part, much % 4);
      case 1 ->
          new SettingCommand.SetBalance(part, Balance.DEFAULT.withMuted(on).withLevel(-much % 60));
      case 2 -> new ShelfCommand.RenamePart(part, "Part " + much % 7);
      case 3 -> new SettingCommand.SetPennant(part, much % 20);
      case 4 -> new SettingCommand.TrimAll(on ? 1 : -1);
      default -> new SettingCommand.SetLeaving(part, on ? Leaving.LET_RING : Leaving.CUT);
    };
  }

  private Command other(PartId part, ClipId clip, boolean on) {
    return switch (which % 4) {
      case 1 ->
          switch (much % 3) {
            case 0 -> new MendCommand.SpreadTakes(part, clip);
            case 1 -> new MendCommand.CropTakes(part, clip);
            default -> new MendCommand.LayTakesInRow(part, clip);
          };
      case 2 ->
          new SettingCommand.SetPartInput(
              part, PartInput.OPEN.withTranspose(much % 25 - 12).withVelocity(OptionalInt.of(99)));
      default -> new SettingCommand.SetMeter(Meter.of(3 + much % 5, on ? 4 : 8));
    };
  }

  private Command section(Stage stage, PartId part, ClipId clip) {
    List<Section> form = stage.show().form();
    if (form.isEmpty()) {
      return new CueCommand.CueSection(new SectionId(97));
    }
    Section section = form.get(much % form.size());
    if (which % 3 == 1) {
      return new CueCommand.CueSection(section.id());
    }
    if (much % 5 == 0) {
      return which % 2 == 0
          ? new CueCommand.DeleteSection(section.id())
          : new CueCommand.MoveSection(section.id(), much % 3);
    }
    return new CueCommand.SetSection(
        section
            .withLineUp(java.util.Map.of(part, Optional.of(clip)))
            .withOthersTacet(much % 2 == 0)
            .withGoesOn(Optional.of(new Section.GoesOn(1 + much % 4, form.get(0).id()))));
  }

  private Reshaping reshaping() {
    return switch (much % 4) {
      case 0 -> new Reshaping.Halve();
      case 1 -> new Reshaping.Twice();
      case 2 -> new Reshaping.Shift(which * 240L - 960);
      default -> new Reshaping.ToWindow(which % 5 * 960L, 3840);
    };
  }

  private RecordingSettings recording(boolean flag) {
    return RecordingSettings.DEFAULT
        .withEntersOn(EntryUnit.values()[which % EntryUnit.values().length])
        .withLengthRule(LengthRule.values()[much % LengthRule.values().length])
        .withCountInBars(which % 3)
        .withBreatherBars(much % 3 == 0 ? 1 : 0)
        .withOverdubAfter(flag)
        .withMergePedals(flag)
        .withTakesAfter(which % 7 == 0)
        .withPunchGoesOn(which % 5 == 0)
        .withFixedUnits(much % 4 == 0 ? 1 : 0)
        .withRunUp(which % 6 == 0 ? Optional.of(new RunUp(RunUp.Of.LOOP, 1)) : Optional.empty())
        .withFromFirstNote(flag);
  }
}
