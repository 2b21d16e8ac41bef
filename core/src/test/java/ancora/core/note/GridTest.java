package ancora.core.note;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ancora.core.Refusal;
import ancora.core.time.Meter;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 1: grids. */
class GridTest {

  /** Common practice: the arithmetic of note values, a triplet being two thirds of its note. */
  @ParameterizedTest
  @CsvSource({
    "1/4, 960",
    "1/8, 480",
    "1/16, 240",
    "1/32, 120",
    "1/64, 60",
    "1/4T, 640",
    "1/8T, 320",
    "1/16T, 160",
    "1/32T, 80"
  })
  void stepsAreFractionsOfAWholeNote(String name, long step) {
    assertThat(Grid.named(name).step()).isEqualTo(step);
    String[] fraction = name.replace("T", "").split("/");
    long plain = 3840 / Long.parseLong(fraction[1]);
    assertThat(step).isEqualTo(name.endsWith("T") ? plain * 2 / 3 : plain);
  }

  @ParameterizedTest
  @CsvSource({"115, 0", "120, 240", "130, 240", "3800, 3840", "3720, 3840", "-10, 0", "-121, -240"})
  void sixteenths(long played, long meant) {
    assertThat(InputGrid.SIXTEENTHS.meant(played, Meter.COMMON)).isEqualTo(meant);
  }

  @Test
  void aGridStartsAfreshAtEachBarLine() {
    InputGrid quarters = InputGrid.of(Grid.QUARTER);
    assertThat(quarters.meant(3300, Meter.of(7, 8))).isEqualTo(3360);
    assertThat(quarters.meant(3360 + 940, Meter.of(7, 8))).isEqualTo(3360 + 960);
    assertThat(quarters.meant(3110, Meter.of(7, 8))).isEqualTo(2880);
  }

  @Test
  void swingMovesTheSecondLineOfEachPair() {
    InputGrid swung = InputGrid.SIXTEENTHS.withSwing(66.67);
    assertThat(swung.meant(300, Meter.COMMON)).isEqualTo(320);
    assertThat(swung.meant(240, Meter.COMMON)).isEqualTo(320);
    assertThat(swung.meant(480 + 330, Meter.COMMON)).isEqualTo(480 + 320);
    assertThat(InputGrid.of(Grid.EIGHTH).withSwing(75).meant(700, Meter.COMMON)).isEqualTo(720);
  }

  @Test
  void strengthGoesPartOfTheWay() {
    InputGrid half = InputGrid.SIXTEENTHS.withStrength(50);
    assertThat(half.meant(100, Meter.COMMON)).isEqualTo(50);
    assertThat(half.meant(230, Meter.COMMON)).isEqualTo(235);
    assertThat(InputGrid.SIXTEENTHS.withStrength(0).meant(101, Meter.COMMON)).isEqualTo(101);
    assertThat(InputGrid.OFF.meant(101, Meter.COMMON)).isEqualTo(101);
  }

  @Test
  void endsAreMovedOnlyIfSet() {
    assertThat(InputGrid.SIXTEENTHS.length(10, 400, 0, Meter.COMMON)).isEqualTo(390);
    InputGrid ends = InputGrid.SIXTEENTHS.withEndsToo(true);
    assertThat(ends.length(10, 400, 0, Meter.COMMON)).isEqualTo(480);
    assertThat(ends.length(10, 40, 0, Meter.COMMON)).isEqualTo(240);
    assertThat(InputGrid.SIXTEENTHS.length(10, 12, 0, Meter.COMMON)).isEqualTo(15);
  }

  @Test
  void whatIsOutOfReachIsRefused() {
    assertThatThrownBy(() -> Grid.named("1/7")).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> InputGrid.OFF.withSwing(76)).isInstanceOf(Refusal.class);
    assertThatThrownBy(() -> InputGrid.OFF.withStrength(101)).isInstanceOf(Refusal.class);
  }

  @Property
  void atFullStrengthMovingTwiceIsMovingOnce(
      @ForAll Grid grid,
      @ForAll @LongRange(min = -20_000, max = 200_000) long tick,
      @ForAll @DoubleRange(min = 50, max = 75) double swing,
      @ForAll @IntRange(min = 1, max = 15) int beats) {
    Meter meter = Meter.of(beats, 8);
    InputGrid input = InputGrid.of(grid).withSwing(swing);
    long once = input.meant(tick, meter);
    assertThat(input.meant(once, meter)).isEqualTo(once);
    long reach = grid.step() == 0 ? 0 : grid.step() * 2;
    assertThat(Math.abs(once - tick)).isLessThanOrEqualTo(reach);
  }
}
