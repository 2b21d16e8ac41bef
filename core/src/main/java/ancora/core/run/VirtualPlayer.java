package ancora.core.run;

import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.NoteRepeat;
import ancora.core.plan.Plan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.plan.Tolerances;
import ancora.core.run.Sounded.Kind;
import ancora.core.run.Voices.Hold;
import ancora.core.show.PartId;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Consumer;

/**
 * Plays plans in virtual time: says what sounds when, by the same rules as the player in the page's
 * audio thread, which has no say in them. Ticks are done once and in order.
 */
public final class VirtualPlayer {

  private static final int DOWNBEAT_VELOCITY = 120;
  private static final int BEAT_VELOCITY = 92;

  private final Consumer<Sounded> out;
  private final Voices voices;
  private final SoundingControllers controllers;
  private final RepeatedKeys repeated = new RepeatedKeys();
  private final List<LateEntry> late = new ArrayList<>();
  private final Set<String> left = new HashSet<>();
  private Optional<Plan> plan = Optional.empty();
  private OptionalLong done = OptionalLong.empty();

  private record LateEntry(PartPlan part, Span span) {}

  private record Event(long tick, int rank, Runnable happen) {}

  private record UnderWay(PlannedNote note, long tick, long end) {}

  /**
   * A player that tells what sounds.
   *
   * @param out is told each event, in order
   */
  public VirtualPlayer(Consumer<Sounded> out) {
    this.out = out;
    this.voices = new Voices(out);
    this.controllers = new SoundingControllers(out);
  }

  /**
   * Takes a plan. Voices whose note is gone end, those whose end has changed are re-timed, others
   * are not touched.
   *
   * @param next the plan
   * @param now the present instant, in microseconds; all before it has been {@link #advance}d
   */
  public void take(Plan next, long now) {
    Optional<NoteRepeat> repeat = plan.flatMap(Plan::repeat);
    boolean rolled = plan.flatMap(Plan::map).isPresent();
    Set<String> known = new HashSet<>();
    plan.ifPresent(
        before ->
            before.parts().forEach(part -> part.spans().forEach(span -> known.add(span.id()))));
    long ended = tickAt(now);
    plan = Optional.of(next);
    if (next.map().isEmpty()) {
      voices.letGo(ended, now, hold -> true);
      if (rolled) {
        controllers.releaseAll(ended, now);
      }
      repeated.clear();
      done = OptionalLong.empty();
      late.clear();
      left.clear();
      return;
    }
    if (done.isPresent()) {
      if (!repeat.equals(next.repeat())) {
        repeated.follow(next.repeat(), next.meter(), next.map().get().firstTickFrom(now));
      }
      for (PartPlan part : next.parts()) {
        for (Span span : part.spans()) {
          if (!known.contains(span.id()) && span.from() <= done.getAsLong()) {
            late.add(new LateEntry(part, span));
          }
        }
      }
      next.parts()
          .forEach(
              part ->
                  part.spans().stream()
                      .filter(span -> span.until() > done.getAsLong())
                      .forEach(span -> left.remove(span.id())));
      voices.retime(tickAt(now), now, hold -> anew(next, hold).filter(this::isToEnd));
    }
  }

  /** A key of the performer goes down. */
  public void handDown(PartId part, int pitch, int velocity, long micros) {
    voices.handDown(tickAt(micros), micros, part, pitch, velocity);
  }

  /**
   * A key of the performer goes down that is repeated.
   *
   * @param firstLine the first line of the grid that it counts for; one gone by sounds at once
   */
  public void handRepeats(PartId part, int pitch, int velocity, long firstLine) {
    repeated.down(part, pitch, velocity, firstLine);
  }

  /** A key that is repeated is pressed more or less. */
  public void handPresses(PartId part, int pitch, int velocity) {
    repeated.pressure(part, pitch, velocity);
  }

  /** The performer moves a controller. */
  public void handMoves(PartId part, Controller controller, int value, long micros) {
    controllers.move(tickAt(micros), micros, part, controller, value);
  }

  /** A key of the performer comes up. */
  public void handUp(PartId part, int pitch, long micros) {
    repeated.up(part, pitch);
    voices.handUp(tickAt(micros), micros, part, pitch);
  }

