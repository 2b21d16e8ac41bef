package ancora.core.engine;

import ancora.core.Refusal;
import ancora.core.plan.Plan;
import ancora.core.planner.Planner;
import ancora.core.record.Played;
import ancora.core.rules.Command;
import ancora.core.rules.Moment;
import ancora.core.rules.Result;
import ancora.core.rules.Sequence;
import ancora.core.rules.hands.Playing;
import ancora.core.rules.keeping.Keeping;
import ancora.core.rules.recording.FirstRecordings;
import ancora.core.rules.undo.Undoing;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.stage.Kept;
import ancora.core.stage.Stage;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * One deterministic state machine: commands and the passing of time lead from stage to stage. It
 * has no clock and no thread; its caller says what time it is. The same commands with the same
 * times give the same stages. How often {@link #advance} is called in between makes no difference.
 */
public final class Engine {

  /**
   * Commands that arrive later than this after their stamp are refused, in microseconds, but for
   * those that are bound to no moment, and what hands play.
   */
  public static final long LATEST = 1_000_000;

  /** So long a press can be taken back that turns out to be another gesture, in microseconds. */
  public static final long TAKEN_BACK_WITHIN = Recent.WITHIN;

  /** The version of the rules: a journal sounds the same only under those it was made under. */
  public static final int RULES = 3;

  private static final double MICROS_A_MILLI = 1000;

  /** No foot comes down twice so soon, in microseconds. */
  private static final long TWICE = 50_000;

  private final Planner planner = new Planner();
  private Stage stage;
  private long now;
  private Recent recent = new Recent();

  /** How many commands were accepted. */
  private long accepted;

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
    return planner.plan(stage);
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
    long number = accepted + 1;
    Outcome outcome =
        command instanceof Instead instead
            ? instead(instead, stamp, number)
            : done(command, stamp, number);
    accepted = outcome instanceof Outcome.Done ? number : accepted;
    return outcome;
  }

  /**
   * Carries out a command now.
   *
   * @param number of all that were accepted, if this is
   */
  Outcome done(Command command, long stamp, long number) {
    Stage before = stage;
    long judged = Math.min(stamp, now);
    try {
      Command meant = command.meant(stage, judged);
      Refusal.unless(
          meant.isTimeless() || meant.isOfNoMoment() || now - judged <= LATEST,
          "That came more than a second late, and was left out: try again.");
      long counts = meant.isOfNoMoment() ? Math.max(judged, now - LATEST) : judged;
      Result result = applied(stage, meant, Moment.of(stage, counts, now));
      stage = result.stage();
      advance(now);
      recent.add(new Recent.Accepted(number, command, stamp, now, before));
      return new Outcome.Done(result.word());
    } catch (Refusal refusal) {
      return new Outcome.Refused(refusal.getMessage());
    }
  }

  /**
   * What a press did is taken back, and what was asked for since is done again without it; the
   * other command is done where the press was, or, if its own stamp is that of a second press, now.
   * If that is refused, nothing is taken back. A press that is forgotten by now, is not one that is
   * done at once, or has started or stopped the transport, stays: the other command is done after
   * it.
   */
  private Outcome instead(Instead instead, long stamp, long number) {
    Optional<Recent.Accepted> taken =
        recent.back(number - instead.of(), now).filter(this::canBeTakenBack);
    if (taken.isEmpty()) {
      return done(instead.command(), stamp, number);
    }
    Recent.Accepted press = taken.get();
    Engine before = new Engine(press.before());
    before.now = press.applied();
    before.recent = recent.before(press);
    Again again = new Again(before, nextId());
    // a page's clock may have moved a little: it is the same foot
    boolean inItsPlace = stamp < press.stamp() + TWICE;
    Optional<Outcome> first =
        inItsPlace
            ? Optional.of(again.anew(instead.command(), press.stamp(), number))
            : Optional.empty();
    again.again(recent.after(press), nextId(), now);
    Outcome outcome = first.orElseGet(() -> again.anew(instead.command(), stamp, number));
    if (outcome instanceof Outcome.Refused) {
      return outcome;
    }
    Engine without = again.engine();
    stage = without.stage;
    recent = without.recent;
    return again.lost().<Outcome>map(why -> new Outcome.Done(Optional.of(why))).orElse(outcome);
  }

  private boolean canBeTakenBack(Recent.Accepted press) {
    List<Recent.Accepted> since = recent.after(press);
    Stage after = since.isEmpty() ? stage : since.get(0).before();
    long judged = Math.min(press.stamp(), press.applied());
    Command meant = press.command().meant(press.before(), judged);
    return meant.isAtOnce() && press.before().map().isPresent() == after.map().isPresent();
  }

  /** An engine that goes on from here by itself. */
  Engine copy() {
    Engine copy = new Engine(stage);
    copy.now = now;
    copy.recent = recent.copy();
    copy.accepted = accepted;
    return copy;
  }

  /** The id that is given next. */
  long nextId() {
    return stage.show().nextId();
  }

  void numberFrom(long nextId) {
    stage = stage.withShow(stage.show().withNextId(nextId));
  }

  /** Any other command ends that a press was the first of two. */
  private static Result applied(Stage stage, Command meant, Moment moment) {
    if (meant instanceof Sequence sequence) {
      return sequence.apply(stage, moment.stamp(), (s, one) -> applied(s, one, moment));
    }
    Result result = meant.apply(stage, moment);
    boolean byHand = meant instanceof Command.ByHand;
    Stage next = byHand ? result.stage() : FirstRecordings.endLapsed(stage, result.stage());
    boolean stays = byHand || next.firstPress() != stage.firstPress();
    return new Result(
        Boundaries.endWaits(
            stays ? next : next.withFirstPress(Optional.empty()),
            next.map().map(moment::tick).orElse(0L)),
        result.word());
  }

  /** Lets time pass: what closes by itself is closed. */
  public void advance(long nowMicros) {
    now = Math.max(now, nowMicros);
    stage = Boundaries.pass(stage, now);
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
    double next = Boundaries.ticks(stage).mapToDouble(map::microsOf).min().orElse(due);
    due = Math.min(due, next);
    return OptionalLong.of((long) Math.ceil(Math.max(due, now + 1)));
  }

  /** The parts that hands play on at an instant. */
  public List<PartId> partsPlayedAt(long micros) {
    return Playing.partsFor(stage, micros);
  }

  /**
   * What a command would do if hand or foot acted at an instant, the present one at the latest. The
   * same code says it that would do it.
   */
  public Forecast forecast(Command command, long micros) {
    long at = Math.max(now, micros);
    Stage stage = Boundaries.pass(this.stage, at);
    try {
      Command meant = command.meant(stage, micros);
      Result result = applied(stage, meant, Moment.of(stage, micros, at));
      // what it brings to a line that has gone by takes effect at once
      Stage after = Boundaries.pass(result.stage(), at);
      return new Forecast(Effects.between(stage, after), result.word(), Optional.empty());
    } catch (Refusal refusal) {
      return new Forecast(List.of(), Optional.empty(), Optional.of(refusal.getMessage()));
    }
  }

  /**
   * What a command would find, so that a control that stands for it can light.
   *
   * @param micros the present instant, in microseconds
   */
  public Lit lit(Command command, long micros) {
    return Lighting.of(this, command, micros);
  }

  /**
   * By how much taps on the armed part have come after the click nearest to each, in microseconds:
   * as they arrived, without the part's present offset. Refuses where nothing is armed, and at
   * standstill.
   *
   * @param since those that were played from this instant on
   */
  public List<Double> lateness(long since) {
    TempoMap map =
        stage
            .map()
            .orElseThrow(() -> new Refusal("Start first: the measure is taken with the click."));
    PartId part = stage.armed().orElseThrow(() -> new Refusal("Arm the part that is tapped on."));
    double offset = stage.show().part(part).input().offset() * MICROS_A_MILLI;
    long click = stage.show().click().ticks(stage.show().meter());
    return stage.on(part).hindsight().since(since).stream()
        .map(Played::onMicros)
        .map(on -> on - map.microsOf(Ticks.nearest(map.tickAt(on), click)) + offset)
        .toList();
  }

  /** What was kept last, as long as it can be taken otherwise. */
  public static Optional<Kept> kept(Stage stage) {
    return Keeping.changeable(stage);
  }

  /** What undo takes back next, in words; empty if there is nothing. */
  public static String undoWords(Stage stage) {
    return Undoing.words(stage);
  }
}
