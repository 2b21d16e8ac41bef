package ancora.app.stage;

/** A page that has a show open. */
interface Page {

  /** Sends a message, as JSON; it never waits, and a page that is gone is passed over. */
  void send(String message);

  /** A message that it sent is being dealt with: it may send another. */
  void answered();

  /** The page's name, the same after a reload. */
  String client();

  /** One load of the page: two pages that are there at once are told apart by it. */
  String instance();

  /** All that it sent below this number has been answered, as it knows. */
  long first();

  /** Whether it had the sound until its line was lost, a moment ago. */
  boolean had();

  /** Another page has that name: this one gets one of its own. */
  void call(String client);
}
