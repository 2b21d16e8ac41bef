package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import ancora.core.rules.Command;
import ancora.core.rules.OnPage;
import ancora.core.rules.Sequence;
import ancora.core.rules.address.Addressed;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.Adjustment;
import ancora.core.show.Balance;
import ancora.core.show.Components;
import ancora.core.show.PartId;
import ancora.core.show.SectionId;
import ancora.core.stage.FormStage;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.vamp.Cue;
import ancora.core.vamp.Vamp;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** What a command would find: a performer's pads and pedals show it. */
final class Lighting {

  private Lighting() {}

  /**
   * How a control lights that stands for a command.
   *
   * @param micros the instant, in microseconds
   */
  static Lit of(Engine engine, Command command, long micros) {
    Stage stage = engine.stage();
    if (command instanceof OnPage) {
      return Lit.READY;
    }
    if (command instanceof Sequence sequence) {
      return of(engine, sequence.commands().get(0), micros);
    }
    try {
      Optional<Boolean> on = switched(stage, command, micros);
      if (on.isPresent()) {
        return on.get() ? Lit.ON : Lit.READY;
      }
      Optional<Lit> found = found(stage, command, command.meant(stage, micros));
      return found.orElseGet(
          () -> engine.forecast(command, micros).isDone() ? Lit.READY : Lit.NOTHING);
    } catch (Refusal nothing) {
      return Lit.NOTHING;
    }
  }

  /** Whether something is on that the command turns over, or holds. */
  private static Optional<Boolean> switched(Stage stage, Command command, long micros) {
    if (command instanceof Addressed addressed
        && Command.Switched.class.isAssignableFrom(addressed.of())) {
      boolean turned = addressed.said().get("on") instanceof Adjustment;
      Command on = turned ? held(addressed).meant(stage, micros) : command.meant(stage, micros);
      return isThere(stage, on) && on instanceof Command.Switched switched
          ? Optional.of(switched.isOn(stage, micros))
          : Optional.empty();
    }
    if (command instanceof SettingCommand.SetClick click) {
      return turned(click.click(), Map.of("on", stage.show().click().on()));
    }
    return Optional.empty();
  }

  /** How it stands is asked of what would switch it on. */
  private static Command held(Addressed addressed) {
    Map<String, Object> said = new HashMap<>(addressed.said());
    said.put("on", true);
    return new Addressed(addressed.of(), said).plain();
  }

  /** Ways of recording onto a loop need one. */
  private static boolean isThere(Stage stage, Command on) {
    boolean onto =
        on instanceof MendCommand.Replace
            || on instanceof MendCommand.PunchBar
            || on instanceof MendCommand.EraseHeld;
    return !onto || stage.armed().filter(part -> stage.on(part).vamp().isPresent()).isPresent();
  }

  private static Optional<Boolean> turned(Components<?> some, Map<String, Boolean> now) {
    return some.values().entrySet().stream()
        .filter(said -> said.getValue() instanceof Adjustment.Toggle)
        .map(said -> now.get(said.getKey()))
        .findFirst();
  }

  private static Optional<Lit> found(Stage stage, Command asked, Command meant) {
    if (meant instanceof CueCommand.CueClip cue) {
      return Optional.of(clip(stage, cue.part(), cue.clip()));
    }
    if (meant instanceof CueCommand.CueSection cue) {
      return Optional.of(section(stage, cue.section()));
    }
    if (meant instanceof CueCommand.CueTacet tacet) {
      boolean cued = stage.on(tacet.part()).cue().filter(c -> c.clip().isEmpty()).isPresent();
      return cued ? Optional.of(Lit.CUED) : Optional.empty();
    }
    if (meant instanceof PressCommand.Arm arm) {
      return Optional.of(stage.armed().filter(arm.part()::equals).isPresent() ? Lit.ON : Lit.READY);
    }
    if (asked instanceof CueCommand.StartOrStop || asked instanceof CueCommand.Start) {
      return Optional.of(stage.isStill() ? Lit.READY : Lit.ON);
    }
    if (meant instanceof SettingCommand.SetBalance balance) {
      Balance now = stage.show().part(balance.part()).balance();
      return turned(balance.balance(), Map.of("muted", now.muted(), "solo", now.solo()))
          .map(on -> on ? Lit.ON : Lit.READY);
    }
    if (meant instanceof HandCommand.Panic) {
      return Optional.of(Lit.READY);
    }
    return meant instanceof PressCommand.MainPress
        ? Optional.of(recording(stage, stage.playedPart()))
        : Optional.empty();
  }

  private static Lit clip(Stage stage, PartId part, ClipId clip) {
    PartStage on = stage.on(part);
    if (on.cue().flatMap(Cue::clip).filter(clip::equals).isPresent()) {
      return Lit.CUED;
    }
    if (on.vamp().map(Vamp::clip).filter(clip::equals).isEmpty()) {
      return Lit.READY;
    }
    return on.open().isPresent() ? Lit.RECORDING : Lit.SOUNDING;
  }

  private static Lit section(Stage stage, SectionId section) {
    boolean next =
        stage.form().next().map(FormStage.Next::section).filter(section::equals).isPresent();
    boolean now = stage.form().now().filter(section::equals).isPresent() && !stage.isStill();
    return next ? Lit.CUED : now ? Lit.SOUNDING : Lit.READY;
  }

  private static Lit recording(Stage stage, PartId part) {
    PartStage on = stage.on(part);
    if (stage.transport() instanceof Transport.AwaitingFirstNote) {
      return Lit.CUED;
    }
    if (on.first().isPresent()) {
      boolean begun = !on.first().get().notes().isEmpty() || on.first().get().isAskedToClose();
      return begun ? Lit.RECORDING : Lit.CUED;
    }
    if (on.open().isPresent()) {
      return Lit.RECORDING;
    }
    return on.vamp().isPresent() ? Lit.SOUNDING : Lit.READY;
  }
}
