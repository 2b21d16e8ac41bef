package ancora.core.run;

import ancora.core.Refusal;
import ancora.core.plan.Plan;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A run being heard, from a bar on, or round between two bars. What is heard is itself a run, put
 * together from stretches of the other, so that what is under way at a seam sounds.
 *
 * @param run what is heard
 * @param stretches of it, in the order in which they are heard
 * @param started the instant at which the first is heard, in microseconds
 * @param round what goes round, once it is reached
 */
public record Hearing(Run run, List<Excerpt> stretches, double started, Optional<Excerpt> round) {

  /** A stretch that goes round is planned so many times ahead, while it is short enough. */
  private static final int LAPS = 64;

  private static final int MOST_BARS_AHEAD = 2048;

  /**
   * An excerpt of the run.
   *
   * @param from the first
   * @param until the first after them
   */
  public record Excerpt(long from, long until) {
    public Excerpt {
      Refusal.unless(until > from, "Choose at least a bar.");
    }

    long length() {
      return until - from;
    }
  }

  public Hearing {
    stretches = List.copyOf(stretches);
  }

  /**
   * A run from a tick on.
   *
   * @param round what goes round, once it is reached; else it ends where the run ends
   * @param started the instant at which it begins to be heard, in microseconds
   */
  public static Hearing of(Run run, long from, Optional<Excerpt> round, double started) {
    Refusal.unless(
        from >= run.from() && from < run.until(), "The run has no such bar: choose another.");
    return new Hearing(
        run,
        order(run, new Excerpt(from, run.until()), round),
        started,
        round.filter(lap -> lap.until() > from));
  }

  private static List<Excerpt> order(Run run, Excerpt first, Optional<Excerpt> round) {
    List<Excerpt> order = new ArrayList<>();
    if (round.isEmpty() || round.get().until() <= first.from()) {
      order.add(first);
      return order;
    }
    Excerpt lap = new Excerpt(round.get().from(), Math.min(run.until(), round.get().until()));
    order.add(new Excerpt(first.from(), lap.until()));
    long bars = Math.max(1, lap.length() / run.meter().barTicks());
    long laps = Math.max(1, Math.min(LAPS, MOST_BARS_AHEAD / bars));
    for (int i = 0; i < laps; i++) {
      order.add(lap);
    }
    return order;
  }

  /** The first tick of what is heard. */
  public long from() {
    return stretches.get(0).from();
  }

  /** The first tick after all that is heard. */
  public long until() {
    return from() + stretches.stream().mapToLong(Excerpt::length).sum();
  }

  /** What is heard, as a run. */
  public Run heard() {
    Splice splice = new Splice(from());
    stretches.forEach(stretch -> splice.with(stretch.from(), stretch.until()));
    return splice.of(run);
  }

  /** The tick of the run that is heard at a tick of what is heard. */
  public long placeAt(long tick) {
    long begins = from();
    for (Excerpt stretch : stretches) {
      if (tick < begins + stretch.length()) {
        return stretch.from() + Math.max(0, tick - begins);
      }
      begins += stretch.length();
    }
    return run.until();
  }

  /**
   * This, with another stretch that goes round, while it goes: what was heard by a tick stays;
   * where the place that is heard lies before the new end it goes on to that, else to where it
   * would have.
   *
   * @param tick the present tick of what is heard
   */
  public Hearing round(Optional<Excerpt> round, long tick) {
    List<Excerpt> order = new ArrayList<>();
    long begins = from();
    for (Excerpt stretch : stretches) {
      if (tick < begins + stretch.length()) {
        long place = stretch.from() + tick - begins;
        long end =
            round
                .map(r -> place < r.until() ? Math.min(run.until(), r.until()) : stretch.until())
                .orElse(run.until());
        order.add(new Excerpt(stretch.from(), Math.max(place + 1, end)));
        round.ifPresent(
            r -> order.addAll(order(run, new Excerpt(r.from(), run.until()), Optional.of(r))));
        return new Hearing(run, order, started, round);
      }
      order.add(stretch);
      begins += stretch.length();
    }
    return this;
  }

  /**
   * The bar that is heard goes round; what goes round already goes on.
   *
   * @param tick the present tick of what is heard
   */
  public Hearing roundHere(long tick) {
    if (round.isPresent()) {
      return round(Optional.empty(), tick);
    }
    long bar = run.meter().barTicks();
    long begins = Math.floorDiv(placeAt(tick), bar) * bar;
    long from = Math.max(run.from(), begins);
    return round(Optional.of(new Excerpt(from, Math.min(run.until(), begins + bar))), tick);
  }

  /** Which tick of what is heard is heard when. */
  public TempoMap map(Run heard) {
    double later = started - heard.map().microsOf(from());
    return new TempoMap(
        heard.map().anchors().stream()
            .map(a -> new TempoMap.Anchor(a.tick(), a.micros() + later, a.tempo()))
            .toList());
  }

  /**
   * The plan of it. The show's other parts are in it, silent, so that hands sound on them; a part
   * that the show has no more sounds after them, as far as there is room.
   */
  public Plan plan(Show show) {
    Run heard = heard();
    Plan plan = RunPlan.of(heard, map(heard));
    Map<PartId, Plan.PartPlan> sounding = new HashMap<>();
    plan.parts().forEach(part -> sounding.put(part.part(), part));
    List<Plan.PartPlan> parts = new ArrayList<>();
    for (Part part : show.parts()) {
      Plan.PartPlan own = sounding.remove(part.id());
      parts.add(own != null ? own : new Plan.PartPlan(part.id(), part.sound(), List.of()));
    }
    plan.parts().stream()
        .filter(part -> sounding.containsKey(part.part()))
        .limit(Show.MOST_PARTS - (long) parts.size())
        .forEach(parts::add);
    return new Plan(
        plan.map(),
        plan.firstTick(),
        plan.meter(),
        show.click(),
        List.of(),
        Optional.empty(),
        plan.tolerances(),
        parts);
  }
}
