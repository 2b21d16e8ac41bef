package ancora.app.stage;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;

/**
 * What pages have asked of a stage and is not done yet: whose turn is it? Of one page all is done
 * in order. The page of the performer comes before the others, so that neither many that watch nor
 * a flood from one of them keeps it waiting; the others take turns, and have one after some of its.
 */
final class Turns {

  /** After so many turns of the performer's one of another page comes. */
  static final int OF_PERFORMER = 8;

  private final Predicate<Page> performs;
  private final Map<Page, Deque<Runnable>> waiting = new LinkedHashMap<>();
  private int size;
  private int inARow;

  /**
   * Nothing waits.
   *
   * @param performs whose turns come first
   */
  Turns(Predicate<Page> performs) {
    this.performs = performs;
  }

  /**
   * A page asks for something.
   *
   * @return whether nothing else waits, nor is being done: somebody has to begin
   */
  synchronized boolean add(Page page, Runnable task) {
    waiting.computeIfAbsent(page, p -> new ArrayDeque<>()).add(task);
    return size++ == 0;
  }

  /** How much waits, or is being done. */
  synchronized int size() {
    return size;
  }

  /** What is done next; it counts until it is {@link #done}. */
  synchronized Optional<Runnable> next() {
    Optional<Page> performer = waiting.keySet().stream().filter(performs).findFirst();
    Optional<Page> other =
        waiting.keySet().stream().filter(page -> !performs.test(page)).findFirst();
    boolean othersTurn = performer.isEmpty() || other.isPresent() && inARow >= OF_PERFORMER;
    inARow = othersTurn ? 0 : inARow + 1;
    return (othersTurn ? other : performer).map(this::take);
  }

  private Runnable take(Page page) {
    Deque<Runnable> tasks = waiting.remove(page);
    Runnable task = tasks.remove();
    if (!tasks.isEmpty()) {
      // behind all others
      waiting.put(page, tasks);
    }
    return task;
  }

  /**
   * What was {@link #next} is done.
   *
   * @return whether more waits
   */
  synchronized boolean done() {
    return --size > 0;
  }

  /** Nothing more is done: gives the pages that wait for something. */
  synchronized List<Page> end() {
    List<Page> pages = List.copyOf(waiting.keySet());
    size -= waiting.values().stream().mapToInt(Deque::size).sum();
    waiting.clear();
    return pages;
  }
}
