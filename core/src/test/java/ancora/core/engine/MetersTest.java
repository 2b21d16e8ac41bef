package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.RecordingSettings;
import ancora.core.stage.Transport;
import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Rules 3 and 4 in the meters that songs are in. Common practice: a bar has as many quarter notes
 * as the meter's fraction says, 7/8 three and a half; a quarter note has 960 ticks.
 */
class MetersTest {

  private static final RecordingSettings NO_COUNT_IN = RecordingSettings.DEFAULT.withCountInBars(0);

  @ParameterizedTest
  @CsvSource({"4, 4, 3840", "3, 4, 2880", "6, 8, 2880", "7, 8, 3360", "5, 4, 4800"})
  void twoBarsAreRecordedWhateverTheTempoDoes(int beats, int unit, long bar) {
    Performer performer = Performer.at(120, Meter.of(beats, unit)).start().press(1000);
    performer.hit(36, bar);
    performer.doNow(new SettingCommand.SetTempo(Tempo.of(70)), performer.micros(bar + bar / 3));
    performer.hit(38, bar + bar / 2 / 240 * 240);
    performer.doNow(new SettingCommand.SetTempo(Tempo.of(210)), performer.micros(2 * bar - 100));
    performer.hit(42, 2 * bar + 240).press(3 * bar - 50).until(5 * bar + 10);
    assertThat(performer.clip().window().start()).isZero();
    assertThat(performer.loopLength()).isEqualTo(2 * bar);
    assertThat(performer.meant()).containsExactly(0L, bar / 2 / 240 * 240, bar + 240);
    assertThat(performer.firstSounded(36, 3 * bar)).isEqualTo(3 * bar);
    assertThat(performer.firstSounded(42, 3 * bar)).isEqualTo(4 * bar + 240);
  }

  /** 120 ms at 120 are 230 ticks, at 60 they are 115; never over a quarter of the unit. */
  @ParameterizedTest
  @CsvSource({
    "3, 4, 120, 3109, 2880", "3, 4, 120, 3115, 5760",
    "6, 8, 60, 2994, 2880", "6, 8, 60, 2997, 5760",
    "7, 8, 120, 3589, 3360", "7, 8, 120, 3595, 6720",
    "5, 4, 60, 4914, 4800", "5, 4, 60, 4917, 9600"
  })
  void aLatePressIsForgivenInMillisecondsNotInTicks(
      int beats, int unit, double bpm, long press, long start) {
    Performer performer = Performer.at(bpm, Meter.of(beats, unit)).start().press(press);
    assertThat(performer.on().first().orElseThrow().start()).isEqualTo(start);
  }

  /** Half a bar is a unit only where the beats can be halved; a beat is the meter's own. */
  @ParameterizedTest
  @CsvSource({
    "4, 4, HALF_BAR, 1920", "6, 8, HALF_BAR, 1440", "3, 4, HALF_BAR, 2880", "7, 8, HALF_BAR, 3360",
    "3, 4, BEAT, 960", "6, 8, BEAT, 480", "7, 8, BEAT, 480", "5, 4, TWO_BARS, 9600"
  })
  void unitsAreThoseOfTheMeter(int beats, int unit, EntryUnit entry, long ticks) {
    Performer performer =
        Performer.with(
            show ->
                show.withMeter(Meter.of(beats, unit))
                    .withRecording(NO_COUNT_IN.withEntersOn(entry)));
    performer.start().press(250).hit(36, ticks);
    assertThat(performer.on().first().orElseThrow().start()).isEqualTo(ticks);
    long bar = Meter.of(beats, unit).barTicks();
    performer.press(ticks + bar - 20).until(ticks + bar + 20);
    assertThat(performer.clip().window().start()).isEqualTo(ticks % bar);
    assertThat(performer.loopLength()).as("it closes on bars of its own").isEqualTo(bar);
  }

  /** Rule 3: the count-in has as many bars as are set, of the meter that is set. */
  @ParameterizedTest
  @CsvSource({"3, 4, 1, -2880", "6, 8, 2, -5760", "7, 8, 1, -3360", "5, 4, 2, -9600"})
  void theCountInIsInTheMeter(int beats, int unit, int bars, long first) {
    Performer performer =
        Performer.with(
            show ->
                show.withMeter(Meter.of(beats, unit))
                    .withRecording(RecordingSettings.DEFAULT.withCountInBars(bars)));
    performer.doNow(new PressCommand.MainPress(), Performer.EPOCH);
    Transport.Rolling rolling = (Transport.Rolling) performer.engine.stage().transport();
    assertThat(rolling.firstTick()).isEqualTo(first);
    assertThat(performer.on().first().orElseThrow().start()).isZero();
  }

  /** Rule 4, transport stop: to the nearest unit, at least one. */
  @ParameterizedTest
  @CsvSource({"3, 4, 4300, 2880", "3, 4, 4330, 5760", "7, 8, 100, 3360", "6, 8, 7300, 8640"})
  void stoppingRoundsToBarsOfTheMeter(int beats, int unit, long stop, long length) {
    Performer performer = Performer.at(120, Meter.of(beats, unit)).start().press(0).hit(36, 0);
    assertThat(performer.stop(stop).loopLength()).isEqualTo(length);
  }
}
