package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.clip.Reshaping;
import ancora.core.control.Action;
import ancora.core.note.Grid;
import ancora.core.note.NoteRepeat;
import ancora.core.record.AfterClosing;
import ancora.core.record.Way;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
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
import ancora.core.show.Components;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Section;
import ancora.core.stage.Kept;
import ancora.core.stage.PartStage;
import ancora.core.stage.Reading;
import ancora.core.stage.Stage;
import ancora.core.vamp.Cue;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;

/**
 * What a control asks for by its action: which command that is depends on what there is at the
 * moment at which it is carried out.
 */
final class Acting {

  /** What a press louder or softer moves all levels by, in dB. */
  private static final int TRIM = 1;

  private Acting() {}

  /** The command that is meant; refuses an action that has nothing to act on. */
  static Command meant(Stage stage, Command command, long stamp) {
    return command instanceof Act act ? meant(stage, act, stamp) : command;
  }

  private static Command meant(Stage stage, Act act, long stamp) {
    Action action = act.action();
    int number = act.number();
    return switch (action) {
      case MAIN -> new PressCommand.MainPress();
      case RECORD_ANEW -> new PressCommand.RecordAnew();
      case CLOSE -> close(stage);
      case OVERDUB -> overdub(stage);
      case PEEL -> new MendCommand.Peel();
      case RESTORE -> new MendCommand.Restore();
      case CLEAR -> new MendCommand.Clear(act.sure());
      case UNDO -> new UndoCommand.Undo(act.sure());
      case REDO -> new UndoCommand.Redo();
      case HAND_OFF -> new PressCommand.HandOff();
      case KEEP -> new KeepCommand.Keep(false, false);
      case KEEP_BARS -> keepBars(stage, number);
      case KEPT_MORE -> new KeepCommand.KeepPhrases(1);
      case KEPT_FEWER -> new KeepCommand.KeepPhrases(-1);
      case KEPT_HALF -> new KeepCommand.ChangeKept(Otherwise.HALF);
      case KEPT_DOUBLE -> new KeepCommand.ChangeKept(Otherwise.DOUBLE);
      case KEPT_EARLIER -> new KeepCommand.ChangeKept(Otherwise.EARLIER);
      case KEPT_LATER -> new KeepCommand.ChangeKept(Otherwise.LATER);
      case KEPT_THREE -> new KeepCommand.ChangeKept(Otherwise.THREE);
      case KEPT_FOUR -> new KeepCommand.ChangeKept(Otherwise.FOUR);
      case KEPT_STEADY ->
          new KeepCommand.ChangeKept(isSteady(stage) ? Otherwise.AS_PLAYED : Otherwise.STEADY);
      case KEPT_HEAR -> new KeepCommand.HearKept();
      case KEPT_GIVE_UP -> new KeepCommand.ChangeKept(Otherwise.GIVE_UP);
      case REPLACE -> new MendCommand.Replace(!isOn(stage, Way.REPLACE, stamp));
      case ERASE -> new MendCommand.EraseHeld(!stage.hands().isErasing());
      case TAKES -> new MendCommand.Takes(!isOn(stage, Way.TAKES, stamp));
      case PUNCH ->
          isOn(stage, Way.PUNCH, stamp) ? new MendCommand.PunchOff() : new MendCommand.PunchHere();
      case BREATHER -> breather(stage.show().recording());
      case NOTE_REPEAT ->
          stage.hands().repeat().isPresent() ? new HandCommand.RepeatOff() : repeat(stage, number);
      case NOTE_REPEAT_HELD, REPEAT_GRID -> repeat(stage, number);
      case START_STOP -> stage.isStill() ? new CueCommand.Start() : new CueCommand.Stop();
      case STOP_ALL -> new CueCommand.StopAll();
      case PANIC -> new HandCommand.Panic();
      case TAP -> new SettingCommand.TapTempo();
      case CLICK -> click(stage.show().click());
      case LOUDER -> new SettingCommand.TrimAll(TRIM);
      case SOFTER -> new SettingCommand.TrimAll(-TRIM);
      case NEXT_SECTION -> new CueCommand.CueNext();
      case PREVIOUS_SECTION -> new CueCommand.CuePrevious();
      case CUE_SECTION -> new CueCommand.CueSection(section(stage, number).id());
      case ARM -> new PressCommand.Arm(part(stage, number).id());
      case ARM_NEXT -> new PressCommand.Arm(beside(stage, 1).id());
      case ARM_PREVIOUS -> new PressCommand.Arm(beside(stage, -1).id());
      case MUTE -> mute(part(stage, number));
      case SOLO -> solo(part(stage, number));
      case TACET -> new CueCommand.CueTacet(armed(stage).id());
      case CUT -> new CueCommand.Cut(armed(stage).id());
      case CUE_CLIP -> new CueCommand.CueClip(armed(stage).id(), clip(armed(stage), number));
      case CUE_NEXT_CLIP -> new CueCommand.CueClip(armed(stage).id(), nextClip(stage));
      case HALVE -> reshape(stage, new Reshaping.Halve());
      case DOUBLE -> reshape(stage, new Reshaping.Twice());
      case SHIFT_EARLIER -> reshape(stage, new Reshaping.Shift(-stage.show().meter().beatTicks()));
      case SHIFT_LATER -> reshape(stage, new Reshaping.Shift(stage.show().meter().beatTicks()));
      case TEMPO, MASTER, LEVEL, ECHO, ROOM ->
          throw new Refusal("“" + action.words() + "” wants a control that turns.");
    };
  }

