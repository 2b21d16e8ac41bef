package ancora.app.time;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeFalse;

import ancora.app.time.HouseClock.Anchor;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Time never goes back behind what was done, whatever becomes of the wall clock. */
class HouseClockTest {

  private static final long MINUTE = 60_000_000;

  private final HouseClock clock = new HouseClock();
  private final long wall = clock.micros();

  @Test
  void afterARestartWithAWallClockThatWasSetBackTimeGoesOn() {
    clock.goOn(Optional.empty(), wall + MINUTE);
    assertThat(clock.micros()).isGreaterThan(wall + MINUTE).isLessThan(wall + 2 * MINUTE);
  }

  @Test
  void withNothingGoingOnTheWallClockIsBelieved() {
    clock.goOn(Optional.empty(), wall - MINUTE);
    assertThat(clock.micros()).isGreaterThanOrEqualTo(wall).isLessThan(wall + MINUTE / 2);
  }

  /** With the wall clock a minute ahead, or behind, bars stay where they are. */
  @Test
  void soonAfterSomethingWentOnTimeGoesOnAsItWas() {
    Anchor was = clock.anchor();
    assumeFalse(was.boot().isEmpty());
    for (long step : new long[] {-MINUTE, MINUTE}) {
      clock.goOn(Optional.of(new Anchor(was.boot(), was.micros() + step)), wall - 2 * MINUTE);
      assertThat(clock.micros() - wall - step).isBetween(0L, MINUTE / 2);
    }
  }

  @Test
  void whatWasKeptAtAnotherStartOfTheMachineTellsNothing() {
    clock.goOn(Optional.of(new Anchor("another", clock.anchor().micros() + MINUTE)), wall);
    assertThat(clock.micros()).isLessThan(wall + MINUTE / 2);
  }

  @Test
  void longAfterTheWallClockIsBelieved() {
    Anchor was = clock.anchor();
    Anchor slept = new Anchor(was.boot(), was.micros() - 5 * MINUTE);
    clock.goOn(Optional.of(slept), wall - 30 * MINUTE);
    assertThat(clock.micros()).isGreaterThanOrEqualTo(wall);
  }
}
