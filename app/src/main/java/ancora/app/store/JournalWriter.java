package ancora.app.store;

import jakarta.annotation.PreDestroy;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Writes the journals of all shows, and what else is to be saved, on a thread of its own and in
 * order, so that no engine waits for the disk. Commands that have gathered meanwhile are written in
 * one go, and acknowledged when they are on disk.
 */
@Component
public class JournalWriter {

  private static final Logger LOG = LoggerFactory.getLogger(JournalWriter.class);
  private static final int MOST_AT_A_TIME = 200;

  private final BlockingQueue<Entry> queue = new LinkedBlockingQueue<>();
  private final ShowStore store;
  private final Thread thread;

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
    queue.add(new Line(row, written, lost));
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

  private void flush(List<Line> lines) {
    if (lines.isEmpty()) {
      return;
    }
    try {
      store.append(lines.stream().map(Line::row).toList());
      lines.forEach(line -> line.written().run());
    } catch (RuntimeException failure) {
      LOG.error("the journal could not be written", failure);
      lines.forEach(
          line -> line.lost().accept("The disk does not take what you play: free space on it."));
    }
    lines.clear();
  }

  private static void work(Task task) {
    try {
      task.work().run();
    } catch (RuntimeException failure) {
      LOG.error("a show could not be saved", failure);
      task.failed().run();
    }
  }
}