  private static boolean isSteady(Stage stage) {
    return stage.kept().flatMap(Kept::reading).filter(Reading::steady).isPresent();
  }

  private static Command keepBars(Stage stage, int number) {
    PartId part = stage.playedPart();
    return new KeepCommand.KeepBars(part, part, Math.max(1, number), false);
  }

  private static Command close(Stage stage) {
    Refusal.unless(
        stage.on(armed(stage).id()).first().isPresent(), "No loop is being recorded: start one.");
    return new PressCommand.MainPress();
  }

  private static Command overdub(Stage stage) {
    Part part = armed(stage);
    PartStage on = stage.on(part.id());
    Refusal.unless(
        on.first().isEmpty() && sounding(on).isPresent(),
        "%s has no loop yet: record one, and close it.",
        part.name());
    return new PressCommand.MainPress();
  }

  /** Whether a way of recording was on when the press came, on the armed part. */
  private static boolean isOn(Stage stage, Way way, long stamp) {
    if (stage.armed().isEmpty() || stage.map().isEmpty()) {
      return false;
    }
    PartStage on = stage.on(stage.armed().get());
    boolean cued =
        way == Way.TAKES && on.first().filter(f -> f.then() == AfterClosing.TAKES).isPresent();
    long tick = stage.map().get().tickAt(stamp);
    return cued
        || on.open().filter(r -> r.way() == way).isPresent()
        || on.recording().filter(r -> r.wasOn(way, tick)).isPresent();
  }

  private static Command breather(RecordingSettings settings) {
    int bars = settings.breatherBars() == 0 ? 1 : 0;
    return new SettingCommand.SetRecording(
        Components.between(settings, settings.withBreatherBars(bars)));
  }

  private static Command click(Click click) {
    return new SettingCommand.SetClick(Components.between(click, click.withOn(!click.on())));
  }

  private static Command mute(Part part) {
    Balance balance = part.balance();
    return new SettingCommand.SetBalance(
        part.id(), Components.between(balance, balance.withMuted(!balance.muted())));
  }

  private static Command solo(Part part) {
    Balance balance = part.balance();
    return new SettingCommand.SetBalance(
        part.id(), Components.between(balance, balance.withSolo(!balance.solo())));
  }

  /** Keys repeat on a grid by its number, from 1; on sixteenths for 0; with the part's swing. */
  private static Command repeat(Stage stage, int number) {
    List<Grid> grids = NoteRepeat.GRIDS;
    Refusal.unless(
        number <= grids.size(), "There are %s grids: 1 is %s.", grids.size(), grids.get(0).words());
    Grid grid = number == 0 ? Grid.SIXTEENTH : grids.get(number - 1);
    double swing =
        stage
            .armed()
            .map(part -> stage.show().part(part).inputGrid().swing())
            .orElse(NoteRepeat.STRAIGHT);
    return new HandCommand.RepeatNotes(new NoteRepeat(grid, swing));
  }

  /** A part by its place, from 1; the armed one for 0. */
  private static Part part(Stage stage, int number) {
    List<Part> parts = stage.show().parts();
    if (number == 0) {
      return armed(stage);
    }
    Refusal.unless(number <= parts.size(), "There is no part %s in this show.", number);
    return parts.get(number - 1);
  }

  private static Part armed(Stage stage) {
    List<Part> parts = stage.show().parts();
    Refusal.unless(!parts.isEmpty(), "Add a part first.");
    return stage.armed().map(stage.show()::part).orElse(parts.get(0));
  }

  private static Part beside(Stage stage, int step) {
    List<Part> parts = stage.show().parts();
    int place = parts.indexOf(armed(stage)) + step;
    Refusal.unless(
        place >= 0 && place < parts.size(), "No part comes %s.", step > 0 ? "next" : "before");
    return parts.get(place);
  }

  private static Section section(Stage stage, int number) {
    List<Section> form = stage.show().form();
    int place = Math.max(1, number) - 1;
    Refusal.unless(place < form.size(), "There is no section %s in this show.", place + 1);
    return form.get(place);
  }

  private static ClipId clip(Part part, int number) {
    int place = Math.max(1, number) - 1;
    Refusal.unless(place < part.shelf().size(), "%s has no clip %s yet.", part.name(), place + 1);
    return part.shelf().get(place).id();
  }

  private static ClipId nextClip(Stage stage) {
    Part part = armed(stage);
    PartStage on = stage.on(part.id());
    int place =
        on.cue()
            .flatMap(Cue::clip)
            .or(() -> sounding(on))
            .flatMap(part::clip)
            .map(part.shelf()::indexOf)
            .orElse(-1);
    return clip(part, place + 2);
  }

  private static Optional<ClipId> sounding(PartStage on) {
    return on.vamp().map(Vamp::clip).or(on::ready);
  }

  private static Command reshape(Stage stage, Reshaping reshaping) {
    Part part = armed(stage);
    PartId id = part.id();
    ClipId clip =
        sounding(stage.on(id))
            .orElseThrow(() -> new Refusal(part.name() + " has no loop yet: record one first."));
    return new ShelfCommand.Reshape(id, clip, reshaping);
  }
}
