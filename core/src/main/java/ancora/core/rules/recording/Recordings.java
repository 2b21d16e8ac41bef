package ancora.core.rules.recording;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.InputGrid;
import ancora.core.record.AfterClosing;
import ancora.core.record.EarlyNotes;
import ancora.core.record.FirstRecording;
import ancora.core.record.Lap;
import ancora.core.record.LoopRecording;
import ancora.core.record.LoopRecording.Range;
import ancora.core.record.Way;
import ancora.core.rules.Moment;
import ancora.core.rules.Together;
import ancora.core.show.PartId;
import ancora.core.show.RunUp;
import ancora.core.stage.PartStage;
import ancora.core.stage.Stage;
import ancora.core.time.Forgiveness;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import ancora.core.vamp.Loop;
import ancora.core.vamp.Vamp;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Recording onto loops that sound (rules 6 to 8): switched on, passing, switched off. All of it
 * makes layers: each lap of a recording one, of what it adds and what it takes out.
 */
public final class Recordings {

  private Recordings() {}

  /**
   * Switches a way of recording on. What was played since it counts is taken in.
   *
   * @param range of a punch: its places
   */
  public static Stage begin(
      Stage stage, PartId part, Way way, Optional<Range> range, Moment moment) {
    Clip clip = Sounding.soundingClip(stage, part);
    Sounding.refuseShort(stage, clip);
    Optional<LoopRecording> open = stage.on(part).open();
    if (open.filter(r -> r.way() == way && r.range().equals(range)).isPresent()) {
      return stage;
    }
    boolean erasing = way != Way.ADD && stage.hands().eraseOn(part).isPresent();
    Refusal.unless(
        !erasing && open.map(r -> r.way() == Way.ADD).orElse(true),
        "One way of recording at a time: switch the other off first.");
    Stage free = open.isPresent() ? Endings.end(stage, part, offTick(stage, part, moment)) : stage;
    Vamp vamp = free.on(part).vamp().orElseThrow();
    Loop loop = vamp.in(clip.window());
    TempoMap map = free.map().orElseThrow();
    long tick = Math.max(moment.tick(map), vamp.from());
    OptionalLong runUp = runUp(free, clip, loop, tick);
    long asked = runUp.orElse(forgivenBar(free, loop, tick, moment.stamp()).orElse(tick));
    // a loop that still rests is recorded onto from its next line on
    long since = loop.restsAt(asked) ? loop.lineFrom(asked) : asked;
    long from = since;
    if (way == Way.ADD && since == tick && runUp.isEmpty()) {
      long back = map.ticksBefore(tick, forgiveness(free).micros());
      long bound = Math.max(vamp.from(), loop.lineBy(tick));
      from = Math.max(tick - back, Math.min(bound, tick));
    }
    LoopRecording recording =
        new LoopRecording(
            clip.id(),
            way,
            clip.take().number(),
            clip.take().nextLayer(),
            from,
            since,
            loop.lineFrom(since),
            Ticks.OPEN,
            range,
            edge(free, way, since),
            OptionalLong.empty(),
            false,
            since,
            List.of(),
            OptionalLong.empty(),
            List.of());
    Stage on =
        free.mapOn(
            part,
            p ->
                p.withRecording(since > tick ? recording.toCome(moment.stamp()) : recording)
                    .withVamp(
                        way == Way.REPLACE
                            ? vamp
                            : Breathers.from(free, part, loop, recording.line())));
    double early = map.microsOf(from) - EARLIEST;
    return TakingOut.passTo(
        NoteTaking.takeFromHindsight(on, part, early, moment), moment.over(map));
  }

  /** Notes that are moved to a line come no earlier than this before it, in microseconds. */
  private static final double EARLIEST = 1e6;

  /** A first recording that was closed: what belongs to it still finds its place in it. */
  static LoopRecording after(
      Stage stage, PartId part, FirstRecording first, Clip clip, boolean closesForGood) {
    AfterClosing then = closesForGood ? AfterClosing.VAMP : first.then();
    Way way = then == AfterClosing.TAKES ? Way.TAKES : Way.ADD;
    long since = first.until() + Breathers.ticks(stage, part, clip.window().length());
    Lap lap = new Lap(first.start(), clip.take().number(), 1, true, List.of());
    return new LoopRecording(
        clip.id(),
        way,
        clip.take().number(),
        clip.take().nextLayer(),
        first.start(),
        since,
        since,
        then == AfterClosing.VAMP ? first.until() : Ticks.OPEN,
        Optional.empty(),
        0,
        OptionalLong.of(first.until()),
        then == AfterClosing.TAKES,
        since,
        List.of(lap),
        OptionalLong.empty(),
        List.of());
  }

