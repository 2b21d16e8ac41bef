package ancora.app.store;

import jakarta.annotation.PreDestroy;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArraySet;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Writes the journals of all shows, and what else is to be saved, on a thread of its own and in
 * order, so that no engine waits for the disk. Commands that have gathered meanwhile are written in
 * one go, and acknowledged when they are on the disk itself. What the disk does not take is kept,
 * and tried again until it does; meanwhile that is said. Only what would be too much to keep is not
 * taken in.
 */
@Component
public class JournalWriter {

  private static final Logger LOG = LoggerFactory.getLogger(JournalWriter.class);
  private static final int MOST_AT_A_TIME = 200;

  /** More than these do not wait for the disk. */
  static final int MOST_WAITING = 50_000;

  private static final long TRIED_AGAIN_AFTER_MILLIS = 500;

  private static final String LOST = "What was played last is not on the disk: it takes nothing.";
  private static final String UNWRITABLE =
      "That could not be written, and will not be there again.";

  private final BlockingQueue<Entry> queue = new LinkedBlockingQueue<>();
  private final ShowStore store;
  private final Thread thread;
  private final Set<Consumer<Boolean>> listeners = new CopyOnWriteArraySet<>();
  private final AtomicInteger waiting = new AtomicInteger();
  private volatile boolean inTrouble;
  private volatile boolean closing;
  private volatile long closingUntil;

  private sealed interface Entry {}

  private record Line(JournalRow row, Runnable written, Consumer<String> lost) implements Entry {}

  private record Task(Runnable work, Runnable failed) implements Entry {}

  private record End() implements Entry {}

  JournalWriter(ShowStore store) {
    this.store = store;
    this.thread = new Thread(this::write, "journal");
    thread.start();
  }

  /**
   * Writes an accepted command.
   *
   * @param written called when it is on disk
   * @param lost called with a sentence if it could not be written
   */
  public void append(JournalRow row, Runnable written, Consumer<String> lost) {
    waiting.incrementAndGet();
    queue.add(new Line(row, written, lost));
  }

  /** Whether so much waits for the disk that no more is to be taken in. */
  public boolean isFull() {
    return waiting.get() >= MOST_WAITING;
  }

  /** Whether the disk does not take what is to be written. */
  public boolean isInTrouble() {
    return inTrouble;
  }

  /**
   * Tells when the disk takes nothing, and when it does again.
   *
   * @return ends it
   */
  public Runnable onTrouble(Consumer<Boolean> listener) {
    listeners.add(listener);
    return () -> listeners.remove(listener);
  }

  /**
   * Does some other work of the store, after all that was asked for before.
   *
   * @param failed called if it could not be done
   */
  public void then(Runnable work, Runnable failed) {
    queue.add(new Task(work, failed));
  }

  /** Writes what has gathered, and ends. */
  @PreDestroy
  void close() throws InterruptedException {
    closingUntil = System.nanoTime() + TimeUnit.SECONDS.toNanos(8);
    closing = true;
    queue.add(new End());
    thread.join(10_000);
  }

  private void write() {
    List<Entry> batch = new ArrayList<>();
    List<Line> lines = new ArrayList<>();
    boolean open = true;
    while (open) {
      batch.clear();
      try {
        batch.add(queue.take());
      } catch (InterruptedException interrupted) {
        return;
      }
      queue.drainTo(batch, MOST_AT_A_TIME);
      for (Entry entry : batch) {
        if (entry instanceof Line line) {
          lines.add(line);
        } else {
          flush(lines);
        }
        if (entry instanceof Task task) {
          work(task);
        } else if (entry instanceof End) {
          open = false;
        }
      }
      flush(lines);
    }
  }

  /** Writes lines, however long it takes; one that cannot be written at all takes none along. */
  private void flush(List<Line> lines) {
    while (!lines.isEmpty()) {
      try {
        store.append(lines.stream().map(Line::row).toList());
        store.sync();
        lines.forEach(this::done);
        lines.clear();
        tell(false);
      } catch (RuntimeException failure) {
        if (!oneByOne(lines) && !waitForDisk(failure)) {
          lines.forEach(line -> line.lost().accept(LOST));
          lines.clear();
        }
      }
    }
  }

  private void done(Line line) {
    waiting.decrementAndGet();
    line.written().run();
  }

  /** Writes what can be written of a batch; gives whether anything could. */
  private boolean oneByOne(List<Line> lines) {
    int before = lines.size();
    List<Line> failed = new ArrayList<>();
    for (Line line : List.copyOf(lines)) {
      if (!writes(line)) {
        failed.add(line);
        continue;
      }
      lines.remove(line);
      done(line);
      // the disk takes lines now: those before it are at fault themselves, or came too early
      failed.forEach(earlier -> settle(earlier, line, lines));
      failed.clear();
    }
    return lines.size() < before;
  }

  /** Only what cannot be written between two that can is lost. */
  private void settle(Line line, Line good, List<Line> lines) {
    if (writes(line)) {
      lines.remove(line);
      done(line);
    } else if (writes(good)) {
      LOG.error("a line of the journal cannot be written: {}", line.row());
      lines.remove(line);
      waiting.decrementAndGet();
      line.lost().accept(UNWRITABLE);
    }
  }

  private boolean writes(Line line) {
    try {
      store.append(List.of(line.row()));
      store.sync();
      return true;
    } catch (RuntimeException failure) {
      return false;
    }
  }

  /** Waits a moment; gives whether to go on. */
  private boolean waitForDisk(RuntimeException failure) {
    if (!inTrouble) {
      LOG.error("the disk takes nothing: what is to be written is kept", failure);
    }
    tell(true);
    store.reopen();
    try {
      Thread.sleep(closing ? 50 : TRIED_AGAIN_AFTER_MILLIS);
    } catch (InterruptedException interrupted) {
      return false;
    }
    return !closing || System.nanoTime() < closingUntil;
  }

  private void tell(boolean trouble) {
    if (inTrouble != trouble) {
      inTrouble = trouble;
      listeners.forEach(listener -> listener.accept(trouble));
    }
  }

  private void work(Task task) {
    try {
      task.work().run();
      store.sync();
    } catch (RuntimeException failure) {
      LOG.error("a show could not be saved", failure);
      task.failed().run();
    }
  }
}
