package ancora.core.player;

import ancora.core.plan.Plan.PartPlan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.plan.Tolerances;
import ancora.core.player.Occurrences.UnderWay;
import ancora.core.player.Voices.Hold;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.List;
import java.util.Optional;

/** Clips entering and leaving: which of their notes are attacked, taken up, sound on, or end. */
final class Entries {

  private final Voices voices;
  private final SoundingControllers controllers;
  private TempoMap map;
  private Tolerances tolerances;

  Entries(Voices voices, SoundingControllers controllers) {
    this.voices = voices;
    this.controllers = controllers;
  }

  /** From now on these hold. */
  void follow(TempoMap newMap, Tolerances newTolerances) {
    map = newMap;
    tolerances = newTolerances;
  }

  /**
   * Where a clip leaves its notes end, but for what the clip that enters there goes on with: a note
   * of its own, as when its window was moved, a pitch that is under way in it.
   */
  void leave(PartPlan part, Span span, long tick) {
    Optional<Span> enters = entering(part, span);
    List<UnderWay> under = enters.map(next -> Occurrences.underWay(next, tick)).orElse(List.of());
    voices.pass(
        tick,
        micros(tick),
        span.id(),
        voice -> {
          Hold hold = voice.hold();
          Optional<Span> same =
              enters.filter(
                  next ->
                      span.letRing() && next.notes().stream().anyMatch(n -> n.id() == hold.note()));
          if (same.isPresent()) {
            return Optional.of(
                new Hold(same.get(), hold.note(), hold.place(), hold.attack(), hold.end()));
          }
          Optional<Hold> goesOn =
              under.stream()
                  .filter(u -> enters.get().underWay() && u.note().pitch() == voice.pitch())
                  .findFirst()
                  .map(
                      u ->
                          new Hold(
                              enters.get(), u.note().id(), u.note().place(), u.tick(), u.end()));
          boolean rings = span.letRing() && hold.end() != Ticks.OPEN;
          return goesOn.or(() -> rings ? Optional.of(hold) : Optional.empty());
        });
    if (!span.moves().isEmpty()) {
      controllers.release(tick, micros(tick), part.part(), span);
    }
  }

  /** What is tied over the start of the clip that enters where one leaves sounds on as its note. */
  void tie(PartPlan part, Span span, long tick) {
    Optional<Span> enters = entering(part, span);
    if (enters.isEmpty()) {
      return;
    }
    Span next = enters.get();
    voices.pass(
        tick,
        micros(tick),
        span.id(),
        voice ->
            Occurrences.tied(next, voice.pitch(), tick)
                .map(
                    note ->
                        new Hold(
                            next,
                            note.id(),
                            note.place(),
                            tick,
                            Occurrences.naturalEnd(note, tick)))
                .or(() -> Optional.of(voice.hold())));
  }

  private static Optional<Span> entering(PartPlan part, Span leaves) {
    return part.spans().stream()
        .filter(next -> next.from() == leaves.until() && next != leaves)
        .findFirst();
  }

  void loopDown(PartPlan part, Span span, PlannedNote note, long at, long attack, long end) {
    boolean drone = note.length() == PlannedNote.DRONE;
    Hold hold = new Hold(span, note.id(), note.place(), attack, end);
    if (drone && voices.isHeldBy(part.part(), note.pitch(), note.id())) {
      // a key that is held goes round: once it is up, its length counts from here
      voices.takeOver(part.part(), note.pitch(), hold);
      return;
    }
    voices.loopDown(
        at,
        micros(at),
        part.part(),
        note,
        hold,
        part.sound().drums(),
        tolerances.sameGestureMicros());
  }

  /** Notes under way, counted round the circle, are attacked with the rest of their length. */
  void onTime(PartPlan part, Span span) {
    enterMoves(part, span, span.from());
    if (!span.underWay()) {
      return;
    }
    for (UnderWay found : Occurrences.underWay(span, span.from())) {
      if (!isOver(part, span, found)) {
        enter(part, span, found, span.from());
      }
    }
  }

  /** A stroke of a drum has no length: one that began some time before the entry is over. */
  private boolean isOver(PartPlan part, Span span, UnderWay found) {
    return part.sound().drums() && found.tick() < span.from() - tolerances.strokeTicks();
  }

  /** What has begun by a tick and sounds on sounds from there on, as it is in the clip. */
  void resume(PartPlan part, Span span, long at) {
    enterMoves(part, span, at);
    if (part.sound().drums()) {
      return;
    }
    for (UnderWay found : Occurrences.underWay(span, at + 1)) {
      if (found.tick() >= span.from() || span.underWay()) {
        loopDown(part, span, found.note(), at, found.tick(), found.end());
      }
    }
  }

  /** What is under way is attacked with its rest; a pitch that sounds sounds on to the new end. */
  private void enter(PartPlan part, Span span, UnderWay found, long at) {
    PlannedNote note = found.note();
    if (voices.isSounding(part.part(), note.pitch())) {
      voices.takeOver(
          part.part(),
          note.pitch(),
          new Hold(span, note.id(), note.place(), found.tick(), found.end()));
    } else {
      loopDown(part, span, note, at, found.tick(), found.end());
    }
  }

  /** An entry whose tick is past by the time it can sound. */
  void late(PartPlan part, Span span, long at) {
    enterMoves(part, span, at);
    for (UnderWay found : Occurrences.underWay(span, at)) {
      long begun = Math.max(found.tick(), span.from());
      long rest = found.end() - at;
      boolean soon = map.microsOf(at) - map.microsOf(begun) <= tolerances.entryMicros();
      boolean worthIt =
          found.end() == Ticks.OPEN
              || rest >= tolerances.leastRest() && rest * 2 >= found.end() - begun;
      boolean counts = part.sound().drums() ? soon && !isOver(part, span, found) : soon || worthIt;
      boolean due = span.underWay() || found.tick() >= span.from();
      if (due && counts && !wasPlayedByHand(part, found.note(), begun)) {
        enter(part, span, found, at);
      }
    }
    for (PlannedNote note : span.notes()) {
      long earliest =
          Math.max(span.from(), map.firstTickFrom(map.microsOf(at) - tolerances.entryMicros()));
      for (long tick : Occurrences.of(span, note, earliest - 1, at - 1)) {
        boolean over = note.length() != PlannedNote.DRONE && tick + note.length() <= at;
        if (over && !wasPlayedByHand(part, note, tick)) {
          loopDown(part, span, note, at, at, Occurrences.naturalEnd(note, at));
        }
      }
    }
  }

  /** Whether the performer's own stroke stands for a note that was due. */
  private boolean wasPlayedByHand(PartPlan part, PlannedNote note, long due) {
    double since = map.microsOf(due) - tolerances.handBeforeMicros();
    return voices.attackedByHandSince(since, part.part(), note.pitch());
  }

  private void enterMoves(PartPlan part, Span span, long at) {
    if (!span.moves().isEmpty()) {
      long place = span.window().wrap(span.window().start() + at - span.phase());
      controllers.settle(at, micros(at), part.part(), span, place);
    }
  }

  private long micros(long tick) {
    return Ticks.round(map.microsOf(tick));
  }
}
