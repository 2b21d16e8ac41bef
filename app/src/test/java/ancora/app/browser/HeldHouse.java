package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;

/**
 * All tests share a house whose time goes on only where one says so, and a browser in whose pages
 * nothing goes wrong; each makes a show of its own.
 */
abstract class HeldHouse {

  @TempDir static Path data;
  static House house;
  static Stagehand hand;

  /** Opened by the test, and closed after it. */
  HeldStage stage;

  @BeforeAll
  static void openHouse() {
    house = House.held(data);
    hand = new Stagehand();
  }

  @AfterAll
  static void closeHouse() {
    hand.close();
    house.close();
  }

  @AfterEach
  void closeStage() {
    stage.close();
    assertThat(hand.faults()).isEmpty();
  }
}
