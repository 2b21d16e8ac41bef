package ancora.core.run;

import ancora.core.plan.Plan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
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

  /** An entry that comes no later than this is made up for, in microseconds. */
  private static final double FORGIVEN_ENTRY = 30_000;

  /** A missed note that has less left than this waits a pass, in ticks. */
  private static final long LEAST_REST = 240;

  /** A pitch played by hand this long before an entry is not attacked again, in microseconds. */
  private static final double HAND_BEFORE_ENTRY = 80_000;

  private static final int DOWNBEAT_VELOCITY = 120;
  private static final int BEAT_VELOCITY = 92;

  private final Consumer<Sounded> out;
  private final Voices voices;
  private final List<LateEntry> late = new ArrayList<>();
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
  }

  /**
   * Takes a plan. Voices whose note is gone end, those whose end has changed are re-timed, others
   * are not touched.
   *
   * @param next the plan
   * @param now the present instant, in microseconds; all before it has been {@link #advance}d
   */
  public void take(Plan next, long now) {
    Set<String> known = new HashSet<>();
    plan.ifPresent(
        before ->
            before.parts().forEach(part -> part.spans().forEach(span -> known.add(span.id()))));
    plan = Optional.of(next);
    if (next.map().isEmpty()) {
      voices.letGo(done.orElse(0), now, hold -> true);
      done = OptionalLong.empty();
      late.clear();
      return;
    }
    if (done.isPresent()) {
      for (PartPlan part : next.parts()) {
        for (Span span : part.spans()) {
          if (!known.contains(span.id()) && span.from() <= done.getAsLong()) {
            late.add(new LateEntry(part, span));
          }
        }
      }
      voices.retime(done.getAsLong(), now, hold -> anew(next, hold));
    }
  }

  /** A key of the performer goes down. */
  public void handDown(PartId part, int pitch, int velocity, long micros) {
    voices.handDown(tickAt(micros), micros, part, pitch, velocity);
  }

  /** A key of the performer comes up. */
  public void handUp(PartId part, int pitch, long micros) {
    voices.handUp(tickAt(micros), micros, part, pitch);
  }

  /** Everything ends; what is due later sounds again. */
  public void panic(long micros) {
    voices.endAll(tickAt(micros), micros);
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
          long micros = micros(span.until(), map);
          events.add(
              new Event(
                  span.until(),
                  0,
                  () ->
                      voices.letGo(
                          span.until(), micros, hold -> hold.span().id().equals(span.id()))));
        }
        for (PlannedNote note : span.notes()) {
          for (long tick : occurrences(span, note, after, last)) {
            events.add(
                new Event(
                    tick,
                    2,
                    () -> loopDown(part, span, note, tick, tick, naturalEnd(note, tick), map)));
          }
        }
      }
    }
    addClicks(events, after, last, map);
    events.sort(Comparator.comparingLong(Event::tick).thenComparingInt(Event::rank));
    return events;
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
          events.add(new Event(tick, 3, () -> out.accept(click)));
        }
      }
    }
  }

  private void loopDown(
      PartPlan part, Span span, PlannedNote note, long at, long attack, long end, TempoMap map) {
    boolean drone = note.length() == PlannedNote.DRONE;
    if (drone && voices.isHeldBy(part.part(), note.pitch(), note.id())) {
      return;
    }
    voices.loopDown(
        at,
        micros(at, map),
        part.part(),
        note,
        new Hold(span, note.id(), attack, end),
        part.sound().drums());
  }

  /** Notes under way, counted round the circle, are attacked with the rest of their length. */
  private void enterOnTime(PartPlan part, Span span, TempoMap map) {
    for (UnderWay found : underWay(span, span.from())) {
      if (!voices.isSounding(part.part(), found.note().pitch())) {
        loopDown(part, span, found.note(), span.from(), found.tick(), found.end(), map);
      }
    }
  }

  /** An entry whose tick is past by the time it can sound. */
  private void enterLate(LateEntry entry, TempoMap map) {
    PartPlan part = entry.part();
    Span span = entry.span();
    long at = done.orElseThrow() + 1;
    double handSince = map.microsOf(span.from()) - HAND_BEFORE_ENTRY;
    for (UnderWay found : underWay(span, at)) {
      long begun = Math.max(found.tick(), span.from());
      long rest = found.end() - at;
      boolean soon = map.microsOf(at) - map.microsOf(begun) <= FORGIVEN_ENTRY;
      boolean worthIt = rest >= LEAST_REST && rest * 2 >= found.end() - begun;
      if ((soon || worthIt)
          && !voices.attackedByHandSince(handSince, part.part(), found.note().pitch())) {
        loopDown(part, span, found.note(), at, found.tick(), found.end(), map);
      }
    }
    for (PlannedNote note : span.notes()) {
      long earliest = Math.max(span.from(), map.firstTickFrom(map.microsOf(at) - FORGIVEN_ENTRY));
      for (long tick : occurrences(span, note, earliest - 1, at - 1)) {
        boolean over = note.length() != PlannedNote.DRONE && tick + note.length() <= at;
        if (over && !voices.attackedByHandSince(handSince, part.part(), note.pitch())) {
          loopDown(part, span, note, at, at, naturalEnd(note, at), map);
        }
      }
    }
  }

  private void endUpTo(long tick, TempoMap map) {
    for (long end : voices.endsUpTo(tick)) {
      voices.letGo(end, micros(end, map), hold -> hold.end() == end);
    }
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
    long base = span.phase() + note.place() - span.window().start();
    long end = Math.min(last, span.until() - 1);
    long length = span.window().length();
    List<Long> ticks = new ArrayList<>();
    for (long tick = base + Ticks.ceil(after + 1 - base, length); tick <= end; tick += length) {
      if (tick >= span.from() && tick > note.after()) {
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
      if (end > at && tick > note.after()) {
        found.add(new UnderWay(note, tick, end));
      }
    }
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
