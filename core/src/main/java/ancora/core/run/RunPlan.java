package ancora.core.run;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.plan.Plan;
import ancora.core.plan.PlannedNote;
import ancora.core.plan.Silence;
import ancora.core.plan.Span;
import ancora.core.plan.Tolerances;
import ancora.core.show.Click;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A run as a plan: the players that sound the stage sound it too. A pass of a loop that went round
 * the same way some times is one span that goes round.
 */
public final class RunPlan {

  private static final ClipId NO_CLIP = new ClipId(0);

  private RunPlan() {}

  /**
   * The whole run.
   *
   * @param map which of its ticks is heard when
   */
  public static Plan of(Run run, TempoMap map) {
    return new Plan(
        Optional.of(map),
        run.from(),
        run.meter(),
        Click.DEFAULT,
        List.of(),
        Optional.empty(),
        Tolerances.RULES,
        run.parts().stream()
            .map(
                part ->
                    new Plan.PartPlan(
                        part.id(), part.soundAt(run.from()), changes(run, part), spans(run, part)))
            .toList());
  }

  private static List<Plan.SoundChange> changes(Run run, RunPart part) {
    return part.sounds().stream()
        .filter(from -> from.tick() > run.from())
        .map(from -> new Plan.SoundChange(from.tick(), from.sound()))
        .toList();
  }

  /** What a part sounds, in the run's ticks. */
  static List<Span> spans(Run run, RunPart part) {
    List<Span> spans = new ArrayList<>();
    long[] id = {1};
    for (Passage passage : part.passages()) {
      for (Round round : Round.fold(passage)) {
        spans.add(span(passage, round, id));
      }
    }
    List<ControllerMove> moves = moves(run, part);
    if (!part.hands().isEmpty() || !moves.isEmpty()) {
      spans.add(hands(run, part, moves, id));
    }
    return spans;
  }

  private static Span span(Passage passage, Round round, long[] id) {
    List<PlannedNote> notes = round.notes().stream().map(note -> planned(note, 0, id)).toList();
    return new Span(
        "passage" + passage.number() + "/" + round.from(),
        passage.clip(),
        new LoopWindow(0, round.length()),
        round.from(),
        round.from(),
        round.from() + round.times() * round.length(),
        false,
        true,
        notes,
        List.of());
  }

  private static Span hands(Run run, RunPart part, List<ControllerMove> moves, long[] id) {
    long length = run.until() - run.from() + 1;
    return new Span(
        "hands",
        NO_CLIP,
        new LoopWindow(0, length),
        run.from(),
        run.from(),
        run.until() + 1,
        false,
        true,
        part.hands().stream().map(note -> planned(note, -run.from(), id)).toList(),
        moves);
  }

  private static PlannedNote planned(RunNote note, long later, long[] id) {
    return new PlannedNote(
        id[0]++,
        note.place() + later,
        note.length(),
        note.pitch(),
        note.velocity(),
        Silence.NONE,
        false);
  }

  /**
   * What all that moved controllers did, in one line: where each stood at the beginning, then its
   * moves.
   */
  private static List<ControllerMove> moves(Run run, RunPart part) {
    List<ControllerMove> moves = new ArrayList<>();
    Set<Controller> known = new HashSet<>();
    for (ControllerMove move : part.allMoves()) {
      Controller controller = move.controller();
      long place = Math.max(0, move.place() - run.from());
      if (known.add(controller) && place > 0) {
        int first = controller.springsBack() ? controller.rest() : move.value();
        moves.add(new ControllerMove(controller, 0, first));
      }
      moves.add(new ControllerMove(controller, place, move.value()));
    }
    moves.sort(Comparator.comparingLong(ControllerMove::place));
    return moves;
  }
}
