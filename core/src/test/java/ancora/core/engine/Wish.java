package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.control.Action;
import ancora.core.note.Controller;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.show.Balance;
import ancora.core.show.Leaving;
import ancora.core.show.LengthRule;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.PartInput;
import ancora.core.show.PartOutput;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
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

  static final int KINDS = 64;

  private static final List<InputKey> KEYS =
      List.of(
          new InputKey("pads", 9, 36), new InputKey("pads", 9, 38), new InputKey("keys", 0, 60));

  Command on(Stage stage) {
    List<Part> parts = stage.show().parts();
    PartId part = parts.isEmpty() ? new PartId(99) : parts.get(which % parts.size()).id();
    List<Clip> shelf = parts.isEmpty() ? List.of() : parts.get(which % parts.size()).shelf();
    ClipId clip = shelf.isEmpty() ? new ClipId(98) : shelf.get(much % shelf.size()).id();
    InputKey key = KEYS.get(which % KEYS.size());
    boolean on = much % 2 == 0;
    return switch (kind) {
      case 0, 1, 2, 3, 4, 5, 6 -> new Command.KeyDown(key, much % 128);
      case 7, 8, 9, 10, 11 -> new Command.KeyUp(key);
      case 12, 13, 14, 15, 16 -> new Command.MainPress();
      case 17 -> new Command.Peel();
      case 18 -> new Command.Restore();
      case 19 -> on ? new Command.PeelAll() : new Command.Clear();
      case 20 -> on ? new Command.TapTempo() : new Command.Panic();
      case 21 -> which % 5 == 0 ? new Command.Stop() : new Command.Start();
      case 22 -> new Command.DeviceGone("keys");
      case 23, 24 -> new Command.Arm(part);
      case 25 -> new Command.SetTempo(new Tempo(40_000 + much % 260 * 1000));
      case 26 ->
          new Command.SetInputGrid(part, InputGrid.of(Grid.values()[much % Grid.values().length]));
      case 27 -> new Command.SetRecording(recording(on));
      case 28, 29 -> new Command.Sustain("keys", 0, much % 128);
      case 30 -> new Command.MoveController("keys", 0, Controller.BEND, much);
      case 31 -> new Command.MoveController("keys", 0, Controller.change(1), much % 128);
      case 32 -> new Command.RepeatNotes(new NoteRepeat(Grid.EIGHTH, 50 + much % 26));
      case 33 -> new Command.RepeatOff();
      case 34 -> new Command.KeyPressure(key, much % 128);
      case 35 -> new Command.RecordAnew();
      case 36 -> which % 2 == 0 ? new Command.HandOff() : new Command.Keep(on, which % 3 == 0);
      case 37 -> on ? new Command.StopAll() : new Command.CutAll();
      case 38, 39, 40 -> new Command.CueClip(part, clip);
      case 41 -> new Command.CueTacet(part);
      case 42 -> on ? new Command.CallOff(part) : new Command.Cut(part);
      case 43 -> new Command.Replace(on);
      case 44 -> new Command.EraseHeld(on);
      case 45 -> new Command.Takes(on);
      case 46 ->
          switch (much % 3) {
            case 0 -> new Command.PunchOff();
            case 1 -> new Command.PunchHere();
            default -> new Command.Punch(960, 1920);
          };
      case 47 -> new Command.HearTake(part, clip, 1 + much % 4, on);
      case 48 ->
          which % 5 == 0
              ? new Command.WindowBars(Command.WindowBars.Bars.values()[much % 3], on)
              : new Command.Reshape(part, clip, reshaping());
      case 49 -> on ? new Command.DuplicateClip(part, clip) : shelfThing(part, clip);
      case 50 -> new Command.DeleteClip(part, clip);
      case 51 ->
          new Command.SetManner(
              part, clip, new Manner(on, which % 3 * 960, Optional.empty(), on, !on));
      case 52 -> partThing(part, on);
      case 53, 54 -> new Command.Undo();
      case 55 -> new Command.Redo();
      case 56 -> which % 3 == 0 ? new Command.MakeSection("s") : section(stage, part, clip);
      case 57 -> which % 3 == 0 ? new Command.CuePrevious() : new Command.CueNext();
      case 60, 61 -> new Command.Act(Action.values()[much % Action.values().length], which % 5);
      case 62 -> new Command.SoundOutside(part, outside(on));
      case 63 -> new Command.SoundInside(part);
      case 58 -> which % 4 == 0 ? new Command.DeletePart(part) : other(part, clip, on);
      default ->
          switch (which % 5) {
            case 0 -> new Command.SplitPart(part);
            case 1 -> new Command.ArmAlongside(part, on);
            case 2 -> new Command.JoinParts(part, parts.isEmpty() ? part : parts.get(0).id());
            default -> new Command.AddPart("New", Sound.of(much % 128));
          };
    };
  }

  private PartOutput outside(boolean alone) {
    return new PartOutput(
        "box", which % 16, OptionalInt.empty(), OptionalInt.of(much % 128), alone);
  }

  private Command shelfThing(PartId part, ClipId clip) {
    int number = which % 4;
    return switch (much % 9) {
      case 1 -> new Command.MoveClip(part, clip, number);
      case 3 -> new Command.ThinClip(part, clip);
      case 5 -> new Command.SplitClip(part, clip, Set.of(36, 60));
      case 7 -> new Command.DeleteTake(part, clip, number);
      case 0 -> new Command.RenameTake(part, clip, number, "calm");
      case 2 -> new Command.RenameClip(part, clip, "n" + number);
      default ->
          new Command.Comp(
              part, clip, List.of(new Stretch(0, 960, number), new Stretch(960, 3840, number + 1)));
    };
  }

  private Command partThing(PartId part, boolean on) {
    return switch (which % 6) {
      case 0 -> new Command.MovePart(part, much % 4);
      case 1 -> new Command.SetBalance(part, Balance.DEFAULT.withMuted(on).withLevel(-much % 60));
      case 2 -> new Command.RenamePart(part, "Part " + much % 7);
      case 3 -> new Command.SetPennant(part, much % 20);
      case 4 -> new Command.TrimAll(on ? 1 : -1);
      default -> new Command.SetLeaving(part, on ? Leaving.LET_RING : Leaving.CUT);
    };
  }

  private Command other(PartId part, ClipId clip, boolean on) {
    return switch (which % 4) {
      case 1 ->
          switch (much % 3) {
            case 0 -> new Command.SpreadTakes(part, clip);
            case 1 -> new Command.CropTakes(part, clip);
            default -> new Command.LayTakesInRow(part, clip);
          };
      case 2 ->
          new Command.SetPartInput(
              part, PartInput.OPEN.withTranspose(much % 25 - 12).withVelocity(OptionalInt.of(99)));
      default -> new Command.SetMeter(Meter.of(3 + much % 5, on ? 4 : 8));
    };
  }

  private Command section(Stage stage, PartId part, ClipId clip) {
    List<Section> form = stage.show().form();
    if (form.isEmpty()) {
      return new Command.CueSection(new SectionId(97));
    }
    Section section = form.get(much % form.size());
    if (which % 3 == 1) {
      return new Command.CueSection(section.id());
    }
    if (much % 5 == 0) {
      return which % 2 == 0
          ? new Command.DeleteSection(section.id())
          : new Command.MoveSection(section.id(), much % 3);
    }
    return new Command.SetSection(
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
        .withFromFirstNote(flag);
  }
}
