package ancora.core.rules.press;

import ancora.core.Refusal;
import ancora.core.record.AfterClosing;
import ancora.core.record.FirstRecording;
import ancora.core.record.LoopLength;
import ancora.core.record.LoopRecording;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Together;
import ancora.core.rules.cues.Stopping;
import ancora.core.rules.cues.Transports;
import ancora.core.rules.recording.Endings;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.recording.Recordings;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.TempoMap;
import ancora.core.vamp.Vamp;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The one control that starts a recording, closes it, and starts and stops overdubbing. What a
 * press would do is decided first, and done then: the same decision says what the next press will
 * do.
 */
public final class Pressing {

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

  private Pressing() {}

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
      return inFirst(stage, part, on.first().get(), stamp, map);
    }
    if (on.vamp().isPresent()) {
      return inVamp(stage, part, on.vamp().get(), stamp, tick);
    }
    return new Decision(part, Kind.RECORD, FirstRecordings.start(stage, stamp));
  }

  private static Decision inFirst(
      Stage stage, PartId part, FirstRecording first, long stamp, TempoMap map) {
    long tick = map.tickAt(stamp);
    if (first.round() && first.then() != AfterClosing.VAMP) {
      return new Decision(part, Kind.STOP_OVERDUB, tick);
    }
    if (tick < first.start()) {
      return new Decision(part, Kind.CALL_OFF_RECORDING, first.start());
    }
    if (first.isAskedToClose()) {
      return new Decision(part, Kind.CALL_OFF_CLOSING, first.until());
    }
    LoopLength lengths = FirstRecordings.lengths(stage, part);
    long length =
        lengths.closedAt(first.start(), stamp, stage.show().recording().forgiveness(), map);
    return new Decision(part, Kind.CLOSE, Math.min(first.set(), first.start() + length));
  }

  public static Result press(Stage stage, Moment moment) {
    return begin(stage, moment, Optional.empty());
  }

  /**
   * A press.
   *
   * @param then what a recording that begins by it goes on with; empty for as the show is set
   */
  public static Result begin(Stage stage, Moment moment, Optional<AfterClosing> then) {
    Decision decision = decide(stage, moment.stamp());
    Stage armed = stage.armed().isPresent() ? stage : stage.withArmed(decision.part());
    Stage next = carriedOut(armed, decision, moment, then);
    List<String> leftAlone = new ArrayList<>();
    for (PartId other : stage.alongside()) {
      if (next.map().isEmpty() || other.equals(decision.part())) {
        continue;
      }
      Decision same = decide(next, other, moment.stamp());
      if (goesAlong(decision.kind(), same.kind())) {
        next = carriedOut(next, same, moment, then);
      } else {
        leftAlone.add(stage.show().part(other).name());
      }
    }
    if (!leftAlone.isEmpty()) {
      return Result.to(next, String.join(", ", leftAlone) + " cannot: left as it is.");
    }
    return stage.armed().isPresent()
        ? Result.to(next)
        : Result.to(next, stage.show().part(decision.part()).name() + " is armed now.");
  }

  /** Parts armed alongside do as the armed one does, if they are in the same case. */
  private static boolean goesAlong(Kind first, Kind other) {
    return switch (first) {
      case COUNT_IN, START_OVERDUB -> other == Kind.RECORD || other == Kind.OVERDUB;
      default -> other == first;
    };
  }

  private static Stage carriedOut(
      Stage armed, Decision decision, Moment moment, Optional<AfterClosing> then) {
    PartId part = decision.part();
    AfterClosing after = then.orElseGet(() -> FirstRecordings.afterClosing(armed));
    return switch (decision.kind()) {
      case COUNT_IN -> {
        Stage counting = countIn(armed, moment);
        long start = FirstRecordings.start(counting, moment.stamp());
        yield FirstRecordings.cue(counting, part, Math.max(0, start), after, moment);
      }
      case AWAIT_FIRST_NOTE -> armed.withTransport(new Transport.AwaitingFirstNote(part));
      case START_OVERDUB -> onto(countIn(armed, moment), part, then, moment);
      case RECORD -> FirstRecordings.cue(armed, part, decision.tick(), after, moment);
      case CALL_OFF_RECORDING -> callOff(armed, part, moment);
      case CLOSE -> FirstRecordings.withUntil(armed, part, decision.tick(), moment);
      case CALL_OFF_CLOSING ->
          FirstRecordings.withUntil(
              armed, part, armed.on(part).first().orElseThrow().set(), moment);
      case OVERDUB -> onto(armed, part, then, moment);
      case STOP_OVERDUB -> stopOverdub(armed, part, decision.tick(), moment);
    };
  }

  private static Stage onto(Stage stage, PartId part, Optional<AfterClosing> then, Moment moment) {
    Way way = then.filter(t -> t == AfterClosing.TAKES).isPresent() ? Way.TAKES : Way.ADD;
    return Recordings.begin(stage, part, way, Optional.empty(), moment);
  }

  /** A first recording ends as by a press: it closes, or is called off if it has not begun. */
  static Stage closed(Stage stage, PartId part, Moment moment) {
    Decision decision = decide(stage, part, moment.stamp());
    return switch (decision.kind()) {
      case CLOSE, STOP_OVERDUB -> carriedOut(stage, decision, moment, Optional.empty());
      case CALL_OFF_RECORDING -> FirstRecordings.drop(stage, part);
      default -> stage;
    };
  }

  /**
   * Records into a new clip, whatever vamps: that leaves where the recording begins, and what is
   * recorded onto it ends there. While a recording goes on it is a main press.
   */
  public static Result recordAnew(Stage stage, Moment moment) {
    PartId part = stage.armedPart();
    if (stage.on(part).first().isPresent()) {
      return press(stage, moment);
    }
    if (stage.map().isEmpty()) {
      Stage bare = stage;
      for (PartId each : Together.of(stage)) {
        bare = bare.mapOn(each, p -> p.withReady(Optional.empty()));
      }
      return press(bare, moment);
    }
    long start = FirstRecordings.start(stage, moment.stamp());
    return Together.each(
        stage,
        (s, p) -> {
          Refusal.unless(s.on(p).first().isEmpty(), "A loop is being recorded already.");
          return FirstRecordings.cue(s, p, start, moment);
        });
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

  /**
   * A press means what it meant at its stamp: where something was being recorded then, it ends that
   * there. One that arrives after the loop has closed, stamped before, counts from the line on.
   */
  private static Decision inVamp(Stage stage, PartId part, Vamp vamp, long stamp, long pressed) {
    long tick = Math.max(pressed, vamp.from());
    Optional<LoopRecording> on =
        stage
            .on(part)
            .recording()
            .filter(r -> r.clip().equals(vamp.clip()))
            .filter(r -> r.isOpen() || tick >= r.since() && tick < r.until());
    if (on.isEmpty()) {
      return new Decision(part, Kind.OVERDUB, tick);
    }
    if (pressed < 0) {
      return new Decision(part, Kind.CALL_OFF_RECORDING, 0);
    }
    Moment moment = new Moment(stamp, stamp, stamp);
    return new Decision(part, Kind.STOP_OVERDUB, Recordings.offTick(stage, part, moment));
  }

  private static Stage countIn(Stage stage, Moment moment) {
    Show show = stage.show();
    long ticks = show.recording().countInBars() * show.meter().barTicks();
    return Transports.start(stage, ticks, moment.audible());
  }

  /** In the count-in, calling off stops the transport as well. */
  private static Stage callOff(Stage stage, PartId part, Moment moment) {
    boolean countIn = stage.map().map(map -> moment.tick(map) < 0).orElse(true);
    return countIn ? Stopping.stop(stage, moment) : FirstRecordings.drop(stage, part);
  }

  /** An empty loop that goes round closes as set if anything was played in it, else it is over. */
  private static Stage stopOverdub(Stage stage, PartId part, long tick, Moment moment) {
    Optional<FirstRecording> first = stage.on(part).first();
    if (first.isEmpty()) {
      return Endings.end(stage, part, tick);
    }
    return first.get().notes().isEmpty()
        ? FirstRecordings.drop(stage, part)
        : stage.mapOn(part, on -> on.withFirst(first.get().withThen(AfterClosing.VAMP)));
  }

  private static PartId soleChoice(Show show) {
    Refusal.unless(
        !show.parts().isEmpty(), "Add a part first, so that there is something to record on.");
    return show.parts().get(0).id();
  }
}
