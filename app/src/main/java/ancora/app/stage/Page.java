package ancora.app.stage;

import java.util.function.Consumer;

/** A page that has a show open, once it has said hello. */
final class Page {

  private final String instance;
  private final long first;
  private final boolean had;
  private final Consumer<String> line;
  private final Runnable room;
  private volatile String client;

  /**
   * A page.
   *
   * @param client its name, the same after a reload
   * @param instance one load of it: two pages that are there at once are told apart by it
   * @param first all that it sent below this number has been answered, as it knows
   * @param had whether it had the sound until its line was lost, a moment ago
   * @param line takes messages for it, as JSON; it never waits, and passes over a page that is gone
   * @param room is told that a message of it is being dealt with: it may send another
   */
  Page(
      String client,
      String instance,
      long first,
      boolean had,
      Consumer<String> line,
      Runnable room) {
    this.client = client;
    this.instance = instance;
    this.first = first;
    this.had = had;
    this.line = line;
    this.room = room;
  }

  /** Sends a message, as JSON. */
  void send(String message) {
    line.accept(message);
  }

  /** A message that it sent is being dealt with. */
  void answered() {
    room.run();
  }

  String client() {
    return client;
  }

  String instance() {
    return instance;
  }

  long first() {
    return first;
  }

  boolean had() {
    return had;
  }

  /** Another page has that name: this one gets one of its own. */
  void call(String name) {
    client = name;
  }
}