  /** Everything ends; what is due later sounds again. */
  public void panic(long micros) {
    voices.endAll(tickAt(micros), micros);
    controllers.releaseAll(tickAt(micros), micros);
    repeated.clear();
  }

  /**
   * Plays on to an instant, which is not included.
   *
   * @param untilMicros in microseconds of server time
   */
  public void advance(long untilMicros) {
    Optional<TempoMap> map = plan.flatMap(Plan::map);
    if (map.isEmpty()) {
      return;
    }
    if (done.isEmpty()) {
      done = OptionalLong.of(plan.get().firstTick() - 1);
    }
    leaveLate(map.get());
    late.forEach(entry -> enterLate(entry, map.get()));
    late.clear();
    long last = lastTickBefore(untilMicros, map.get());
    if (last <= done.getAsLong()) {
      return;
    }
    for (Event event : events(done.getAsLong(), last, map.get())) {
      endUpTo(event.tick(), map.get());
      event.happen().run();
    }
    endUpTo(last, map.get());
    done = OptionalLong.of(last);
  }

  private List<Event> events(long after, long last, TempoMap map) {
    List<Event> events = new ArrayList<>();
    for (PartPlan part : plan.orElseThrow().parts()) {
      for (Span span : part.spans()) {
        if (span.from() > after && span.from() <= last) {
          events.add(new Event(span.from(), 1, () -> enterOnTime(part, span, map)));
        }
        if (span.until() > after && span.until() <= last) {
          events.add(new Event(span.until(), 0, () -> leave(part, span, span.until(), map)));
        }
        addMoves(events, part, span, after, last, map);
        for (PlannedNote note : span.notes()) {
          for (long tick : occurrences(span, note, after, last)) {
            events.add(
                new Event(
                    tick,
                    4,
                    () -> loopDown(part, span, note, tick, tick, naturalEnd(note, tick), map)));
          }
        }
      }
    }
    Plan now = plan.orElseThrow();
    for (RepeatedKeys.Stroke stroke : repeated.upTo(last, after + 1, now.repeat(), now.meter())) {
      events.add(
          new Event(stroke.tick(), stroke.velocity() == 0 ? 0 : 3, () -> strike(stroke, map)));
    }
    addClicks(events, after, last, map);
    events.sort(Comparator.comparingLong(Event::tick).thenComparingInt(Event::rank));
    return events;
  }

  private void strike(RepeatedKeys.Stroke stroke, TempoMap map) {
    long micros = micros(stroke.tick(), map);
    if (stroke.velocity() == 0) {
      voices.handUp(stroke.tick(), micros, stroke.part(), stroke.pitch());
    } else {
      voices.handDown(stroke.tick(), micros, stroke.part(), stroke.pitch(), stroke.velocity());
    }
  }

  /** Controllers move where their place comes round; at the line they are where they should be. */
  private void addMoves(
      List<Event> events, PartPlan part, Span span, long after, long last, TempoMap map) {
    if (span.moves().isEmpty()) {
      return;
    }
    for (long tick : occurrences(span, span.window().start(), after, last)) {
      if (tick > span.from()) {
        events.add(
            new Event(
                tick,
                2,
                () ->
                    controllers.settle(
                        tick, micros(tick, map), part.part(), span, span.window().start())));
      }
    }
    for (ControllerMove move : span.moves()) {
      for (long tick : occurrences(span, move.place(), after, last)) {
        if (tick > span.from()) {
          events.add(
              new Event(
                  tick,
                  3,
                  () ->
                      controllers.loopMoves(
                          tick, micros(tick, map), part.part(), move.controller(), move.value())));
        }
      }
    }
  }

