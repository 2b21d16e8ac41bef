package ancora.core.show;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ancora.core.Refusal;
import ancora.core.time.Meter;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ClickTest {

  /** 40 log(v/120) dB, as General MIDI 2 has a velocity be heard (from memory). */
  @ParameterizedTest
  @CsvSource({"4.6", "0", "12", "3.3"})
  void whatIsLessOfABeatIsSofterByTheAccent(double accent) {
    List<Integer> velocities = Click.DEFAULT.withAccent(accent).velocities();
    for (int softer = 0; softer < 3; softer++) {
      double decibels = 40 * Math.log10(velocities.get(softer) / 120.0);
      assertThat(decibels).isCloseTo(-softer * accent, within(0.35));
    }
  }

  @ParameterizedTest
  @CsvSource({"4, 4, 1, 960", "4, 4, 3, 320", "6, 8, 2, 240", "7, 8, 4, 120"})
  void aBeatIsDivided(int beats, int unit, int divided, long ticks) {
    Click click = Click.DEFAULT.withDivided(divided);
    assertThat(click.step(Meter.of(beats, unit))).isEqualTo(ticks);
    assertThat(click.withDotted(true).step(Meter.of(beats, unit)))
        .as("on dotted quarters in 6/8")
        .isEqualTo(unit == 8 && beats == 6 ? 1440 / divided : ticks);
  }

  @Test
  void whatIsOutOfReachIsRefused() {
    assertThatThrownBy(() -> Click.DEFAULT.withDivided(5)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> Click.DEFAULT.withDivided(0)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> Click.DEFAULT.withAccent(12.5)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> Click.DEFAULT.withAccent(Double.NaN)).isInstanceOf(Refusal.class);
  }
}
