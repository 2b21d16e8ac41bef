package ancora.core.show;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ancora.core.Refusal;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What an outside device is told of a part. */
class PartOutputTest {

  /**
   * General MIDI 2, channel volume: a value v is 40 log10(v / 127) dB (from memory). So 90 is about
   * 6 dB less than 127, and 64 about 12 dB less.
   */
  @ParameterizedTest
  @CsvSource({"0, 127", "-6, 90", "-12, 64", "-24, 32", "6, 127"})
  void volumeFollowsTheLevel(double decibels, int value) {
    int volume = PartOutput.volume(Balance.DEFAULT.withLevel(decibels).gain());
    assertThat(volume).isEqualTo(value);
    assertThat(40 * Math.log10(volume / 127.0)).isCloseTo(Math.min(0, decibels), within(0.2));
  }

  @Test
  void silenceIsNoVolume() {
    assertThat(PartOutput.volume(0)).isZero();
    assertThat(PartOutput.volume(Balance.DEFAULT.withLevel(Balance.SILENCE).gain())).isZero();
  }

  /** MIDI 1.0, control change 10: 0 is hard left, 64 the centre, 127 hard right. */
  @ParameterizedTest
  @CsvSource({"-100, 0", "0, 64", "100, 127", "-50, 32"})
  void panIsToldAsMidiHasIt(int pan, int value) {
    assertThat(PartOutput.pan(pan)).isEqualTo(value);
  }

  @Test
  void whatMidiDoesNotHaveIsRefused() {
    OptionalInt none = OptionalInt.empty();
    assertThatThrownBy(() -> new PartOutput(" ", 0, none, none, true)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new PartOutput("x", 16, none, none, true)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new PartOutput("x", 0, OptionalInt.of(16_384), none, true))
        .isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> new PartOutput("x", 0, none, OptionalInt.of(128), true))
        .isInstanceOf(Refusal.class);
    assertThat(new PartOutput("x", 15, OptionalInt.of(16_383), OptionalInt.of(127), false).alone())
        .isFalse();
  }
}
