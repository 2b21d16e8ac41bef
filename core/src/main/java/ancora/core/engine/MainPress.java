package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.record.EarlyNotes;
import ancora.core.record.EntryPoint;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopLength;
import ancora.core.record.Overdub;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.Comparator;
import java.util.Optional;

/**
 * The one control that starts a recording, closes it, and starts and stops overdubbing. What a
 * press would do is decided first, and done then: the same decision says what the next press will
 * do.
 */
public final class MainPress {

  /** What a press does. */
  public enum Kind {
    /** At standstill: counts in, then records. */
    COUNT_IN,
    /** At standstill: waits for the first note. */
    AWAIT_FIRST_NOTE,
    /** At standstill: starts, and adds to the clip that stands ready. */
    START_OVERDUB,
    /** Begins a recording at a tick. */
    RECORD,
    /** Calls off a recording that has not begun. */
    CALL_OFF_RECORDING,
    /** Closes the loop at a tick. */
    CLOSE,
    /** Lets a recording go on that was to be closed. */
    CALL_OFF_CLOSING,
    /** Starts adding. */
    OVERDUB,
    /** Stops adding; the loop goes on. */
    STOP_OVERDUB
  }

  /**
   * What a press at a given moment does.
   *
   * @param part the part it goes to; it is armed if it is not
   * @param kind what it does
   * @param tick where; for a closing, the line
   */
  public record Decision(PartId part, Kind kind, long tick) {}

  private static final Comparator<PartId> BY_NUMBER = Comparator.comparingInt(PartId::value);

  private MainPress() {}

  /** What a press with this stamp does, the stage being as it is. */
  public static Decision decide(Stage stage, long stamp) {
    return decide(stage, stage.armed().orElseGet(() -> soleChoice(stage.show())), stamp);
  }

  private static Decision decide(Stage stage, PartId part, long stamp) {
    PartStage on = stage.on(part);
    RecordingSettings settings = stage.show().recording();
    if (stage.map().isEmpty()) {
      return new Decision(part, atStandstill(stage, on, settings), 0);
    }
    TempoMap map = stage.map().get();
    long tick = map.tickAt(stamp);
    if (on.first().isPresent()) {
      FirstRecording first = on.first().get();
      if (tick < first.start()) {
        return new Decision(part, Kind.CALL_OFF_RECORDING, first.start());
      }
      LoopLength lengths = FirstRecordings.lengths(stage, part);
      boolean atItsLongest =
          first.isClosing() && first.until() == first.start() + lengths.longest();
      if (first.isClosing() && !atItsLongest) {
        return new Decision(part, Kind.CALL_OFF_CLOSING, first.until());
      }
      long length = lengths.closedAt(first.start(), stamp, settings.forgiveness(), map);
      return new Decision(part, Kind.CLOSE, first.start() + length);
    }
    if (on.vamp().isPresent()) {
      return inVamp(stage, part, on.vamp().get(), stamp, map);
    }
    long start =
        EntryPoint.of(
            stamp, settings.entersOn(), settings.forgiveness(), stage.show().meter(), map);
    return new Decision(part, Kind.RECORD, start);
  }

  static Step press(Stage stage, Moment moment) {
    Decision decision = decide(stage, moment.stamp());
    Stage armed = stage.armed().isPresent() ? stage : stage.withArmed(decision.part());
    Stage next = carriedOut(armed, decision, moment);
    for (PartId other : stage.alongside().stream().sorted(BY_NUMBER).toList()) {
      Decision same = next.map().isEmpty() ? decision : decide(next, other, moment.stamp());
      if (goesAlong(decision.kind(), same.kind()) && !same.part().equals(decision.part())) {
        next = carriedOut(next, same, moment);
      }
    }
    return stage.armed().isPresent()
        ? Step.to(next)
        : Step.to(next, stage.show().part(decision.part()).name() + " is armed now.");
  }

  /** Parts armed alongside do as the armed one does, if they are in the same case. */
  private static boolean goesAlong(Kind first, Kind other) {
    return switch (first) {
      case COUNT_IN, START_OVERDUB -> other == Kind.RECORD || other == Kind.OVERDUB;
      default -> other == first;
    };
  }

  private static Stage carriedOut(Stage armed, Decision decision, Moment moment) {
    PartId part = decision.part();
    return switch (decision.kind()) {
      case COUNT_IN -> FirstRecordings.cue(countIn(armed, moment), part, 0);
      case AWAIT_FIRST_NOTE -> armed.withTransport(new Transport.AwaitingFirstNote(part));
      case START_OVERDUB -> overdubFrom(countIn(armed, moment), part, 0);
      case RECORD -> FirstRecordings.cue(armed, part, decision.tick());
      case CALL_OFF_RECORDING -> callOff(armed, part, moment);
      case CLOSE, CALL_OFF_CLOSING ->
          FirstRecordings.withUntil(
              armed, part, decision.kind() == Kind.CLOSE ? decision.tick() : Ticks.OPEN);
      case OVERDUB -> overdubFrom(armed, part, decision.tick());
      case STOP_OVERDUB -> stopOverdub(armed, part, decision.tick());
    };
  }

