package ancora.core.run;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.plan.Plan;
import ancora.core.plan.Span;
import ancora.core.plan.Turning;
import ancora.core.show.Leaving;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/** Runs that nobody performed: the form as a piece, a clip by itself. */
public final class LaidOut {

  /** What rings is heard for so many bars after the last bar line. */
  private static final int RINGS = 8;

  private LaidOut() {}

  /**
   * The sections of the form in their order, each for as many bars as it lasts before it goes on;
   * those that wait as long as their longest clip, and before each clip its pickup. Refuses a show
   * without sections.
   */
  public static Run form(Show show) {
    Refusal.unless(!show.form().isEmpty(), "The form has no sections yet: make one first.");
    List<From.OfSection> entered = new ArrayList<>();
    Map<PartId, List<Placed>> standing = new HashMap<>();
    show.parts().forEach(part -> standing.put(part.id(), new ArrayList<>()));
    long tick = 0;
    for (Section section : show.form()) {
      entered.add(new From.OfSection(tick, section.letter(), section.name()));
      for (Part part : show.parts()) {
        enter(section, part, standing.get(part.id()), tick);
      }
      tick += bars(show, section) * show.meter().barTicks();
    }
    return run(show, standing, tick, false, entered);
  }

  /**
   * One pass of a clip from its top, with its pickup before it. What rings over the line is heard
   * to its end; a note that would sound until the clip leaves ends on the line.
   */
  public static Run clip(Show show, PartId part, ClipId clip) {
    Clip alone = show.part(part).clipOf(clip);
    Placed standing = new Placed(alone, 0, alone.window().length());
    return run(show, Map.of(part, List.of(standing)), standing.until(), true, List.of());
  }

  /** A clip that sounds from a tick to another. */
  private record Placed(Clip clip, long from, long until) {}

  private static void enter(Section section, Part part, List<Placed> standing, long tick) {
    Optional<Placed> now =
        Optional.of(standing)
            .filter(s -> !s.isEmpty())
            .map(s -> s.get(s.size() - 1))
            .filter(s -> s.until() == Ticks.OPEN);
    boolean named = section.lineUp().containsKey(part.id());
    if (!named && !section.othersTacet()) {
      return;
    }
    Optional<Clip> next =
        section.lineUp().getOrDefault(part.id(), Optional.empty()).flatMap(part::clip);
    if (now.isPresent() && next.filter(now.get().clip()::equals).isPresent()) {
      return;
    }
    now.ifPresent(s -> standing.set(standing.size() - 1, new Placed(s.clip(), s.from(), tick)));
    next.ifPresent(clip -> standing.add(new Placed(clip, tick, Ticks.OPEN)));
  }

  private static long bars(Show show, Section section) {
    long bar = show.meter().barTicks();
    long longest =
        show.parts().stream()
            .flatMap(
                part ->
                    section
                        .lineUp()
                        .getOrDefault(part.id(), Optional.empty())
                        .flatMap(part::clip)
                        .stream())
            .mapToLong(clip -> clip.window().length())
            .max()
            .orElse(bar);
    return section
        .goesOn()
        .map(Section.GoesOn::bars)
        .orElse((int) (Ticks.ceil(longest, bar) / bar));
  }

  private static Run run(
      Show show,
      Map<PartId, List<Placed>> standing,
      long until,
      boolean alone,
      List<From.OfSection> sections) {
    TempoMap map = TempoMap.of(0, 0, show.tempo());
    List<Plan.PartPlan> plans = new ArrayList<>();
    for (Part part : show.parts()) {
      boolean rings = alone || part.leaving() == Leaving.LET_RING;
      List<Span> spans =
          standing.getOrDefault(part.id(), List.of()).stream()
              .flatMap(
                  s ->
                      Stream.concat(
                          Performing.pickup(s.clip(), s.from()).stream(),
                          Stream.of(span(show, s, until, alone, rings))))
              .toList();
      plans.add(Turning.plan(part, spans));
    }
    long rings = alone ? until + RINGS * show.meter().barTicks() : until;
    long first =
        plans.stream()
            .flatMap(plan -> plan.spans().stream())
            .mapToLong(Span::from)
            .reduce(0, Math::min);
    Transcript heard = Performing.of(plans, map, show.meter(), first, rings);
    long from = heard.begins(show.meter().barTicks());
    List<RunPart> parts = new ArrayList<>();
    int number = 1;
    for (int i = 0; i < plans.size(); i++) {
      Part part = show.parts().get(i);
      List<Passage> passages = new ArrayList<>();
      for (Span span : plans.get(i).spans()) {
        Passage bare = Performing.bare(number++, part.clipOf(span.clip()), span);
        passages.add(heard.passage(bare, part.id(), span.id()));
      }
      if (!passages.isEmpty()) {
        parts.add(part(show, part, sounds(plans.get(i), from), passages, from));
      }
    }
    long end =
        parts.stream()
            .flatMap(part -> part.passages().stream())
            .flatMap(p -> p.notes().stream().map(n -> p.from() + n.end()))
            .reduce(until, Math::max);
    return new Run(map, show.meter(), from, alone ? end : until, parts, sections);
  }

  private static Span span(Show show, Placed standing, long until, boolean alone, boolean rings) {
    return Performing.span(
        standing.clip(),
        standing.from(),
        standing.from(),
        Math.min(until, standing.until()),
        show.meter().beatTicks(),
        !alone && standing.clip().manner().underWay(),
        rings);
  }

  private static List<From.OfSound> sounds(Plan.PartPlan plan, long from) {
    return Stream.concat(
            Stream.of(new From.OfSound(from, plan.sound())),
            plan.changes().stream()
                .map(change -> new From.OfSound(Math.max(from, change.tick()), change.sound())))
        .toList();
  }

  private static RunPart part(
      Show show, Part part, List<From.OfSound> sounds, List<Passage> passages, long from) {
    boolean heard = show.isHeard(part);
    return new RunPart(
        part.id(),
        part.name(),
        part.pennant(),
        sounds,
        List.of(new From.OfBalance(from, part.balance(), heard)),
        passages,
        List.of(),
        List.of());
  }
}