  /**
   * Where a clip leaves its notes end, but for what the clip that enters there goes on with: a note
   * of its own, as when its window was moved, or a pitch that is under way in it.
   */
  private void leave(PartPlan part, Span span, long tick, TempoMap map) {
    left.add(span.id());
    Optional<Span> enters =
        part.spans().stream()
            .filter(next -> next.from() == span.until() && next != span)
            .findFirst();
    List<UnderWay> under = enters.map(next -> underWay(next, tick)).orElse(List.of());
    voices.pass(
        tick,
        micros(tick, map),
        span.id(),
        voice -> {
          Hold hold = voice.hold();
          Optional<Span> same =
              enters.filter(
                  next ->
                      span.letRing() && next.notes().stream().anyMatch(n -> n.id() == hold.note()));
          if (same.isPresent()) {
            return Optional.of(new Hold(same.get(), hold.note(), hold.attack(), hold.end()));
          }
          Optional<Hold> goesOn =
              under.stream()
                  .filter(u -> enters.get().underWay() && u.note().pitch() == voice.pitch())
                  .findFirst()
                  .map(u -> new Hold(enters.get(), u.note().id(), u.tick(), u.end()));
          boolean rings = span.letRing() && hold.end() != Ticks.OPEN;
          return goesOn.or(() -> rings ? Optional.of(hold) : Optional.empty());
        });
    if (!span.moves().isEmpty()) {
      controllers.release(tick, micros(tick, map), part.part(), span);
    }
  }

  private void addClicks(List<Event> events, long after, long last, TempoMap map) {
    Plan now = plan.orElseThrow();
    long beat = now.meter().beatTicks();
    for (Plan.ClickSpan span : now.clickSpans()) {
      long from = Math.max(after + 1, span.from());
      long end = Math.min(last, span.until() - 1);
      for (long tick = Ticks.ceil(from, beat); tick <= end; tick += beat) {
        if (now.click().fallsOn(tick, now.meter())) {
          boolean downbeat = Math.floorMod(tick, now.meter().barTicks()) == 0;
          Sounded click =
              new Sounded(
                  tick,
                  micros(tick, map),
                  Sounded.CLICK,
                  Kind.ON,
                  downbeat ? now.click().sound().downbeatKey() : now.click().sound().beatKey(),
                  downbeat ? DOWNBEAT_VELOCITY : BEAT_VELOCITY);
          events.add(new Event(tick, 5, () -> out.accept(click)));
        }
      }
    }
  }

  private void loopDown(
      PartPlan part, Span span, PlannedNote note, long at, long attack, long end, TempoMap map) {
    boolean drone = note.length() == PlannedNote.DRONE;
    Hold hold = new Hold(span, note.id(), attack, end);
    if (drone && voices.isHeldBy(part.part(), note.pitch(), note.id())) {
      // a key that is held goes round: once it is up, its length counts from here
      voices.takeOver(part.part(), note.pitch(), hold);
      return;
    }
    voices.loopDown(
        at,
        micros(at, map),
        part.part(),
        note,
        hold,
        part.sound().drums(),
        tolerances().sameGestureMicros());
  }

  /** Notes under way, counted round the circle, are attacked with the rest of their length. */
  private void enterOnTime(PartPlan part, Span span, TempoMap map) {
    enterMoves(part, span, span.from(), map);
    if (!span.underWay()) {
      return;
    }
    for (UnderWay found : underWay(span, span.from())) {
      enter(part, span, found, span.from(), map);
    }
  }

  /** What is under way is attacked with its rest; a pitch that sounds sounds on to the new end. */
  private void enter(PartPlan part, Span span, UnderWay found, long at, TempoMap map) {
    PlannedNote note = found.note();
    if (voices.isSounding(part.part(), note.pitch())) {
      voices.takeOver(
          part.part(), note.pitch(), new Hold(span, note.id(), found.tick(), found.end()));
    } else {
      loopDown(part, span, note, at, found.tick(), found.end(), map);
    }
  }

  /** An entry whose tick is past by the time it can sound. */
  private void enterLate(LateEntry entry, TempoMap map) {
    PartPlan part = entry.part();
    Span span = entry.span();
    long at = done.orElseThrow() + 1;
    enterMoves(part, span, at, map);
    for (UnderWay found : underWay(span, at)) {
      long begun = Math.max(found.tick(), span.from());
      long rest = found.end() - at;
      boolean soon = map.microsOf(at) - map.microsOf(begun) <= tolerances().entryMicros();
      boolean worthIt =
          found.end() == Ticks.OPEN
              || rest >= tolerances().leastRest() && rest * 2 >= found.end() - begun;
      boolean due = span.underWay() || found.tick() >= span.from();
      if (due && (soon || worthIt) && !wasPlayedByHand(part, found.note(), begun, map)) {
        enter(part, span, found, at, map);
      }
    }
    for (PlannedNote note : span.notes()) {
      long earliest =
          Math.max(span.from(), map.firstTickFrom(map.microsOf(at) - tolerances().entryMicros()));
      for (long tick : occurrences(span, note, earliest - 1, at - 1)) {
        boolean over = note.length() != PlannedNote.DRONE && tick + note.length() <= at;
        if (over && !wasPlayedByHand(part, note, tick, map)) {
          loopDown(part, span, note, at, at, naturalEnd(note, at), map);
        }
      }
    }
  }

