package ancora.app.stage;

import java.util.ArrayList;
import java.util.List;

/**
 * A page that keeps what it is told.
 *
 * @param page the page
 * @param told the messages, in order
 */
record Told(Page page, List<String> told) {

  static Told of(String client, String instance, long first) {
    List<String> told = new ArrayList<>();
    return new Told(new Page(client, instance, first, false, told::add, () -> {}), told);
  }

  /** One of which only who it is counts. */
  static Page page(String client, String instance, boolean had) {
    return new Page(client, instance, 1, had, message -> {}, () -> {});
  }
}
