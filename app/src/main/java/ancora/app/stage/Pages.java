package ancora.app.stage;

import ancora.core.Names;
import ancora.core.rules.Command;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import tools.jackson.databind.node.ObjectNode;

/**
 * Who is there: the pages that have a show open, what each holds down, the devices that are plugged
 * into each, and which of them has the sound.
 */
final class Pages {

  private static final int LONGEST_STEM = 36;

  /** So long the sound is kept for a page whose line was lost, in microseconds. */
  private static final long KEPT_FOR = 30_000_000;

  private final Set<Page> pages = new LinkedHashSet<>();
  private final Map<Page, Set<String>> devices = new HashMap<>();
  private final Map<String, Holding> holding = new HashMap<>();
  private Optional<String> holder = Optional.empty();

  /** Whether the page that has the sound took it by its button. */
  private boolean taken;

  /** Who had the sound when its line was lost, and until when it is kept for it. */
  private Optional<String> lost = Optional.empty();

  private long keptUntil;

  /**
   * Nobody yet.
   *
   * @param now when the show was opened, in microseconds: whoever had the sound before comes back
   *     within a moment
   */
  Pages(long now) {
    keptUntil = now + KEPT_FOR;
  }

  boolean isEmpty() {
    return pages.isEmpty();
  }

  boolean isThere(String client) {
    return pages.stream().anyMatch(page -> page.client().equals(client));
  }

  private boolean isThereAs(String instance) {
    return pages.stream().anyMatch(page -> page.instance().equals(instance));
  }

  /**
   * A page comes in; one that had the sound until its line was lost has it again, unless another
   * has taken it meanwhile. A duplicated tab has the name of the other: what it does must not be
   * taken for that one's, so it gets one of its own.
   *
   * @param isTaken whether a name has been used before
   * @param now the present instant, in microseconds
   */
  void enter(Page page, Predicate<String> isTaken, long now) {
    boolean another =
        pages.stream()
            .anyMatch(
                other ->
                    other.client().equals(page.client())
                        && !other.instance().equals(page.instance()));
    if (another) {
      page.call(freeName(page.client(), isTaken));
    }
    boolean itsOwn = lost.map(page.client()::equals).orElse(true);
    if (page.had() && (holder.isEmpty() || !taken && itsOwn && now <= keptUntil)) {
      give(Optional.of(page.client()));
    }
    pages.add(page);
  }

  private String freeName(String taken, Predicate<String> isTaken) {
    String stem = Names.cut(taken, LONGEST_STEM);
    int number = 2;
    while (isTaken.test(stem + "~" + number) || isThere(stem + "~" + number)) {
      number++;
    }
    return stem + "~" + number;
  }

  /**
   * A page goes, with its devices; if it had the sound, nobody has it, and it is kept for it for a
   * moment where its line was lost.
   *
   * @param clean whether it went of its own accord
   * @param now the present instant, in microseconds
   */
  void leave(Page page, boolean clean, long now) {
    pages.remove(page);
    Set<String> gone = devices.remove(page);
    if (gone != null) {
      tellHolder(Messages.of("unplugged", gone));
    }
    if (!isThere(page.client()) && holder.filter(page.client()::equals).isPresent()) {
      lost = clean ? Optional.empty() : holder;
      keptUntil = clean ? now : now + KEPT_FOR;
      taken = false;
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

  /** Whether a page has the sound: what is played comes from there. */
  boolean hasSound(Page page) {
    return holder.filter(page.client()::equals).isPresent();
  }

  /** A page takes the sound, whoever has it. */
  void take(Page page) {
    taken = true;
    give(Optional.of(page.client()));
  }

  /** A page has the sound, where nobody has it and it is kept for nobody else. */
  void takeIfFree(Page page, long now) {
    boolean keptForAnother =
        now <= keptUntil && lost.filter(l -> !l.equals(page.client())).isPresent();
    if (holder.isEmpty() && !keptForAnother) {
      taken = false;
      give(Optional.of(page.client()));
    }
  }

  /** One page at a time has the sound, and what is played on the machine it is on. */
  private void give(Optional<String> client) {
    holder = client;
    tell(Messages.of("holder", client.orElse("")));
  }

  /** A device is plugged into a page. */
  void plugged(Page page, String device) {
    devices.computeIfAbsent(page, p -> new LinkedHashSet<>()).add(device);
  }

  /** What the hands at a page hold, from one load of it to the next. */
  Holding heldBy(String instance) {
    return holding.computeIfAbsent(instance, i -> new Holding());
  }

  /**
   * What is let go of, as its page has gone and has not come back as it was: one that was reloaded
   * does not know what it held. What is held by others as well stays.
   */
  List<Command> letGo(String instance) {
    Holding held = isThereAs(instance) ? null : holding.remove(instance);
    return held == null ? List.of() : held.releases(holding.values());
  }

  void tellHolder(ObjectNode message) {
    String text = message.toString();
    pages.stream().filter(this::hasSound).forEach(page -> page.send(text));
  }

  /** Tells all: it is written once, for all. */
  void tell(ObjectNode message) {
    String text = message.toString();
    pages.forEach(page -> page.send(text));
  }
}
