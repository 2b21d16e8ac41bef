package ancora.core.engine;

import ancora.core.clip.Stretch;
import ancora.core.record.Way;
import ancora.core.rules.Command;
import ancora.core.rules.Command.AddPart;
import ancora.core.rules.Command.Arm;
import ancora.core.rules.Command.ArmAlongside;
import ancora.core.rules.Command.CallOff;
import ancora.core.rules.Command.ChooseSound;
import ancora.core.rules.Command.Clear;
import ancora.core.rules.Command.Comp;
import ancora.core.rules.Command.CropTakes;
import ancora.core.rules.Command.CueClip;
import ancora.core.rules.Command.CueNext;
import ancora.core.rules.Command.CuePrevious;
import ancora.core.rules.Command.CueSection;
import ancora.core.rules.Command.CueTacet;
import ancora.core.rules.Command.Cut;
import ancora.core.rules.Command.CutAll;
import ancora.core.rules.Command.DeleteClip;
import ancora.core.rules.Command.DeletePart;
import ancora.core.rules.Command.DeleteSection;
import ancora.core.rules.Command.DeleteTake;
import ancora.core.rules.Command.DeviceGone;
import ancora.core.rules.Command.DuplicateClip;
import ancora.core.rules.Command.EraseHeld;
import ancora.core.rules.Command.HandOff;
import ancora.core.rules.Command.HearTake;
import ancora.core.rules.Command.JoinParts;
import ancora.core.rules.Command.Keep;
import ancora.core.rules.Command.KeyDown;
import ancora.core.rules.Command.KeyPressure;
import ancora.core.rules.Command.KeyUp;
import ancora.core.rules.Command.LayTakesInRow;
import ancora.core.rules.Command.MakeSection;
import ancora.core.rules.Command.MoveClip;
import ancora.core.rules.Command.MoveController;
import ancora.core.rules.Command.MovePart;
import ancora.core.rules.Command.MoveSection;
import ancora.core.rules.Command.Panic;
import ancora.core.rules.Command.Peel;
import ancora.core.rules.Command.PeelAll;
import ancora.core.rules.Command.Punch;
import ancora.core.rules.Command.PunchHere;
import ancora.core.rules.Command.PunchOff;
import ancora.core.rules.Command.RecordAnew;
import ancora.core.rules.Command.Redo;
import ancora.core.rules.Command.Rename;
import ancora.core.rules.Command.RenameClip;
import ancora.core.rules.Command.RenamePart;
import ancora.core.rules.Command.RenameTake;
import ancora.core.rules.Command.RepeatNotes;
import ancora.core.rules.Command.RepeatOff;
import ancora.core.rules.Command.Replace;
import ancora.core.rules.Command.ReportDelay;
import ancora.core.rules.Command.Reshape;
import ancora.core.rules.Command.Restore;
import ancora.core.rules.Command.SetBalance;
import ancora.core.rules.Command.SetClick;
import ancora.core.rules.Command.SetInputGrid;
import ancora.core.rules.Command.SetLeaving;
import ancora.core.rules.Command.SetManner;
import ancora.core.rules.Command.SetMaster;
import ancora.core.rules.Command.SetMeter;
import ancora.core.rules.Command.SetPartInput;
import ancora.core.rules.Command.SetPennant;
import ancora.core.rules.Command.SetRecording;
import ancora.core.rules.Command.SetSection;
import ancora.core.rules.Command.SetTempo;
import ancora.core.rules.Command.SoundInside;
import ancora.core.rules.Command.SoundOutside;
import ancora.core.rules.Command.SplitClip;
import ancora.core.rules.Command.SplitPart;
import ancora.core.rules.Command.SpreadTakes;
import ancora.core.rules.Command.Start;
import ancora.core.rules.Command.Stop;
import ancora.core.rules.Command.StopAll;
import ancora.core.rules.Command.Sustain;
import ancora.core.rules.Command.Takes;
import ancora.core.rules.Command.TapTempo;
import ancora.core.rules.Command.ThinClip;
import ancora.core.rules.Command.TrimAll;
import ancora.core.rules.Command.Undo;
import ancora.core.rules.Command.WindowBars;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Steps;
import ancora.core.rules.cues.Cues;
import ancora.core.rules.cues.Forms;
import ancora.core.rules.cues.Stopping;
import ancora.core.rules.cues.Transports;
import ancora.core.rules.hands.Moving;
import ancora.core.rules.hands.Playing;
import ancora.core.rules.mending.Mending;
import ancora.core.rules.mending.Peeling;
import ancora.core.rules.mending.Stuttering;
import ancora.core.rules.mending.Taking;
import ancora.core.rules.press.Arming;
import ancora.core.rules.press.HandOffs;
import ancora.core.rules.press.Keeping;
import ancora.core.rules.press.MainPress;
import ancora.core.rules.recording.Erasing;
import ancora.core.rules.recording.Recordings;
import ancora.core.rules.recording.Repeats;
import ancora.core.rules.settings.Settings;
import ancora.core.rules.shelf.Shelves;
import ancora.core.rules.shelf.Splitting;
import ancora.core.rules.undo.Undoing;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.stage.Stage;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/** Which rule carries out which command. */
final class Rules {

