package ancora.core.run;

import ancora.core.Refusal;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/** Bars as ticks, and what edits of them share. */
final class RunBars {

  private static final Comparator<Passage> BY_TIME =
      Comparator.comparingLong(Passage::from).thenComparingInt(Passage::number);

  private RunBars() {}

  static long from(Run run, int bar) {
    long tick = (bar - 1L) * run.meter().barTicks();
    Refusal.unless(
        tick >= run.from() && tick < run.until(),
        "Bar %s is not in this run: it has bars %s to %s.",
        bar,
        run.from() / run.meter().barTicks() + 1,
        Ticks.ceil(run.until(), run.meter().barTicks()) / run.meter().barTicks());
    return tick;
  }

  static long until(Run run, int bar, int bars) {
    Refusal.unless(bars >= 1 && bars <= RunEdit.MOST_BARS, "Choose one bar or more.");
    long until = (bar - 1L + bars) * run.meter().barTicks();
    Refusal.unless(
        until <= Ticks.ceil(run.until(), run.meter().barTicks()),
        "The run ends before that: choose fewer bars.");
    return until;
  }

  static String words(int from, int bars) {
    return bars == 1 ? "bar " + from : "bars " + from + " to " + (from + bars - 1);
  }

  static String bars(int many) {
    return many == 1 ? "1 bar" : many + " bars";
  }

  /** Of one part alone the others stay, and the run becomes no shorter. */
  static Run spliced(Run run, Optional<PartId> part, Splice splice) {
    if (part.isEmpty()) {
      return splice.of(run);
    }
    RunPart changed = splice.of(run.part(part.get()), new Splice.Numbers(run));
    return run.withUntil(Math.max(run.until(), splice.end()))
        .withParts(run.parts().stream().map(p -> p.id().equals(part.get()) ? changed : p).toList());
  }

  static Run passages(Run run, int number, Function<Passage, Optional<Passage>> change) {
    UnaryOperator<RunPart> changed =
        part -> {
          List<Passage> passages = new ArrayList<>();
          for (Passage passage : part.passages()) {
            Optional<Passage> next =
                passage.number() == number ? change.apply(passage) : Optional.of(passage);
            next.ifPresent(passages::add);
          }
          passages.sort(BY_TIME);
          return passages.equals(part.passages()) ? part : part.withPassages(passages);
        };
    return run.withParts(run.parts().stream().map(changed).toList());
  }
}
