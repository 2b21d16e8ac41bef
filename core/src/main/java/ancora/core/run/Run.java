package ancora.core.run;

import ancora.core.Refusal;
import ancora.core.show.PartId;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.List;

/**
 * A kept performance, from start to stop: what sounded when, resolved to notes, so that it depends
 * on nothing that the show has become since. Bar 1 begins at tick 0; what was counted in lies
 * before.
 *
 * @param map which of its ticks is heard when, in microseconds from tick 0
 * @param meter its meter
 * @param from its first tick, a bar line
 * @param until the first tick after it
 * @param parts what each part did, in the order of the staves
 * @param sections the sections that were entered, by rising tick
 */
@RecordBuilder
public record Run(
    TempoMap map,
    Meter meter,
    long from,
    long until,
    List<RunPart> parts,
    List<From.OfSection> sections)
    implements RunBuilder.With {

  /** Shorter than so many bars, with nothing played, it is not kept. */
  public static final int LEAST_BARS = 2;

  public Run {
    parts = List.copyOf(parts);
    sections = List.copyOf(sections);
    if (until < from || Math.floorMod(from, meter.barTicks()) != 0) {
      throw new IllegalArgumentException("a run from " + from + " to " + until);
    }
  }

  /** This run, without parts of which nothing was heard. */
  public Run withoutSilentParts() {
    return withParts(parts.stream().filter(part -> !part.isSilent()).toList());
  }

  /** Whether it is worth keeping: two bars long, or played in. */
  public boolean isWorthKeeping() {
    return until >= LEAST_BARS * meter.barTicks()
        || parts.stream().anyMatch(part -> !part.hands().isEmpty());
  }

  /** How many bars it has; the last may be begun only. */
  public int bars() {
    return (int) ((Ticks.ceil(until, meter.barTicks()) - from) / meter.barTicks());
  }

  /** How long it lasts, in microseconds. */
  public double micros() {
    return map.microsOf(until) - map.microsOf(from);
  }

  /** The part with an id; refuses one that is not in it. */
  public RunPart part(PartId id) {
    return parts.stream()
        .filter(part -> part.id().equals(id))
        .findFirst()
        .orElseThrow(() -> new Refusal("That part is not in this run."));
  }

  /** The passage with a number; refuses one that is not there. */
  public Passage passage(int number) {
    return parts.stream()
        .flatMap(part -> part.passages().stream())
        .filter(passage -> passage.number() == number)
        .findFirst()
        .orElseThrow(() -> new Refusal("That passage is not in this run any more."));
  }

  /**
   * What a part sounded in some bars, counted from their first tick.
   *
   * @param fromBar the first bar; bar 1 begins at tick 0
   * @param bars how many
   */
  public RunPart stretch(PartId part, int fromBar, int bars) {
    Splice splice =
        new Splice(0).with(RunBars.from(this, fromBar), RunBars.until(this, fromBar, bars));
    return splice.of(part(part), new Splice.Numbers(this));
  }

  /** This run, which was broken off where another begins that is in the same ticks. */
  public Run followedBy(Run after) {
    return new Joining(this, after).joined().withoutSilentParts();
  }
}
