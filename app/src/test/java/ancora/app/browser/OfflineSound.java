package ancora.app.browser;

import ancora.app.House;
import com.microsoft.playwright.Page;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;

/**
 * What sounds, rendered faster than real time in the browser: every sample can be looked at,
 * whatever else the machine is doing. Its pages are of a house without shows, and may load scripts
 * of the test's own.
 */
abstract class OfflineSound {

  @TempDir static Path data;
  static Page page;
  private static House house;
  private static Stagehand hand;

  @BeforeAll
  static void open() {
    house = House.open(data);
    hand = new Stagehand();
    page = hand.page(house, "/", true);
  }

  @AfterAll
  static void close() {
    hand.close();
    house.close();
  }

  /** The numbers that a script gives. */
  static double[] numbers(String script, Object of) {
    List<?> found = (List<?>) page.evaluate(script, of);
    return found.stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray();
  }

  static double[] numbers(String script) {
    return numbers(script, null);
  }
}
