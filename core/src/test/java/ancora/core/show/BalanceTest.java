package ancora.core.show;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ancora.core.Refusal;
import ancora.core.note.Grid;
import ancora.core.sound.Sound;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** How loud a part is heard. */
class BalanceTest {

  private static Show band() {
    return Show.named("Rehearsal")
        .withNewPart("Kit", Sound.STANDARD_KIT)
        .withNewPart("Bass", Sound.of(33))
        .withNewPart("Bells", Sound.of(14));
  }

  private static double gain(Show show, int part) {
    return show.gainOf(show.parts().get(part));
  }

  private static Show set(Show show, int part, Balance balance) {
    return show.mapPart(show.parts().get(part).id(), p -> p.withBalance(balance));
  }

  /**
   * The decibel of a field quantity is 20·log10 of the ratio (ISO 80000-3, from memory): 6.0206 dB
   * are double, 20 dB ten times; −60 is silence here.
   */
  @ParameterizedTest
  @CsvSource({"0, 1", "-6.0206, 0.5", "6, 1.99526", "-20, 0.1", "-40, 0.01", "-60, 0"})
  void levelsAreDecibels(double level, double factor) {
    assertThat(Balance.DEFAULT.withLevel(level).gain()).isCloseTo(factor, within(1e-5));
  }

  @Test
  void muteSilencesAndSoloSilencesTheOthers() {
    Show muted = set(band(), 0, Balance.DEFAULT.withMuted(true));
    assertThat(gain(muted, 0)).isZero();
    assertThat(gain(muted, 1)).isEqualTo(1);
    Show solo = set(band(), 1, Balance.DEFAULT.withSolo(true));
    assertThat(solo.hasSolo()).isTrue();
    assertThat(gain(solo, 0)).isZero();
    assertThat(gain(solo, 1)).isEqualTo(1);
    Show two = set(solo, 2, Balance.DEFAULT.withSolo(true).withLevel(-20));
    assertThat(gain(two, 1)).isEqualTo(1);
    assertThat(gain(two, 2)).isCloseTo(0.1, within(1e-9));
    Show both = set(solo, 1, Balance.DEFAULT.withSolo(true).withMuted(true));
    assertThat(gain(both, 1)).as("what is muted is not heard, solo or not").isZero();
  }

  @Test
  void aTrimGoesAsFarAsLevelsGo() {
    assertThat(Balance.DEFAULT.withLevel(5).trimmed(3).level()).isEqualTo(6);
    assertThat(Balance.DEFAULT.withLevel(-58).trimmed(-3).level()).isEqualTo(-60);
    assertThat(Balance.DEFAULT.trimmed(-3).level()).isEqualTo(-3);
  }

  @ParameterizedTest
  @ValueSource(doubles = {-60.1, 6.1, Double.NaN, Double.POSITIVE_INFINITY})
  void levelsOutOfReachAreRefused(double level) {
    assertThatThrownBy(() -> Balance.DEFAULT.withLevel(level))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("−60 to +6");
    assertThatThrownBy(() -> new Master(level, Grid.EIGHTH, 35, 4000, 1.8, true))
        .isInstanceOf(Refusal.class);
  }

  @Test
  void sendsPansAndEchoesAreBounded() {
    assertThatThrownBy(() -> Balance.placed(0, 101, 0, 0)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> Balance.placed(0, 0, 101, 0)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> Balance.placed(0, 0, 0, -1)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new Master(0, Grid.OFF, 35, 4000, 1.8, true))
        .isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new Master(0, Grid.EIGHTH, 91, 4000, 1.8, true))
        .as("an echo that never dies away")
        .isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new Master(0, Grid.EIGHTH, 35, 4000, Double.NaN, true))
        .isInstanceOf(Refusal.class);
  }
}
