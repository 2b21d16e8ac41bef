package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.plan.Plan;
import ancora.core.record.FirstRecording;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * One deterministic state machine: commands and the passing of time lead from stage to stage. It
 * has no clock and no thread; its caller says what time it is. The same commands with the same
 * times give the same stages. How often {@link #advance} is called in between makes no difference.
 */
public final class Engine {

  /** Commands that arrive later than this after their stamp are refused, in microseconds. */
  public static final long LATEST = 1_000_000;

  private Stage stage;
  private long now;

  private Engine(Stage stage) {
    this.stage = stage;
    this.now = Long.MIN_VALUE;
  }

  /** An engine with a show at standstill. */
  public static Engine of(Show show) {
    return new Engine(Stage.of(show));
  }

  /** An engine that goes on from a stage. */
  public static Engine of(Stage stage) {
    return new Engine(stage);
  }

  public Stage stage() {
    return stage;
  }

  /** What is to sound, as things stand. */
  public Plan plan() {
    return Planner.plan(stage);
  }

  /**
   * Carries out a command.
   *
   * @param command what is asked for
   * @param stamp instant at which hand or foot acted, in microseconds of server time; one that lies
   *     in the future counts as now
   * @param nowMicros the present instant; one that lies before an earlier one counts as that
   * @return whether it was done; if it was refused, nothing has changed
   */
  public Outcome apply(Command command, long stamp, long nowMicros) {
    advance(nowMicros);
    long judged = Math.min(stamp, now);
    if (!(command instanceof Command.Timeless) && now - judged > LATEST) {
      return new Outcome.Refused("That came more than a second late, and was left out: try again.");
    }
    try {
      Step step = step(command, Moment.of(stage, judged, now));
      stage = step.stage();
      advance(now);
      return new Outcome.Done(step.word());
    } catch (Refusal refusal) {
      return new Outcome.Refused(refusal.getMessage());
    }
  }

  /** Lets time pass: what closes by itself is closed. */
  public void advance(long nowMicros) {
    now = Math.max(now, nowMicros);
    stage = stage.forEachPart(this::closeIfDue);
  }

  /**
   * The next instant at which something changes by itself, or what the next press does changes;
   * then {@link #advance} wants to be called. Empty at standstill.
   */
  public OptionalLong nextDue() {
    if (stage.map().isEmpty()) {
      return OptionalLong.empty();
    }
    TempoMap map = stage.map().get();
    RecordingSettings settings = stage.show().recording();
    long forgiveness = settings.forgiveness().micros();
    long beat = stage.show().meter().beatTicks();
    long tick = map.tickAt(now);
    double due = map.microsOf(Math.floorDiv(tick, beat) * beat + beat) + 1;
    double forgiven = map.microsOf(Math.floorDiv(tick, beat) * beat) + forgiveness + 1;
    if (forgiven > now) {
      due = Math.min(due, forgiven);
    }
    for (PartStage on : stage.partStages().values()) {
      if (on.first().isPresent() && on.first().get().isClosing()) {
        due = Math.min(due, map.microsOf(on.first().get().until()));
      }
    }
    return OptionalLong.of((long) Math.ceil(Math.max(due, now + 1)));
  }

  /** What a main press at an instant would do; empty if it would be refused. */
  public Optional<MainPress.Decision> forecastMainPress(long micros) {
    try {
      return Optional.of(MainPress.decide(stage, micros));
    } catch (Refusal refusal) {
      return Optional.empty();
    }
  }

  private Step step(Command command, Moment moment) {
    if (command instanceof Command.MainPress) {
      return MainPress.press(stage, moment);
    }
    if (command instanceof Command.KeyDown press) {
      return Step.to(Playing.keyDown(stage, press, moment));
    }
    if (command instanceof Command.KeyUp release) {
      return Step.to(Playing.keyUp(stage, release.key(), moment.stamp()));
    }
    if (command instanceof Command.DeviceGone gone) {
      return Step.to(Playing.deviceGone(stage, gone.device(), moment.stamp()));
    }
    if (command instanceof Command.Panic) {
      return Step.to(Playing.panic(stage, moment.stamp()));
    }
    if (command instanceof Command.Start) {
      return Step.to(Transports.startAtOnce(stage, moment));
    }
    if (command instanceof Command.Stop) {
      return Step.to(Transports.stop(stage, moment));
    }
    if (command instanceof Command.Peel) {
      return Step.to(Peeling.peel(stage, moment));
    }
    if (command instanceof Command.Restore) {
      return Step.to(Peeling.restore(stage));
    }
    if (command instanceof Command.PeelAll) {
      return Step.to(Peeling.peelAll(stage));
    }
    if (command instanceof Command.Clear) {
      return Step.to(Peeling.clear(stage));
    }
    if (command instanceof Command.Unclear) {
      return Step.to(Peeling.unclear(stage));
    }
    return Step.to(setting(command, moment));
  }

  private Stage setting(Command command, Moment moment) {
    if (command instanceof Command.SetTempo set) {
      return Settings.tempo(stage, set.tempo(), moment);
    }
    if (command instanceof Command.TapTempo) {
      return Settings.tap(stage, moment);
    }
    if (command instanceof Command.SetMeter set) {
      return Settings.meter(stage, set.meter());
    }
    if (command instanceof Command.SetClick set) {
      return stage.withShow(stage.show().withClick(set.click()));
    }
    if (command instanceof Command.SetRecording set) {
      return stage.withShow(stage.show().withRecording(set.settings()));
    }
    if (command instanceof Command.Rename rename) {
      return stage.withShow(stage.show().withTitle(rename.title()));
    }
    if (command instanceof Command.AddPart add) {
      return Settings.addPart(stage, add);
    }
    if (command instanceof Command.Arm arm) {
      return stage.withArmed(arm.part());
    }
    if (command instanceof Command.ChooseSound choose) {
      return Settings.sound(stage, choose);
    }
    if (command instanceof Command.SetInputGrid set) {
      return stage.withShow(
          stage.show().mapPart(set.part(), part -> part.withInputGrid(set.grid())));
    }
    if (command instanceof Command.ReportDelay report) {
      return Settings.delay(stage, report.micros());
    }
    throw new IllegalStateException("no rule for " + command);
  }

  private Stage closeIfDue(Stage before, PartId part) {
    Optional<FirstRecording> recording = before.on(part).first();
    if (recording.isEmpty() || before.map().isEmpty()) {
      return before;
    }
    FirstRecording first = recording.get();
    TempoMap map = before.map().get();
    long longest = RecordingSettings.MOST_BARS * before.show().meter().barTicks();
    long lastBar = first.start() + longest - before.show().meter().barTicks();
    Stage next =
        !first.isClosing() && map.microsOf(lastBar) <= now
            ? FirstRecordings.withUntil(before, part, first.start() + longest)
            : before;
    boolean due = map.microsOf(next.on(part).first().orElseThrow().until()) <= now;
    return due ? FirstRecordings.close(next, part, false) : next;
  }
}
