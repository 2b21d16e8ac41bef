package ancora.app.stage;

import ancora.core.Refusal;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.node.ObjectNode;

/**
 * The numbers of what one page has sent, and how each was answered. A page numbers without gaps:
 * what comes after one that lacks is not done, and the page is asked for what lacks. Of the stage's
 * thread, but for what is on the disk.
 */
final class Numbers {

  /** So many refusals are remembered, in case that their answers were lost with the line. */
  private static final int MOST_REFUSED = 256;

  private final Map<Long, String> refused =
      new LinkedHashMap<>() {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, String> eldest) {
          return size() > MOST_REFUSED;
        }
      };

  private long accepted;
  private long next;
  private volatile long durable;
  private volatile Optional<Page> page = Optional.empty();

  /**
   * Of a page whose commands up to a number are on the disk.
   *
   * @param onDisk the highest that is; 0 where none is
   */
  Numbers(long onDisk) {
    this.durable = onDisk;
    this.accepted = onDisk;
    this.next = onDisk + 1;
  }

  /** The number that its next command has. */
  long next() {
    return next;
  }

  /**
   * The page is here, and answers go there.
   *
   * @param first all below has been answered, as the page knows
   */
  void comes(Page here, long first) {
    page = Optional.of(here);
    next = Math.max(next, first);
  }

  /**
   * What is answered at once to a number that is not the next: one that was there before is
   * answered as it was then, by what is on the disk alone; after a gap what lacks is asked for.
   */
  Optional<ObjectNode> again(long number) {
    if (number > next) {
      return Optional.of(Messages.of("lacks", next));
    }
    if (number <= durable && !refused.containsKey(number)) {
      return Optional.of(Messages.of("ack", number));
    }
    if (number <= accepted && !refused.containsKey(number)) {
      return Optional.empty();
    }
    String why = refused.getOrDefault(number, "That was refused: do it again.");
    return Optional.of(refusal(number, why));
  }

  /** The highest number that was done. */
  long accepted() {
    return accepted;
  }

  /** Whether all that was done is on the disk. */
  boolean isSettled() {
    return durable == accepted;
  }

  /** Whether a number is the next. */
  boolean isNext(long number) {
    return number == next;
  }

  /** The next command was done; it is answered once it is {@link #written}. */
  void accepted(long number) {
    accepted = number;
    next = number + 1;
  }

  /** The next command was refused, and is answered. */
  ObjectNode refused(long number, String why) {
    refused.put(number, why);
    next = number + 1;
    return refusal(number, why);
  }

  /** A command is on the disk itself: the page is told, wherever it is now. On any thread. */
  void written(long number) {
    durable = Math.max(durable, number);
    page.ifPresent(here -> here.send(Messages.of("ack", number).toString()));
  }

  private static ObjectNode refusal(long number, String why) {
    return Messages.of("refused", number).put("why", new Refusal(why).getMessage());
  }
}