  /** Whether the performer's own stroke stands for a note that was due. */
  private boolean wasPlayedByHand(PartPlan part, PlannedNote note, long due, TempoMap map) {
    double since = map.microsOf(due) - tolerances().handBeforeMicros();
    return voices.attackedByHandSince(since, part.part(), note.pitch());
  }

  /** What has left by now, as was heard of only later. */
  private void leaveLate(TempoMap map) {
    long now = done.orElseThrow();
    for (PartPlan part : plan.orElseThrow().parts()) {
      for (Span span : part.spans()) {
        if (span.until() <= now && !left.contains(span.id())) {
          leave(part, span, now + 1, map);
        }
      }
    }
  }

  private void enterMoves(PartPlan part, Span span, long at, TempoMap map) {
    if (!span.moves().isEmpty()) {
      long place = span.window().wrap(span.window().start() + at - span.phase());
      controllers.settle(at, micros(at, map), part.part(), span, place);
    }
  }

  private void endUpTo(long tick, TempoMap map) {
    for (long end : voices.endsUpTo(tick)) {
      voices.letGo(end, micros(end, map), hold -> hold.end() == end);
    }
  }

  /** Whether a hold goes on: one whose end has been moved into the past ends at once. */
  private boolean isToEnd(Hold hold) {
    return hold.end() > done.orElse(Long.MIN_VALUE);
  }

  private Tolerances tolerances() {
    return plan.map(Plan::tolerances).orElse(Tolerances.RULES);
  }

  private static Optional<Hold> anew(Plan plan, Hold hold) {
    return plan.parts().stream()
        .flatMap(part -> part.spans().stream())
        .filter(span -> span.id().equals(hold.span().id()))
        .flatMap(span -> span.notes().stream())
        .filter(note -> note.id() == hold.note())
        .findFirst()
        .map(
            note ->
                new Hold(hold.span(), hold.note(), hold.attack(), naturalEnd(note, hold.attack())));
  }

  private static long naturalEnd(PlannedNote note, long attack) {
    return note.length() == PlannedNote.DRONE ? Ticks.OPEN : attack + note.length();
  }

  private static List<Long> occurrences(Span span, PlannedNote note, long after, long last) {
    return occurrences(span, note.place(), after, last).stream().filter(note::soundsAt).toList();
  }

  private static List<Long> occurrences(Span span, long place, long after, long last) {
    long base = span.phase() + place - span.window().start();
    long end = Math.min(last, span.until() - 1);
    long length = span.window().length();
    List<Long> ticks = new ArrayList<>();
    for (long tick = base + Ticks.ceil(after + 1 - base, length); tick <= end; tick += length) {
      if (tick >= span.from()) {
        ticks.add(tick);
      }
    }
    return ticks;
  }

  private static List<UnderWay> underWay(Span span, long at) {
    List<UnderWay> found = new ArrayList<>();
    for (PlannedNote note : span.notes()) {
      long base = span.phase() + note.place() - span.window().start();
      long tick = base + Ticks.floor(at - 1 - base, span.window().length());
      long end = naturalEnd(note, tick);
      if (end > at && note.soundsAt(tick)) {
        found.add(new UnderWay(note, tick, end));
      }
    }
    found.sort(Comparator.comparingLong(UnderWay::tick));
    return found;
  }

  private long tickAt(long micros) {
    return plan.flatMap(Plan::map).map(map -> map.tickAt(micros)).orElse(0L);
  }

  private static long micros(long tick, TempoMap map) {
    return Ticks.round(map.microsOf(tick));
  }

  private static long lastTickBefore(long micros, TempoMap map) {
    return map.firstTickFrom(micros) - 1;
  }
}
