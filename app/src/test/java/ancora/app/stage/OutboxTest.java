package ancora.app.stage;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Nobody waits for a page that does not read. */
@Timeout(200)
class OutboxTest {

  private final AtomicLong nanos = new AtomicLong();
  private final BlockingQueue<String> sent = new LinkedBlockingQueue<>();
  private final BlockingQueue<String> ended = new LinkedBlockingQueue<>();
  private final CountDownLatch reading = new CountDownLatch(1);

  private Outbox to(boolean reads) {
    return new Outbox(
        "a page",
        new Outbox.Line() {
          @Override
          public void transmit(String text) {
            sent.add(text);
            try {
              if (!reads) {
                reading.await();
              }
            } catch (InterruptedException interrupted) {
              throw new IllegalStateException(interrupted);
            }
          }

          @Override
          public void end(String why) {
            ended.add(why);
          }
        },
        nanos::get);
  }

  @Test
  void messagesGoOutInOrder() throws InterruptedException {
    try (Outbox outbox = to(true)) {
      List.of("one", "two", "three").forEach(outbox::add);
      for (String expected : List.of("one", "two", "three")) {
        assertThat(sent.poll(60, TimeUnit.SECONDS)).isEqualTo(expected);
      }
    }
    assertThat(ended).isEmpty();
  }

  @Test
  void aPageThatDoesNotReadIsSentAwayAfterTwoSeconds() throws InterruptedException {
    try (Outbox outbox = to(false)) {
      outbox.add("one");
      assertThat(sent.poll(60, TimeUnit.SECONDS)).isEqualTo("one");
      nanos.set(Outbox.LONGEST_WAIT - 1);
      outbox.add("two");
      assertThat(ended).isEmpty();
      nanos.set(Outbox.LONGEST_WAIT + TimeUnit.MILLISECONDS.toNanos(1));
      outbox.add("three");
      assertThat(ended.poll(60, TimeUnit.SECONDS)).contains("did not read");
      outbox.add("four");
      assertThat(sent).as("nothing more is tried").isEmpty();
    }
  }

  @Test
  void soIsOneForWhichTooMuchWaits() throws InterruptedException {
    try (Outbox outbox = to(false)) {
      outbox.add("one");
      assertThat(sent.poll(60, TimeUnit.SECONDS)).isEqualTo("one");
      outbox.add("x".repeat(Outbox.MOST_BYTES));
      assertThat(ended).as("one that is long").isEmpty();
      outbox.add("y");
      assertThat(ended.poll(60, TimeUnit.SECONDS)).contains("did not read");
    }
  }
}
