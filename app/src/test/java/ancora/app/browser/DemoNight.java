package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** Each test has a house with the demo's shows, and new pages in which nothing goes wrong. */
abstract class DemoNight {

  static Stagehand hand;

  @TempDir Path data;
  House house;

  @BeforeAll
  static void openBrowser() {
    hand = new Stagehand();
  }

  @AfterAll
  static void closeBrowser() {
    hand.close();
  }

  @BeforeEach
  void open() {
    house = open(data);
  }

  /** The house, in the machine's own time; a test may hold it. */
  House open(Path folder) {
    return House.open(folder, "--ancora.demo=true");
  }

  @AfterEach
  void close() {
    hand.leave();
    house.close();
    assertThat(hand.faults()).isEmpty();
  }
}