  /** The tick at which a recording begins that has a run-up; one gone by no longer counts. */
  private static OptionalLong runUp(Stage stage, Clip clip, Loop loop, long tick) {
    Optional<RunUp> runUp = stage.show().recording().runUp();
    if (runUp.isEmpty()) {
      return OptionalLong.empty();
    }
    long ticks = runUp.get().ticks(stage.show().meter());
    TempoMap map = stage.map().orElseThrow();
    long forgiven =
        Math.max(loop.vamp().from(), tick - map.ticksBefore(tick, forgiveness(stage).micros()));
    if (runUp.get().of() == RunUp.Of.TRANSPORT) {
      return ticks >= forgiven ? OptionalLong.of(ticks) : OptionalLong.empty();
    }
    LoopWindow window = loop.window();
    Refusal.unless(
        ticks < window.length(),
        "Clip %s has no bar %s: let recording begin at another.",
        clip.letter(),
        runUp.get().bar());
    return OptionalLong.of(loop.tickOf(window.start() + ticks, forgiven));
  }

  /** What lies as it was played goes by its onset against the lines less the early tolerance. */
  private static long edge(Stage stage, Way way, long since) {
    return way.takesOut()
        ? EarlyNotes.toleranceOnto(
            InputGrid.OFF, since, stage.show().meter(), stage.map().orElseThrow())
        : 0;
  }

  private static Forgiveness forgiveness(Stage stage) {
    return stage.show().recording().forgiveness();
  }

  /**
   * The bar line of the loop just gone by, if a press counts for it: its own line, or one a whole
   * number of bars from it.
   */
  private static OptionalLong forgivenBar(Stage stage, Loop loop, long tick, long stamp) {
    long bar = Math.min(stage.show().meter().barTicks(), loop.length());
    long own = loop.lineBy(tick);
    long line = own + Math.floorDiv(tick - own, bar) * bar;
    boolean counts =
        line >= loop.vamp().from()
            && (line == tick
                || forgiveness(stage).covers(line, stamp, bar, stage.map().orElseThrow()));
    return counts ? OptionalLong.of(line) : OptionalLong.empty();
  }

  /**
   * Whether the armed part was recorded in a way, or takes are to come there.
   *
   * @param stamp the instant, in microseconds
   */
  public static boolean isOn(Stage stage, Way way, long stamp) {
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

  /**
   * The tick at which a recording ends that is switched off now: the loop's line just gone by, if
   * the press is forgiven; in replace and punch also another bar line, if nothing was played since.
   */
  public static long offTick(Stage stage, PartId part, Moment moment) {
    long tick = Sounding.tick(stage, moment);
    Optional<Onto> on = Onto.of(stage, part);
    Optional<Loop> loop = on.flatMap(o -> o.loopAt(tick));
    if (loop.isEmpty()) {
      return tick;
    }
    LoopRecording recording = on.get().recording();
    OptionalLong line = forgivenBar(stage, loop.get(), tick, moment.stamp());
    if (line.isEmpty() || line.getAsLong() <= recording.since()) {
      return tick;
    }
    boolean own = line.getAsLong() == loop.get().lineBy(tick);
    boolean untouched =
        recording.way().takesOut()
            && recording.laps().stream()
                .flatMap(lap -> lap.brought().stream())
                .noneMatch(b -> b.isPlayed() && b.tick() >= line.getAsLong());
    return own || untouched ? line.getAsLong() : tick;
  }

  /** Switches a way of recording off, wherever it is on; one that is off already stays so. */
  public static Stage off(Stage stage, Way way, Moment moment) {
    Stage next = stage;
    for (PartId part : Together.of(stage)) {
      long tick = stage.map().map(moment::tick).orElse(0L);
      boolean on =
          next.on(part)
              .recording()
              .filter(r -> r.wasOn(way, tick) && (r.isOpen() || way.takesOut()))
              .isPresent();
      next = on ? Endings.end(next, part, offTick(next, part, moment)) : next;
    }
    return next;
  }
}
