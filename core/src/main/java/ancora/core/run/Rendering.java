package ancora.core.run;

import ancora.core.Refusal;
import ancora.core.note.Grid;
import ancora.core.plan.Plan;
import ancora.core.show.Master;
import ancora.core.show.Show;
import ancora.core.time.TempoMap;
import java.util.List;
import java.util.Optional;

/**
 * A run as it is rendered to sound files: all instants are counted from its beginning.
 *
 * @param plan what sounds
 * @param parts those that sound anything, in the order of the staves
 * @param stood how the parts stand in the whole, in the order in which they come to
 * @param master what all go through: it is the show's
 * @param micros how long it lasts, in microseconds
 * @param tail what rings is heard for so long after that, in microseconds
 */
public record Rendering(
    Plan plan, List<RunPart> parts, List<Stood> stood, Master master, long micros, long tail) {

  /** A sound dies away within this after its end, in microseconds: common practice. */
  private static final long RELEASE = 3_000_000;

  private static final long LONGEST = 7_200_000_000L;

  /** A run, with the master of its show. Refuses one that is too much for a file. */
  public static Rendering of(Run run, Master master) {
    Refusal.unless(
        run.micros() <= LONGEST, "That lasts more than two hours: trim it, or cut it in two.");
    Run sounding = run.withParts(run.parts().stream().filter(part -> !part.isSilent()).toList());
    Refusal.unless(
        sounding.parts().size() <= Show.MOST_PARTS,
        "More than %s parts sound in that: delete the passages of some.",
        Show.MOST_PARTS);
    TempoMap map = Hearing.of(sounding, run.from(), Optional.empty(), 0).map(sounding);
    double ringsOn = master.ringsOn(map.tempoAt(run.until()), echoTimes(sounding));
    return new Rendering(
        RunPlan.of(sounding, map),
        sounding.parts(),
        Stood.of(sounding, map),
        master,
        Math.round(run.micros()),
        RELEASE + Math.round(ringsOn * 1e6));
  }

  private static List<Grid> echoTimes(Run run) {
    return run.parts().stream()
        .flatMap(part -> part.balances().stream())
        .flatMap(from -> from.balance().echoTime().stream())
        .distinct()
        .toList();
  }
}