  private static final Map<Class<? extends Command>, Rule<Command>> RULES = new HashMap<>();

  static {
    // hands
    to(KeyDown.class, (s, c, m) -> Playing.keyDown(s, c, m));
    to(KeyUp.class, (s, c, m) -> Playing.keyUp(s, c.key(), m.stamp()));
    to(Sustain.class, (s, c, m) -> Playing.sustain(s, c, m));
    to(MoveController.class, (s, c, m) -> Moving.move(s, c, m));
    to(KeyPressure.class, (s, c, m) -> Playing.pressure(s, c.key(), c.value()));
    to(DeviceGone.class, (s, c, m) -> Playing.deviceGone(s, c.device(), m.stamp()));
    to(Panic.class, (s, c, m) -> Playing.panic(s, m.stamp()));
    to(RepeatNotes.class, (s, c, m) -> Repeats.set(s, Optional.of(c.repeat()), m));
    to(RepeatOff.class, (s, c, m) -> Repeats.set(s, Optional.empty(), m));

    // recording
    step(Command.MainPress.class, (s, c, m) -> MainPress.press(s, m));
    step(RecordAnew.class, (s, c, m) -> MainPress.recordAnew(s, m));
    step(HandOff.class, (s, c, m) -> HandOffs.handOff(s, m));
    step(Keep.class, (s, c, m) -> Keeping.keep(s, c, m));
    to(Peel.class, (s, c, m) -> Peeling.peel(s, m));
    to(Restore.class, (s, c, m) -> Peeling.restore(s, m));
    to(PeelAll.class, (s, c, m) -> Peeling.peelAll(s, m));
    step(Replace.class, (s, c, m) -> Mending.replace(s, c.on(), m));
    step(Punch.class, (s, c, m) -> Mending.punch(s, c.from(), c.to(), m));
    step(PunchHere.class, (s, c, m) -> Mending.punchHere(s, m));
    to(PunchOff.class, (s, c, m) -> Recordings.off(s, Way.PUNCH, m));
    to(Command.Stutter.class, (s, c, m) -> Stuttering.set(s, c, m));
    step(EraseHeld.class, (s, c, m) -> Erasing.set(s, c.on(), m));
    step(Takes.class, (s, c, m) -> Taking.set(s, c.on(), m));
    to(HearTake.class, (s, c, m) -> Taking.hear(s, c.part(), c.clip(), c.take(), c.atOnce(), m));

    // time and cues
    to(Start.class, (s, c, m) -> Transports.startAtOnce(s, m));
    to(Stop.class, (s, c, m) -> Stopping.stop(s, m));
    step(CueClip.class, (s, c, m) -> Cues.clip(s, c.part(), c.clip(), m));
    step(CueTacet.class, (s, c, m) -> Cues.tacet(s, c.part(), m));
    step(CallOff.class, (s, c, m) -> Cues.callOff(s, c.part(), m));
    step(Cut.class, (s, c, m) -> Cues.cut(s, Optional.of(c.part()), m));
    step(CutAll.class, (s, c, m) -> Cues.cut(s, Optional.empty(), m));
    step(StopAll.class, (s, c, m) -> Cues.stopAll(s, m));
    step(CueSection.class, (s, c, m) -> Forms.cue(s, c.section(), m));
    step(CueNext.class, (s, c, m) -> Forms.cueFurther(s, 1, m));
    step(CuePrevious.class, (s, c, m) -> Forms.cueFurther(s, -1, m));

    // edits
    step(Undo.class, (s, c, m) -> Undoing.undo(s, c.sure(), m));
    step(Redo.class, (s, c, m) -> Undoing.redo(s, m));
    step(Clear.class, (s, c, m) -> Peeling.clear(s, c.sure(), m));
    to(Reshape.class, (s, c, m) -> Shelves.reshape(s, c, m));
    to(WindowBars.class, (s, c, m) -> Shelves.windowBars(s, c, m));
    edit(
        RenameTake.class,
        c -> "rename a take",
        (s, c, m) -> Taking.rename(s, c.part(), c.clip(), c.take(), c.name()));
    edit(
        DeleteTake.class,
        c -> "delete a take",
        (s, c, m) -> Taking.delete(s, c.part(), c.clip(), c.take()));
    edit(CropTakes.class, c -> "keep one take", (s, c, m) -> Taking.crop(s, c.part(), c.clip()));
    edit(
        SpreadTakes.class,
        c -> "spread the takes",
        (s, c, m) -> Taking.spread(s, c.part(), c.clip()));
    edit(
        LayTakesInRow.class,
        c -> "lay takes in a row",
        (s, c, m) -> Taking.layInRow(s, c.part(), c.clip()));
    to(Comp.class, (s, c, m) -> Taking.comp(s, c.part(), c.clip(), c.stretches(), m));
    edit(
        Command.RedrawComp.class,
        c -> "a stretch of a comp",
        (s, c, m) ->
            Taking.redraw(s, c.part(), c.clip(), c.take(), new Stretch(c.from(), c.to(), c.of())));
    edit(MakeSection.class, c -> "make a section", (s, c, m) -> Forms.make(s, c.name()));
    edit(SetSection.class, c -> "change a section", (s, c, m) -> Forms.set(s, c.section()));
    edit(
        DeleteSection.class, c -> "delete a section", (s, c, m) -> Forms.delete(s, c.section(), m));
    edit(
        MoveSection.class,
        c -> "move a section",
        (s, c, m) -> Forms.move(s, c.section(), c.place()));
    edit(
        DuplicateClip.class,
        c -> "duplicate a clip",
        (s, c, m) -> Shelves.duplicate(s, c.part(), c.clip()));
    edit(ThinClip.class, c -> "thin a clip", (s, c, m) -> Shelves.thin(s, c.part(), c.clip()));
    to(DeleteClip.class, (s, c, m) -> Shelves.deleted(s, c.part(), c.clip(), m));
    edit(
        RenameClip.class,
        c -> "rename a clip",
        (s, c, m) -> Shelves.rename(s, c.part(), c.clip(), c.name()));
    edit(
        MoveClip.class,
        c -> "move a clip",
        (s, c, m) -> Shelves.move(s, c.part(), c.clip(), c.place()));
    edit(
        SetManner.class,
        c -> "how a clip goes",
        (s, c, m) -> Shelves.manner(s, c.part(), c.clip(), c.manner()));
    edit(
        RenamePart.class,
        c -> "rename a part",
        part(RenamePart::part, (p, c) -> p.withName(c.name())));
    edit(DeletePart.class, c -> "delete a part", (s, c, m) -> Shelves.deletePart(s, c.part()));
    edit(MovePart.class, c -> "move a part", (s, c, m) -> Shelves.movePart(s, c.part(), c.place()));
    edit(SplitPart.class, c -> "split a part", (s, c, m) -> Splitting.splitPart(s, c.part()));
    edit(
        JoinParts.class,
        c -> "join parts",
        (s, c, m) -> Splitting.joinParts(s, c.part(), c.other()));
    edit(
        SplitClip.class,
        c -> "split a clip",
        (s, c, m) -> Splitting.splitClip(s, c.part(), c.clip(), c.pitches()));
    edit(SetMeter.class, c -> "set the meter", (s, c, m) -> Settings.meter(s, c.meter()));
    edit(AddPart.class, c -> "add a part", (s, c, m) -> Settings.addPart(s, c));
    edit(ChooseSound.class, c -> "choose a sound", (s, c, m) -> Settings.sound(s, c));

    // settings
    to(SetTempo.class, (s, c, m) -> Settings.tempo(s, c.tempo(), m));
    to(TapTempo.class, (s, c, m) -> Settings.tap(s, m));
    to(SetClick.class, (s, c, m) -> s.withShow(s.show().withClick(c.click())));
    to(SetRecording.class, (s, c, m) -> s.withShow(s.show().withRecording(c.settings())));
    to(Rename.class, (s, c, m) -> s.withShow(s.show().withTitle(c.title())));
    to(ArmAlongside.class, (s, c, m) -> Arming.alongside(s, c.part(), c.on(), m));
    to(Arm.class, (s, c, m) -> Arming.arm(s, c.part(), m));
    edit(
        SoundOutside.class,
        c -> "sound on a device",
        part(SoundOutside::part, (p, c) -> p.withOutput(Optional.of(c.output()))));
    edit(
        SoundInside.class,
        c -> "sound inside",
        part(SoundInside::part, (p, c) -> p.withOutput(Optional.empty())));
    to(SetInputGrid.class, part(SetInputGrid::part, (p, c) -> p.withInputGrid(c.grid())));
    to(SetPartInput.class, part(SetPartInput::part, (p, c) -> p.withInput(c.filter())));
    to(SetBalance.class, part(SetBalance::part, (p, c) -> p.withBalance(c.balance())));
    to(TrimAll.class, (s, c, m) -> Settings.trimAll(s, c.decibels()));
    to(SetMaster.class, (s, c, m) -> s.withShow(s.show().withMaster(c.master())));
    edit(
        SetPennant.class,
        c -> "change a pennant",
        part(SetPennant::part, (p, c) -> p.withPennant(c.pennant())));
    to(SetLeaving.class, part(SetLeaving::part, (p, c) -> p.withLeaving(c.leaving())));
    to(ReportDelay.class, (s, c, m) -> Settings.delay(s, c.micros()));
  }

