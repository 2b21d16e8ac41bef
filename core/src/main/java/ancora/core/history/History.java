package ancora.core.history;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * The steps of a show, one history for all of it.
 *
 * @param done the latest at the end
 * @param undone the one undone last at the end
 */
public record History(List<Step> done, List<Step> undone) {

  /** Nothing done yet. */
  public static final History EMPTY = new History(List.of(), List.of());

  /** The newest steps that are kept. */
  public static final int MOST = 1000;

  public History {
    done = List.copyOf(done);
    undone = List.copyOf(undone);
  }

  /** The step that was done last. */
  public Optional<Step> last() {
    return done.isEmpty() ? Optional.empty() : Optional.of(done.get(done.size() - 1));
  }

  /** This history without the step that was done last. */
  public History withoutLast() {
    return new History(done.subList(0, done.size() - 1), undone);
  }

  /** This history with one more step, after which nothing can be redone. */
  public History with(Step step) {
    return step.isNothing() ? this : new History(append(done, step), List.of());
  }

  /** This history with a step of a knob, which goes on with the one before if it has not rested. */
  public History withTurn(Step step) {
    Optional<Step> both =
        step.isNothing() ? Optional.empty() : last().flatMap(before -> before.with(step));
    return both.isEmpty()
        ? with(step)
        : new History(append(done.subList(0, done.size() - 1), both.get()), List.of());
  }

  /** This history with its last step as it is now that more has come to it; it ends no redo. */
  public History withMore(Step step) {
    return withoutLast().withLayer(step);
  }

  /** This history with a step of it as it is now that more has come to it. */
  public History replacing(Step step, Step more) {
    return new History(done.stream().map(s -> s == step ? more : s).toList(), undone);
  }

  /** This history with a layer that was recorded; it does not end what can be redone. */
  public History withLayer(Step step) {
    return new History(append(done, step), undone);
  }

  /** This history with a step that comes before another one. */
  public History withBefore(Step step, Step later) {
    List<Step> next = new ArrayList<>(done);
    next.add(Math.max(0, next.lastIndexOf(later)), step);
    return new History(next.subList(Math.max(0, next.size() - MOST), next.size()), undone);
  }

  /** This history with a step of it at the end. */
  public History withLast(Step step) {
    return done.get(done.size() - 1) == step ? this : new History(atTheEnd(done, step), undone);
  }

  /** This history with a step as the one that is redone next. */
  public History withNext(Step step) {
    return new History(done, atTheEnd(undone, step));
  }

  private static List<Step> atTheEnd(List<Step> steps, Step step) {
    List<Step> next = new ArrayList<>(steps);
    next.removeIf(other -> other == step);
    next.add(step);
    return next;
  }

  public History undone(Step redo) {
    return new History(done.subList(0, done.size() - 1), append(undone, redo));
  }

  public History redone(Step undo) {
    return new History(append(done, undo), undone.subList(0, undone.size() - 1));
  }

  /** This history with each change made another, and without steps that are nothing then. */
  public History map(UnaryOperator<Change> change) {
    return new History(mapped(done, change), mapped(undone, change));
  }

  private static List<Step> mapped(List<Step> steps, UnaryOperator<Change> change) {
    return steps.stream().map(step -> step.map(change)).filter(step -> !step.isNothing()).toList();
  }

  /** What sounded when something was done does not come back after a stop. */
  public History afterStop() {
    return new History(
        done.stream().map(Step::withoutEnded).toList(),
        undone.stream().map(Step::withoutEnded).toList());
  }

  private static List<Step> append(List<Step> steps, Step step) {
    List<Step> next = new ArrayList<>(steps.size() + 1);
    next.addAll(steps.subList(Math.max(0, steps.size() - MOST + 1), steps.size()));
    next.add(step);
    return next;
  }
}
