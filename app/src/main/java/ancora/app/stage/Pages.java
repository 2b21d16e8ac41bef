package ancora.app.stage;

import ancora.core.rules.Command;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/**
 * Who is there: the pages that have a show open, what each holds down, the devices that are plugged
 * into each, and which of them has the sound.
 */
final class Pages {

  private static final int LONGEST_STEM = 36;

  private final Set<Page> pages = new LinkedHashSet<>();
  private final Map<Page, Set<String>> devices = new HashMap<>();
  private final Map<String, Holding> holding = new HashMap<>();
  private Optional<String> holder = Optional.empty();

  boolean isEmpty() {
    return pages.isEmpty();
  }

  boolean isThere(String client) {
    return pages.stream().anyMatch(page -> page.client().equals(client));
  }

  /**
   * A page comes in. A duplicated tab has the name of the other: what it does must not be taken for
   * that one's, so it gets one of its own.
   *
   * @param isTaken whether a name has been used before
   */
  void enter(Page page, Predicate<String> isTaken) {
    boolean another =
        pages.stream()
            .anyMatch(
                other ->
                    other.client().equals(page.client())
                        && !other.instance().equals(page.instance()));
    if (another) {
      page.call(freeName(page.client(), isTaken));
    }
    pages.add(page);
  }

  private String freeName(String taken, Predicate<String> isTaken) {
    String stem = taken.substring(0, Math.min(taken.length(), LONGEST_STEM));
    int number = 2;
    while (isTaken.test(stem + "~" + number) || isThere(stem + "~" + number)) {
      number++;
    }
    return stem + "~" + number;
  }

  /** A page goes, with its devices; if it had the sound, nobody has it. */
  void leave(Page page) {
    pages.remove(page);
    Set<String> gone = devices.remove(page);
    if (gone != null) {
      tellHolder(Messages.of("unplugged", gone));
    }
    if (!isThere(page.client()) && holder.filter(page.client()::equals).isPresent()) {
      give(Optional.empty());
    }
  }

  /** All pages are told something for the last time. */
  void sendAway(ObjectNode message) {
    tell(message);
    pages.clear();
  }

  Optional<String> holder() {
    return holder;
  }

  /** One page at a time has the sound, and what is played on the machine it is on. */
  void give(Optional<String> client) {
    holder = client;
    tell(Messages.of("holder", client.orElse("")));
  }

  /** A device is plugged into a page. */
  void plugged(Page page, String device) {
    devices.computeIfAbsent(page, p -> new LinkedHashSet<>()).add(device);
  }

  /** What the hands at a page hold. */
  Holding heldBy(String client) {
    return holding.computeIfAbsent(client, c -> new Holding());
  }

  /** What is let go of, as its page has gone and has not come back. */
  List<Command> letGo(String client) {
    Holding held = isThere(client) ? null : holding.remove(client);
    return held == null ? List.of() : held.releases();
  }

  void tellHolder(ObjectNode message) {
    String text = message.toString();
    pages.stream()
        .filter(page -> holder.filter(page.client()::equals).isPresent())
        .forEach(page -> page.send(text));
  }

  /** Tells all: it is written once, for all. */
  void tell(ObjectNode message) {
    String text = message.toString();
    pages.forEach(page -> page.send(text));
  }
}