  private Rules() {}

  @FunctionalInterface
  private interface Rule<C extends Command> {
    Result apply(Stage stage, C command, Moment moment);
  }

  @FunctionalInterface
  private interface StageRule<C extends Command> {
    Stage apply(Stage stage, C command, Moment moment);
  }

  @FunctionalInterface
  private interface PartRule<C extends Command> {
    Part apply(Part part, C command);
  }

  /** Carries out a command; refuses one that makes no sense now. */
  static Result apply(Stage stage, Command command, Moment moment) {
    return RULES.get(command.getClass()).apply(stage, command, moment);
  }

  /** Whether there is a rule for commands of a kind. */
  static boolean has(Class<?> kind) {
    return RULES.containsKey(kind);
  }

  private static <C extends Command> void step(Class<C> type, Rule<C> rule) {
    RULES.put(type, (s, c, m) -> rule.apply(s, type.cast(c), m));
  }

  private static <C extends Command> void to(Class<C> type, StageRule<C> rule) {
    step(type, (s, c, m) -> Result.to(rule.apply(s, c, m)));
  }

  /** What is done by this can be undone. */
  private static <C extends Command> void edit(
      Class<C> type, Function<C, String> words, StageRule<C> rule) {
    to(type, (s, c, m) -> Steps.noted(s, rule.apply(s, c, m), words.apply(c)));
  }

  private static <C extends Command> StageRule<C> part(
      Function<C, PartId> which, PartRule<C> rule) {
    return (s, c, m) -> s.withShow(s.show().mapPart(which.apply(c), part -> rule.apply(part, c)));
  }
}
