package ancora.app.stage;

import ancora.core.Refusal;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Predicate;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The one thread of an open show: all that is done in it is done here, one after the other. What
 * pages ask for has its {@link Turns}; what is due by the clock comes between two of them.
 */
final class StageThread {

  private static final Logger LOG = LoggerFactory.getLogger(StageThread.class);

  private static final long AWAITED_SECONDS = 10;

  static final String STUMBLED = "That went wrong, and was left out: nothing else is changed.";

  private final ScheduledThreadPoolExecutor thread;
  private final Turns turns;

  /**
   * A thread, which begins at once.
   *
   * @param performs whose messages come before those of other pages; asked on this thread
   */
  StageThread(String name, Predicate<Page> performs) {
    this.turns = new Turns(performs);
    this.thread =
        new ScheduledThreadPoolExecutor(
            1,
            task -> {
              Thread made = new Thread(task, name);
              made.setDaemon(true);
              return made;
            },
            new ThreadPoolExecutor.DiscardPolicy());
  }

  /** Does something once what is due before is done. */
  void run(Runnable task) {
    thread.execute(guarded(task));
  }

  /**
   * Does in its turn what a page asks for.
   *
   * @return whether it will be done: the show may have been closed
   */
  boolean run(Page page, Runnable task) {
    if (thread.isShutdown()) {
      return false;
    }
    if (turns.add(page, answering(page, task))) {
      thread.execute(this::takeTurn);
    }
    return true;
  }

  private void takeTurn() {
    turns.next().ifPresent(Runnable::run);
    if (turns.done()) {
      thread.execute(this::takeTurn);
    }
  }

  /** Whether other turns wait than the one that is being done. */
  boolean isBusy() {
    return turns.size() > 1;
  }

  /** Whether no page waits for anything. */
  boolean isIdle() {
    return turns.size() == 0;
  }

  ScheduledFuture<?> after(long time, TimeUnit unit, Runnable task) {
    return thread.schedule(guarded(task), Math.max(0, time), unit);
  }

  void every(long seconds, Runnable task) {
    thread.scheduleWithFixedDelay(guarded(task), seconds, seconds, TimeUnit.SECONDS);
  }

  /** Does something, and waits until it is done; refuses what it refuses. */
  void await(Runnable task) {
    try {
      thread.submit(task).get(AWAITED_SECONDS, TimeUnit.SECONDS);
    } catch (ExecutionException failure) {
      if (failure.getCause() instanceof Refusal refusal) {
        throw refusal;
      }
      throw new IllegalStateException(failure.getCause());
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(interrupted);
    } catch (TimeoutException slow) {
      throw new IllegalStateException(slow);
    }
  }

  /** Ends: gives the pages whose messages are not done any more. */
  List<Page> end() {
    thread.shutdown();
    return turns.end();
  }

  /** What goes wrong is answered in a sentence. */
  static Runnable answering(Page page, Runnable task) {
    return guarded(
        () -> {
          try {
            task.run();
          } catch (Refusal refusal) {
            page.send(Messages.of("error", refusal.getMessage()).toString());
          } catch (RuntimeException | Error fault) {
            LOG.error("a message was left out", fault);
            page.send(Messages.of("error", STUMBLED).toString());
          }
        });
  }

  /** A fault in one task does not end the thread. */
  private static Runnable guarded(Runnable task) {
    return () -> {
      try {
        task.run();
      } catch (RuntimeException | Error fault) {
        LOG.error("the stage goes on after a fault", fault);
      }
    };
  }
}
