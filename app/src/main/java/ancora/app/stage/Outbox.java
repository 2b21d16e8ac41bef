package ancora.app.stage;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;

/**
 * What is on its way to one page: a queue of its own, and a thread of its own that sends. Nobody
 * waits for a page. One that does not read is closed, with a reason, and comes back for a fresh
 * welcome.
 */
final class Outbox implements AutoCloseable {

  /** More than this does not wait for a page, in bytes; a message that is longer does not count. */
  static final int MOST_BYTES = 1 << 20;

  /** A message that cannot be sent within this ends the connection, in nanoseconds. */
  static final long LONGEST_WAIT = TimeUnit.SECONDS.toNanos(2);

  /** A long message may take longer: a second for each so many bytes. */
  private static final int BYTES_A_SECOND = 128 * 1024;

  private static final String SLOW = "This page did not read for too long: it is told all anew.";

  /** The way to the page. */
  interface Line {

    /** Sends a message, and waits until it has been taken. */
    void transmit(String text) throws IOException;

    /** Ends the connection; may be called while {@link #transmit} waits. */
    void end(String why);
  }

  private record Waiting(String text, long since) {}

  private final Line line;
  private final LongSupplier nanos;
  private final Thread sender;
  private final ArrayDeque<Waiting> queue = new ArrayDeque<>();
  private int bytes;
  private boolean closed;
  private Waiting underWay;

  /**
   * An outbox, which begins to send.
   *
   * @param nanos the present instant, in nanoseconds from anywhere
   */
  Outbox(String name, Line line, LongSupplier nanos) {
    this.line = line;
    this.nanos = nanos;
    this.sender = new Thread(this::send, "to " + name);
    sender.setDaemon(true);
    sender.start();
  }

  /** Puts a message behind the others; never waits. */
  synchronized void add(String text) {
    if (closed) {
      return;
    }
    if (bytes + weight(text) > MOST_BYTES || isStuck()) {
      end(SLOW);
      return;
    }
    queue.add(new Waiting(text, nanos.getAsLong()));
    bytes += weight(text);
    notifyAll();
  }

  /** What a message counts for: all there is, told at once, is no fault of a page. */
  private static int weight(String text) {
    return text.length() > MOST_BYTES ? 0 : text.length();
  }

  /** Whether what is being sent should long have been taken. */
  private boolean isStuck() {
    return underWay != null
        && nanos.getAsLong() - underWay.since
            > LONGEST_WAIT + TimeUnit.SECONDS.toNanos(underWay.text.length()) / BYTES_A_SECOND;
  }

  private void end(String why) {
    shut();
    Thread ending = new Thread(() -> line.end(why), sender.getName() + ", ending");
    ending.setDaemon(true);
    ending.start();
  }

  private void shut() {
    closed = true;
    queue.clear();
    bytes = 0;
    notifyAll();
    sender.interrupt();
  }

  /** Sends no more. */
  @Override
  public synchronized void close() {
    shut();
  }

  private void send() {
    try {
      for (Waiting next = next(); next != null; next = next()) {
        line.transmit(next.text);
        taken();
      }
    } catch (IOException | RuntimeException | InterruptedException gone) {
      close();
    }
  }

  private synchronized Waiting next() throws InterruptedException {
    while (queue.isEmpty() && !closed) {
      wait();
    }
    if (closed) {
      return null;
    }
    Waiting next = queue.remove();
    bytes -= weight(next.text);
    underWay = new Waiting(next.text, nanos.getAsLong());
    return next;
  }

  private synchronized void taken() {
    underWay = null;
  }
}
