package ancora.app.store;

import jakarta.annotation.PreDestroy;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Brings what journals have said already into the database, on a thread of its own: no
 * acknowledgement waits for it. The database never meets a full disk: where little room is left
 * nothing is written to it, and what is to be saved waits. After a write that failed it is opened
 * anew, and brought up to the journals before anything else is written.
 */
@Component
public class Saving {

  private static final Logger LOG = LoggerFactory.getLogger(Saving.class);

  private static final long LOOKED_AGAIN_AFTER_MILLIS = 500;
  private static final long CLOSED_WITHIN_SECONDS = 8;

  private final ShowStore store;
  private final DiskLamp lamp;
  private final DiskRoom room;
  private final Thread thread;
  private final Map<String, Task> queue = new LinkedHashMap<>();
  private boolean working;

  /** Whether a write has failed since the database was brought up to the journals. */
  private boolean behind;

  private boolean closing;

  private record Task(Runnable work, Runnable failed) {}

  Saving(ShowStore store, DiskLamp lamp, DiskRoom room) {
    this.store = store;
    this.lamp = lamp;
    this.room = room;
    this.thread = new Thread(this::save, "saves");
    thread.start();
  }

  /**
   * Saves something, after all that was asked for before.
   *
   * @param what names it: what waits under the same name already is replaced
   * @param failed called if it could not be done
   */
  public synchronized void then(String what, Runnable work, Runnable failed) {
    queue.remove(what);
    queue.put(what, new Task(work, failed));
    notifyAll();
  }

  /** Whether nothing waits to be saved, nor is being saved. */
  public synchronized boolean isIdle() {
    return !working && queue.isEmpty();
  }

  /** Waits until all is saved that can be; gives whether it was. */
  public synchronized boolean isDone(long millis) {
    long until = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(millis);
    try {
      while ((working || !queue.isEmpty()) && System.nanoTime() < until) {
        wait(20);
      }
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
    }
    return !working && queue.isEmpty();
  }

  /** Saves what waits, if there is room, and ends. */
  @PreDestroy
  void close() throws InterruptedException {
    synchronized (this) {
      closing = true;
      notifyAll();
    }
    thread.join(TimeUnit.SECONDS.toMillis(CLOSED_WITHIN_SECONDS));
  }

  private void save() {
    for (Task task = next(); task != null; task = next()) {
      try {
        if (behind) {
          store.bringUp();
          behind = false;
        }
        task.work().run();
        store.sync();
        lamp.set(thread.getName(), false);
      } catch (RuntimeException | Error failure) {
        LOG.error("something could not be saved: it is in the journal", failure);
        behind = true;
        guarded(store::reopen);
        guarded(task.failed());
      } finally {
        synchronized (this) {
          working = false;
          notifyAll();
        }
      }
    }
  }

  private static void guarded(Runnable what) {
    try {
      what.run();
    } catch (RuntimeException | Error fault) {
      LOG.error("saving goes on after a fault", fault);
    }
  }

  /** What is next, once there is room for it; nothing at the end. */
  private synchronized Task next() {
    try {
      while (queue.isEmpty() && !closing || !queue.isEmpty() && !hasRoom()) {
        if (closing) {
          return null;
        }
        wait(queue.isEmpty() ? 0 : LOOKED_AGAIN_AFTER_MILLIS);
      }
    } catch (InterruptedException interrupted) {
      return null;
    }
    Iterator<Task> first = queue.values().iterator();
    if (!first.hasNext()) {
      return null;
    }
    Task task = first.next();
    first.remove();
    working = true;
    return task;
  }

  private boolean hasRoom() {
    boolean enough = room.isEnough();
    lamp.set(thread.getName(), !enough);
    return enough;
  }
}
