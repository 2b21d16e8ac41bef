package ancora.core.player;

import ancora.core.note.Controller;
import ancora.core.note.NoteRepeat;
import ancora.core.plan.Plan;
import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.Span;
import ancora.core.plan.Tolerances;
import ancora.core.player.Voices.Hold;
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

/**
 * Plays plans in virtual time: says what sounds when, by the same rules as the player in the page's
 * audio thread, which has no say in them. Ticks are done once and in order.
 */
public final class VirtualPlayer {

  /** What is tied over a line is so before anything ends there. */
  private static final int TIES = -1;

  private final Ear out;
  private final Voices voices;
  private final SoundingControllers controllers;
  private final Entries entries;
  private final RepeatedKeys repeated = new RepeatedKeys();
  private final List<LateEntry> late = new ArrayList<>();
  private final Set<String> left = new HashSet<>();
  private Optional<Plan> plan = Optional.empty();
  private OptionalLong done = OptionalLong.empty();

  private record LateEntry(PartPlan part, Span span) {}

  /**
   * A player that tells what sounds.
   *
   * @param out is told each event, in order
   */
  public VirtualPlayer(Ear out) {
    this.out = out;
    this.voices = new Voices(out);
    this.controllers = new SoundingControllers(out);
    this.entries = new Entries(voices, controllers);
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
    boolean anew =
        plan.flatMap(Plan::map)
            .filter(map -> next.map().filter(m -> m.isAnewAfter(map)).isPresent())
            .isPresent();
    long ended = tickAt(now);
    plan = Optional.of(next);
    if (anew || next.map().isEmpty()) {
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
      voices.retime(tickAt(now), now, voice -> anew(next, voice).filter(this::isToEnd));
    }
  }

  /**
   * Takes a plan in the midst of it: what is under way in it at an instant sounds from there on.
   *
   * @param next the plan
   * @param now the present instant, in microseconds
   */
  public void resume(Plan next, long now) {
    plan = Optional.of(next);
    next.map()
        .ifPresent(
            map -> {
              long tick = map.tickAt(now);
              done = OptionalLong.of(tick);
              entries.follow(map, next.tolerances());
              next.parts()
                  .forEach(
                      part ->
                          part.spans().stream()
                              .filter(span -> span.from() <= tick && tick < span.until())
                              .forEach(span -> entries.resume(part, span, tick)));
            });
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
    entries.follow(map.get(), plan.get().tolerances());
    leaveLate(map.get());
    late.forEach(entry -> entries.late(entry.part(), entry.span(), done.getAsLong() + 1));
    late.clear();
    long last = lastTickBefore(untilMicros, map.get());
    if (last <= done.getAsLong()) {
      return;
    }
    for (Event event : events(done.getAsLong(), last, map.get())) {
      endUpTo(event.rank() == TIES ? event.tick() - 1 : event.tick(), map.get());
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
          events.add(new Event(span.from(), 1, () -> entries.onTime(part, span)));
        }
        if (span.until() > after && span.until() <= last) {
          events.add(new Event(span.until(), TIES, () -> entries.tie(part, span, span.until())));
          events.add(new Event(span.until(), 0, () -> leave(part, span, span.until())));
        }
        events.addAll(controllers.events(part.part(), span, after, last, map));
        Occurrences.comingRound(
            span,
            after,
            last,
            (note, tick) ->
                events.add(
                    new Event(
                        tick,
                        4,
                        () ->
                            entries.loopDown(
                                part,
                                span,
                                note,
                                tick,
                                tick,
                                Occurrences.naturalEnd(note, tick)))));
      }
    }
    Plan now = plan.orElseThrow();
    for (RepeatedKeys.Stroke stroke : repeated.upTo(last, after + 1, now.repeat(), now.meter())) {
      events.add(
          new Event(stroke.tick(), stroke.velocity() == 0 ? 0 : 3, () -> strike(stroke, map)));
    }
    for (Sounded click : Clicks.in(now, map, after, last)) {
      events.add(new Event(click.tick(), 5, () -> out.hear(click, Optional.empty())));
    }
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

  private void leave(PartPlan part, Span span, long tick) {
    left.add(span.id());
    entries.leave(part, span, tick);
  }

  /** What has left by now, as was heard of only later. */
  private void leaveLate(TempoMap map) {
    long now = done.orElseThrow();
    for (PartPlan part : plan.orElseThrow().parts()) {
      for (Span span : part.spans()) {
        if (span.until() <= now && !left.contains(span.id())) {
          entries.tie(part, span, now + 1);
          leave(part, span, now + 1);
        }
      }
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

  private static Optional<Hold> anew(Plan plan, Voices.PlayedHold voice) {
    Hold hold = voice.hold();
    return plan.parts().stream()
        .flatMap(part -> part.spans().stream())
        .filter(span -> span.id().equals(hold.span().id()))
        .flatMap(span -> span.notes().stream())
        .filter(note -> note.id() == hold.note())
        .findFirst()
        .filter(note -> note.pitch() == voice.pitch() && note.place() == hold.place())
        .map(
            note ->
                new Hold(
                    hold.span(),
                    hold.note(),
                    hold.place(),
                    hold.attack(),
                    Occurrences.naturalEnd(note, hold.attack())));
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
