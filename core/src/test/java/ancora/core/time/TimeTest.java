package ancora.core.time;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ancora.core.Refusal;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Rule 0: time. */
class TimeTest {

  @Test
  void aBarOfFourFourHas3840Ticks() {
    assertThat(Meter.COMMON.beatTicks()).isEqualTo(960);
    assertThat(Meter.COMMON.barTicks()).isEqualTo(3840);
    assertThat(Meter.of(7, 8).barTicks()).isEqualTo(3360);
    assertThat(Meter.of(6, 8).barTicks()).isEqualTo(2880);
  }

  @ParameterizedTest
  @CsvSource({"0, 1.1.000", "7680, 3.1.000", "15360, 5.1.000", "-3840, 0.1.000", "959, 1.1.959"})
  void positionsAreCountedFromOne(long tick, String position) {
    assertThat(Position.of(tick, Meter.COMMON)).hasToString(position);
  }

  /** Common practice: a quarter note lasts 60 s / bpm; at 120 a sixteenth is 125 ms. */
  @ParameterizedTest
  @CsvSource({"120, 960, 500000", "120, 240, 125000", "80, 3840, 3000000", "60, 960, 1000000"})
  void noteValuesLastWhatHandbooksSay(double bpm, long ticks, double micros) {
    assertThat(TempoMap.of(0, 0, Tempo.of(bpm)).microsOf(ticks)).isEqualTo(micros, within(1e-6));
  }

  /**
   * Standard MIDI Files 1.0, set tempo event FF 51 03: microseconds per quarter note. Its worked
   * example has 07 A1 20 (hexadecimal) for 120 quarter notes a minute.
   */
  @Test
  void microsecondsAQuarterAgreeWithStandardMidiFiles() {
    assertThat(Ticks.PER_QUARTER * Tempo.of(120).microsPerTick()).isEqualTo(0x07A120, within(1e-6));
  }

  @ParameterizedTest
  @ValueSource(doubles = {19.999, 400.001, 0, -1, Double.NaN, Double.POSITIVE_INFINITY, 1e12})
  void temposOutOfReachAreRefused(double bpm) {
    assertThatThrownBy(() -> Tempo.of(bpm))
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("20 to 400");
  }

  @Test
  void temposKeepThreeDecimals() {
    assertThat(Tempo.of(97.3)).hasToString("97.3 bpm");
    assertThat(Tempo.of(120)).hasToString("120 bpm");
    assertThat(Tempo.of(20.0004).milliBpm()).isEqualTo(20_000);
  }

  @ParameterizedTest
  @CsvSource({"0,4", "33,4", "4,3", "4,0", "4,64", "-1,8"})
  void impossibleMetersAreRefused(int beats, int unit) {
    assertThatThrownBy(() -> Meter.of(beats, unit)).isInstanceOf(Refusal.class);
  }

  @Test
  void aTempoChangeSkipsNoTickAndRepeatsNone() {
    TempoMap before = TempoMap.of(0, 0, Tempo.of(120));
    TempoMap after = before.withTempoFrom(Tempo.of(60), 1_000_300);
    long anchor = after.anchors().get(1).tick();
    assertThat(anchor).isEqualTo(1921);
    assertThat(after.microsOf(anchor)).isEqualTo(before.microsOf(anchor));
    assertThat(after.microsOf(anchor) - after.microsOf(anchor - 1))
        .isEqualTo(Tempo.of(120).microsPerTick(), within(1e-6));
    assertThat(after.microsOf(anchor + 1) - after.microsOf(anchor))
        .isEqualTo(Tempo.of(60).microsPerTick(), within(1e-6));
    assertThat(after.isAnewAfter(before)).isFalse();
    assertThat(TempoMap.of(0, 1_000_300, Tempo.of(60)).isAnewAfter(before)).isTrue();
    long last = Long.MIN_VALUE;
    for (int micros = 0; micros < 2_000_000; micros += 37) {
      long tick = after.tickAt(micros);
      assertThat(tick - last == 0 || tick - last == 1 || last == Long.MIN_VALUE).isTrue();
      last = tick;
    }
  }

  @Test
  void aMapForgetsTheOldestAnchorsOnly() {
    TempoMap map = TempoMap.of(0, 0, Tempo.of(120));
    for (int i = 1; i <= 5000; i++) {
      map = map.withTempoFrom(Tempo.of(100 + i % 50), i * 10_000.0);
    }
    assertThat(map.anchors()).hasSize(TempoMap.MOST_ANCHORS);
    assertThat(map.tickAt(map.microsOf(90_000))).isEqualTo(90_000);
    TempoMap later = map.withTempoFrom(Tempo.of(120), 5000 * 10_000.0 + TempoMap.KEPT_MICROS);
    assertThat(later.anchors()).as("what is long gone").hasSize(TempoMap.MANY_ANCHORS);
    assertThat(later.isAnewAfter(map)).as("the same time goes on").isFalse();
  }

  @Test
  void tapIsTheMedianOfTheLastFourIntervals() {
    Taps taps = Taps.NONE;
    for (long at : List.of(0L, 600_000L, 1_100_000L, 1_600_000L, 2_100_000L, 2_600_000L)) {
      taps = taps.with(at);
    }
    assertThat(taps.tempo(960)).contains(Tempo.of(120));
    assertThat(taps.stamps()).hasSize(5);
  }

  @Test
  void oneTapIsNoTempoAndAPauseStartsAfresh() {
    Taps one = Taps.NONE.with(0);
    assertThat(one.tempo(960)).isEmpty();
    assertThat(one.with(3_500_000).stamps()).hasSize(2);
    assertThat(one.with(3_500_001).stamps()).hasSize(1);
  }

  /** In 6/8 with the click on dotted quarters, a tap each 600 ms is 150 quarter notes a minute. */
  @Test
  void tapsCountTheBeatOfTheClick() {
    assertThat(Taps.NONE.with(0).with(600_000).tempo(1440)).contains(Tempo.of(150));
    assertThat(Taps.NONE.with(0).with(100).tempo(960)).contains(Tempo.of(400));
  }

  @Test
  void roundingIsFloorOfXAndAHalf() {
    assertThat(Ticks.round(2.5)).isEqualTo(3);
    assertThat(Ticks.round(-2.5)).isEqualTo(-2);
    assertThat(Ticks.nearest(5760, 3840)).isEqualTo(7680);
    assertThat(Ticks.nearest(5759, 3840)).isEqualTo(3840);
    assertThat(Ticks.ceil(-1, 960)).isZero();
    assertThat(Ticks.floor(-1, 960)).isEqualTo(-960);
  }

  @Test
  void halfABarOfAnOddMeterIsAWholeBar() {
    assertThat(EntryUnit.HALF_BAR.ticks(Meter.COMMON)).isEqualTo(1920);
    assertThat(EntryUnit.HALF_BAR.ticks(Meter.of(7, 8))).isEqualTo(3360);
    assertThat(EntryUnit.FOUR_BARS.ticks(Meter.of(3, 4))).isEqualTo(11520);
  }
}
