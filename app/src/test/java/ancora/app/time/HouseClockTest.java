package ancora.app.time;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Time never goes back behind what was done, whatever becomes of the wall clock. */
class HouseClockTest {

  @Test
  void afterARestartWithAWallClockThatWasSetBackTimeGoesOn() {
    HouseClock clock = new HouseClock();
    long wall = clock.micros();
    clock.goOnAfter(wall + 60_000_000);
    assertThat(clock.micros()).isGreaterThan(wall + 60_000_000).isLessThan(wall + 120_000_000);
  }

  @Test
  void aWallClockThatIsAheadIsBelieved() {
    HouseClock clock = new HouseClock();
    long wall = clock.micros();
    clock.goOnAfter(wall - 60_000_000);
    assertThat(clock.micros()).isGreaterThanOrEqualTo(wall);
  }
}
