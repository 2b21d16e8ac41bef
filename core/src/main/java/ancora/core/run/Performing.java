package ancora.core.run;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.plan.PassPlan;
import ancora.core.plan.Plan;
import ancora.core.plan.Silencing;
import ancora.core.plan.Span;
import ancora.core.plan.Tolerances;
import ancora.core.player.VirtualPlayer;
import ancora.core.show.Click;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.Optional;

/** Clips sounded in virtual time, by the player that sounds the stage. */
final class Performing {

  private Performing() {}

  /**
   * What parts sound from a tick to another, which is not included; what rings is heard to its end.
   *
   * @param rings the last tick at which anything may ring
   */
  static Transcript of(
      List<Plan.PartPlan> parts, TempoMap map, Meter meter, long from, long rings) {
    Plan plan =
        new Plan(
            Optional.of(map),
            from,
            meter,
            Click.DEFAULT,
            List.of(),
            Optional.empty(),
            Tolerances.RULES,
            parts);
    Transcript transcript = new Transcript();
    VirtualPlayer player = new VirtualPlayer(transcript);
    player.take(plan, (long) Math.floor(map.microsOf(from)) - 1);
    player.advance((long) Math.ceil(map.microsOf(rings)) + 1);
    return transcript.endedAt(rings);
  }

  /** A passage that sounds another clip in place of its own. */
  static Passage passage(Passage before, Clip clip, RunPart part, Run run) {
    Span span =
        span(
            clip,
            before.phase(),
            before.from(),
            before.until(),
            run.meter().beatTicks(),
            clip.manner().underWay(),
            false);
    Plan.PartPlan plan = new Plan.PartPlan(part.id(), part.soundAt(before.from()), List.of(span));
    Transcript heard = of(List.of(plan), run.map(), run.meter(), before.from(), before.until());
    return heard.passage(bare(before.number(), clip, span), part.id(), span.id());
  }

  /** A passage of which nothing has sounded yet. */
  static Passage bare(int number, Clip clip, Span span) {
    return new Passage(
        number,
        clip.id(),
        clip.letter(),
        clip.name(),
        span.window(),
        span.phase(),
        span.from(),
        span.until(),
        List.of(),
        List.of());
  }

  /** The material before the window, that sounds before a clip enters; none without pickup. */
  static Optional<Span> pickup(Clip clip, long entry) {
    long ticks = clip.manner().pickup();
    return Optional.of(ticks)
        .filter(any -> any > 0)
        .map(
            any ->
                new Span(
                    clip.id().value() + "/" + entry + "/pickup",
                    clip.id(),
                    new LoopWindow(clip.window().start() - ticks, ticks),
                    entry - ticks,
                    entry - ticks,
                    entry,
                    false,
                    true,
                    PassPlan.pickup(clip, ticks),
                    List.of()));
  }

  /** Where a clip sounds alone. */
  static Span span(
      Clip clip, long phase, long from, long until, long beat, boolean underWay, boolean rings) {
    PassPlan pass = PassPlan.of(clip, beat, Silencing.NONE);
    return new Span(
        clip.id().value() + "/" + from,
        clip.id(),
        clip.window(),
        phase,
        from,
        until,
        underWay,
        rings,
        pass.notes(),
        pass.moves());
  }
}