  /**
   * Records into a new clip, whatever vamps: that leaves where the recording begins. While a
   * recording goes on it is a main press.
   */
  static Step recordAnew(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    PartStage on = stage.on(part);
    if (on.first().isPresent()) {
      return press(stage, moment);
    }
    if (stage.map().isEmpty()) {
      return press(stage.mapOn(part, p -> p.withReady(Optional.empty())), moment);
    }
    RecordingSettings settings = stage.show().recording();
    long start =
        EntryPoint.of(
            moment.stamp(),
            settings.entersOn(),
            settings.forgiveness(),
            stage.show().meter(),
            stage.map().get());
    return Step.to(FirstRecordings.cue(stage, part, start));
  }

  private static Kind atStandstill(Stage stage, PartStage on, RecordingSettings settings) {
    if (stage.transport() instanceof Transport.AwaitingFirstNote) {
      return Kind.CALL_OFF_RECORDING;
    }
    if (on.ready().isPresent()) {
      return Kind.START_OVERDUB;
    }
    return settings.countInBars() == 0 && settings.fromFirstNote()
        ? Kind.AWAIT_FIRST_NOTE
        : Kind.COUNT_IN;
  }

  /** A press that arrives after the loop has closed, stamped before, counts from the line on. */
  private static Decision inVamp(Stage stage, PartId part, Vamp vamp, long stamp, TempoMap map) {
    long tick = Math.max(map.tickAt(stamp), vamp.from());
    Optional<Overdub> overdub = stage.on(part).overdub().filter(o -> o.until() == Ticks.OPEN);
    if (overdub.isEmpty()) {
      return new Decision(part, Kind.OVERDUB, tick);
    }
    if (map.tickAt(stamp) < 0) {
      return new Decision(part, Kind.CALL_OFF_RECORDING, 0);
    }
    LoopWindow window = stage.clip(part, vamp.clip()).window();
    long line = vamp.phase() + vamp.passAt(tick, window) * window.length();
    boolean forLine =
        line > overdub.get().pressed()
            && stage.show().recording().forgiveness().covers(line, stamp, window.length(), map);
    return new Decision(part, Kind.STOP_OVERDUB, forLine ? line : tick);
  }

  private static Stage countIn(Stage stage, Moment moment) {
    Show show = stage.show();
    long ticks = show.recording().countInBars() * show.meter().barTicks();
    return Transports.start(stage, ticks, moment.audible());
  }

  /** In the count-in, calling off stops the transport as well. */
  private static Stage callOff(Stage stage, PartId part, Moment moment) {
    boolean countIn = stage.map().map(map -> moment.tick(map) < 0).orElse(true);
    return countIn ? Transports.stop(stage, moment) : FirstRecordings.drop(stage, part);
  }

  /** Switched on, overdub takes in what was played since the forgiveness before the press. */
  private static Stage overdubFrom(Stage stage, PartId part, long tick) {
    TempoMap map = stage.map().orElseThrow();
    Vamp vamp = stage.on(part).vamp().orElseThrow();
    Clip clip = stage.clip(part, vamp.clip());
    long back =
        tick <= 0
            ? EarlyNotes.tolerance(stage.show().part(part).inputGrid(), 0, map)
            : map.ticksBefore(tick, stage.show().recording().forgiveness().micros());
    long from = tick - back;
    Overdub overdub =
        Mends.breathing(
            stage, Overdub.adding(vamp.clip(), from, Ticks.OPEN, tick, clip.layers().size()), clip);
    return NoteTaking.takeFromHindsight(
        stage.mapOn(part, on -> on.withOverdub(overdub)), part, map.microsOf(from));
  }

  /** Switched off at a tick: notes from there on are left to hindsight. */
  private static Stage stopOverdub(Stage stage, PartId part, long until) {
    Overdub overdub = stage.on(part).overdub().orElseThrow();
    return overdub.isAdding()
        ? NoteTaking.leaveSince(stage, part, overdub, until)
            .mapOn(part, p -> p.withOverdub(overdub.withUntil(until)))
        : Mends.end(stage, part, until);
  }

  private static PartId soleChoice(Show show) {
    Refusal.unless(
        !show.parts().isEmpty(), "Add a part first, so that there is something to record on.");
    Part first = show.parts().get(0);
    return first.id();
  }
}
