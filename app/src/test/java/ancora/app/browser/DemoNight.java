package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.app.House;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** Each test has a house with the demo's shows, and a browser in whose pages nothing goes wrong. */
abstract class DemoNight {

  @TempDir Path data;
  House house;
  Stagehand hand;

  @BeforeEach
  void open() {
    house = House.open(data, "--ancora.demo=true");
    hand = new Stagehand();
  }

  @AfterEach
  void close() {
    assertThat(hand.faults()).isEmpty();
    hand.close();
    house.close();
  }
}
