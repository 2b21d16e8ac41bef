package ancora.core.run;

import ancora.core.Refusal;
import java.util.ArrayList;
import java.util.List;

/**
 * A run as it was performed, and what has been done to it since: its own history, apart from that
 * of the show.
 *
 * @param performed the run as it was performed
 * @param done what was done to it, oldest first
 * @param undone what was undone and can be redone, the newest last
 */
public record RunHistory(Run performed, List<RunEdit> done, List<RunEdit> undone) {

  /** A run takes no more edits than this. */
  public static final int MOST = 1000;

  public RunHistory {
    done = List.copyOf(done);
    undone = List.copyOf(undone);
  }

  /** A run that nothing was done to. */
  public static RunHistory of(Run performed) {
    return new RunHistory(performed, List.of(), List.of());
  }

  /** The run as it is now. */
  public Run run() {
    Run run = performed;
    for (RunEdit edit : done) {
      run = edit.of(run);
    }
    return run;
  }

  /** Something is done to it; refuses what cannot be. */
  public RunHistory with(RunEdit edit) {
    Refusal.unless(
        done.size() < MOST, "This run was changed %s times: undo something first.", MOST);
    edit.of(run());
    List<RunEdit> next = new ArrayList<>(done);
    next.add(edit);
    return new RunHistory(performed, next, List.of());
  }

  /** The newest edit is taken back; refuses where there is none. */
  public RunHistory undo() {
    Refusal.unless(!done.isEmpty(), "The run is as it was performed.");
    return new RunHistory(performed, butLast(done), with(undone, last(done)));
  }

  /** What was undone last is done again. */
  public RunHistory redo() {
    Refusal.unless(!undone.isEmpty(), "Nothing was undone.");
    return new RunHistory(performed, with(done, last(undone)), butLast(undone));
  }

  private static RunEdit last(List<RunEdit> edits) {
    return edits.get(edits.size() - 1);
  }

  private static List<RunEdit> butLast(List<RunEdit> edits) {
    return edits.subList(0, edits.size() - 1);
  }

  private static List<RunEdit> with(List<RunEdit> edits, RunEdit edit) {
    List<RunEdit> next = new ArrayList<>(edits);
    next.add(edit);
    return next;
  }
}
