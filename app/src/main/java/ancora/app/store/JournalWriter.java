package ancora.app.store;

import ancora.core.Refusal;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.DependsOn;
import org.springframework.stereotype.Component;

/**
 * Writes the journals of all shows on a thread of its own and in order, so that no engine waits for
 * the disk. Commands that have gathered meanwhile are written in one go, and acknowledged when they
 * are on the disk itself. What the disk does not take is kept, and tried again until it does;
 * meanwhile that is said. Only what would be too much to keep is not taken in. What is to be saved
 * behind it is saved after it has ended.
 */
@Component
@DependsOn("saving")
public class JournalWriter {

  private static final Logger LOG = LoggerFactory.getLogger(JournalWriter.class);
  private static final int MOST_AT_A_TIME = 200;

  /** More than these do not wait for the disk. */
  static final int MOST_WAITING = 50_000;

  /** Of its thread. */
  static final String NAME = "journal";

  private static final long TRIED_AGAIN_AFTER_MILLIS = 500;
  private static final long CLOSED_WITHIN_SECONDS = 8;
  private static final long LONGEST_WAIT_SECONDS = 10;

  private static final String LOST = "What was played last is not on the disk: it takes nothing.";

  private final BlockingQueue<Entry> queue = new LinkedBlockingQueue<>();
  private final Journals journals;
  private final DiskLamp lamp;
  private final long triedAgainAfterMillis;
  private final Thread thread;
  private final AtomicInteger waiting = new AtomicInteger();
  private volatile boolean closing;
  private volatile long closingUntil;

  private sealed interface Entry {}

  private record Line(long show, JournalRow row, Runnable written, Consumer<String> lost)
      implements Entry {}

  private record Then(Runnable what) implements Entry {}

  private record End() implements Entry {}

  @Autowired
  JournalWriter(Journals journals, DiskLamp lamp) {
    this(journals, lamp, TRIED_AGAIN_AFTER_MILLIS);
  }

  /** Where the disk took nothing it is tried again after so many ms. */
  JournalWriter(Journals journals, DiskLamp lamp, long triedAgainAfterMillis) {
    this.journals = journals;
    this.lamp = lamp;
    this.triedAgainAfterMillis = triedAgainAfterMillis;
    this.thread = new Thread(this::write, NAME);
    thread.start();
  }

  /**
   * Writes an accepted command.
   *
   * @param written called when it is on disk
   * @param lost called with a sentence if it could not be written before the house closed
   */
  public void append(long show, JournalRow row, Runnable written, Consumer<String> lost) {
    waiting.incrementAndGet();
    queue.add(new Line(show, row, written, lost));
  }

  /** Whether so much waits for the disk that no more is to be taken in. */
  public boolean isFull() {
    return waiting.get() >= MOST_WAITING;
  }

  /**
   * Waits until all that was asked for before is on the disk; refuses where that takes too long.
   */
  public void await() {
    CompletableFuture<Void> written = new CompletableFuture<>();
    then(() -> written.complete(null));
    try {
      written.get(LONGEST_WAIT_SECONDS, TimeUnit.SECONDS);
    } catch (TimeoutException | ExecutionException full) {
      throw new Refusal("The disk takes nothing: that is done once it does. Free space on it.");
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
    }
  }

  /** Does something short once all that was asked for before is on the disk. */
  public void then(Runnable what) {
    queue.add(new Then(what));
  }

  /** Writes what has gathered, and ends. */
  @PreDestroy
  void close() throws InterruptedException {
    closingUntil = System.nanoTime() + TimeUnit.SECONDS.toNanos(CLOSED_WITHIN_SECONDS);
    closing = true;
    queue.add(new End());
    thread.join(TimeUnit.SECONDS.toMillis(CLOSED_WITHIN_SECONDS + 2));
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
        if (entry instanceof Then then) {
          guarded(then.what());
        } else if (entry instanceof End) {
          open = false;
        }
      }
      flush(lines);
    }
  }

  /**
   * Writes lines, however long it takes; what cannot be written for one show takes no other along.
   */
  private void flush(List<Line> lines) {
    while (!lines.isEmpty()) {
      Map<Long, List<Line>> byShow = new LinkedHashMap<>();
      lines.forEach(line -> byShow.computeIfAbsent(line.show(), s -> new ArrayList<>()).add(line));
      lines.clear();
      Throwable failure = null;
      for (Map.Entry<Long, List<Line>> of : byShow.entrySet()) {
        try {
          journals.append(of.getKey(), of.getValue().stream().map(Line::row).toList());
          of.getValue().forEach(this::done);
        } catch (IOException | RuntimeException | Error failed) {
          failure = failed;
          lines.addAll(of.getValue());
        }
      }
      if (failure == null) {
        lamp.set(thread.getName(), false);
      } else if (!waitForDisk(failure)) {
        lines.forEach(line -> line.lost().accept(LOST));
        lines.clear();
      }
    }
  }

  private void done(Line line) {
    waiting.decrementAndGet();
    guarded(line.written());
  }

  private static void guarded(Runnable what) {
    try {
      what.run();
    } catch (RuntimeException | Error fault) {
      LOG.error("the journal goes on after a fault", fault);
    }
  }

  /** Waits a moment; gives whether to go on. */
  private boolean waitForDisk(Throwable failure) {
    if (!lamp.isLit()) {
      LOG.error("the disk takes nothing: what is to be written is kept", failure);
    }
    lamp.set(thread.getName(), true);
    try {
      Thread.sleep(closing ? 50 : triedAgainAfterMillis);
    } catch (InterruptedException interrupted) {
      return false;
    }
    return !closing || System.nanoTime() < closingUntil;
  }
}
