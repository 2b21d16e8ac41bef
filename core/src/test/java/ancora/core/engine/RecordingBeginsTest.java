package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.RecordingSettings;
import ancora.core.stage.Transport;
import ancora.core.time.EntryUnit;
import ancora.core.time.Forgiveness;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.Ticks;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 3: recording begins. */
class RecordingBeginsTest {

  private static final RecordingSettings NO_COUNT_IN = RecordingSettings.DEFAULT.withCountInBars(0);

  private static long startOf(Performer performer) {
    return performer.on().first().orElseThrow().start();
  }

  @ParameterizedTest
  @CsvSource({"4040, 3840", "4140, 7680", "3840, 3840", "3839, 3840", "4070, 3840", "4071, 7680"})
  void aLatePressCountsForTheBarJustBegun(long press, long start) {
    assertThat(startOf(Performer.ready().start().press(press))).isEqualTo(start);
  }

  @ParameterizedTest
  @CsvSource({
    "NOW, 1000, 1000", "BEAT, 1300, 1920", "HALF_BAR, 2000, 1920", "HALF_BAR, 2200, 3840",
    "BAR, 500, 3840", "TWO_BARS, 500, 7680", "FOUR_BARS, 500, 15360", "TWO_BARS, 7800, 7680"
  })
  void onEachUnit(EntryUnit unit, long press, long start) {
    Performer performer = Performer.with(NO_COUNT_IN.withEntersOn(unit)).start();
    assertThat(startOf(performer.press(press))).isEqualTo(start);
  }

  /** Unit beat at 300 bpm is 200 ms: forgiveness is a quarter of it, 50 ms or 240 ticks. */
  @ParameterizedTest
  @CsvSource({"1195, 960", "1205, 1920"})
  void forgivenessIsNeverOverAQuarterOfTheUnit(long press, long start) {
    Performer performer =
        Performer.with(
            show ->
                show.withTempo(ancora.core.time.Tempo.of(300))
                    .withRecording(NO_COUNT_IN.withEntersOn(EntryUnit.BEAT)));
    assertThat(startOf(performer.start().press(press))).isEqualTo(start);
  }

  @Test
  void withoutForgivenessALatePressWaits() {
    RecordingSettings strict = NO_COUNT_IN.withForgiveness(new Forgiveness(0));
    assertThat(startOf(Performer.with(strict).start().press(3841))).isEqualTo(7680);
  }

  @Test
  void theCountInLiesBeforeTickZero() {
    Performer performer = Performer.with(RecordingSettings.DEFAULT.withCountInBars(2));
    performer.doNow(new PressCommand.MainPress(), Performer.EPOCH);
    assertThat(startOf(performer)).isZero();
    Transport.Rolling rolling = (Transport.Rolling) performer.engine.stage().transport();
    assertThat(rolling.firstTick()).isEqualTo(-7680);
    assertThat(rolling.map().microsOf(-7680)).isEqualTo(Performer.EPOCH);
    assertThat(performer.engine.plan().clickSpans().get(0).from()).isEqualTo(-7680);
  }

  @Test
  void whatFollowsFromAPressSoundsNoSoonerThanItCan() {
    Performer performer = Performer.with(RecordingSettings.DEFAULT);
    performer.doNow(new SettingCommand.ReportDelay(30_000), Performer.EPOCH);
    performer.doNow(new PressCommand.MainPress(), Performer.EPOCH);
    assertThat(performer.engine.stage().map().orElseThrow().microsOf(-3840))
        .isEqualTo(Performer.EPOCH + 30_000);
  }

  @Test
  void aPressDuringTheCountInCallsOffAndStops() {
    Performer performer = Performer.with(RecordingSettings.DEFAULT);
    performer.doNow(new PressCommand.MainPress(), Performer.EPOCH);
    performer.press(-1000);
    assertThat(performer.on().first()).isEmpty();
    assertThat(performer.engine.stage().map()).isEmpty();
    assertThat(performer.engine.stage().armed()).isPresent();
  }

  @Test
  void aPressDuringTheCountInToAnOverdubCallsOffToo() {
    Performer performer = Performer.ready().start().press(0).hit(36, 0).press(3840).stop(3900);
    performer.doNow(
        new SettingCommand.SetRecording(RecordingSettings.DEFAULT), performer.micros(4000));
    performer.press(4100);
    assertThat(performer.on().recording()).isPresent();
    performer.press(-1000);
    assertThat(performer.engine.stage().map()).isEmpty();
    assertThat(performer.on().ready()).contains(performer.clip().id());
  }

  @Test
  void stoppingDuringTheCountInLeavesNothing() {
    Performer performer = Performer.with(RecordingSettings.DEFAULT);
    performer.doNow(new PressCommand.MainPress(), Performer.EPOCH);
    performer.hit(36, -100).stop(-10);
    assertThat(performer.part().shelf()).isEmpty();
    assertThat(performer.on().hindsight().notes()).hasSize(1).noneMatch(p -> p.recorded());
  }

  @Test
  void aCuedRecordingCanBeCalledOff() {
    Performer performer = Performer.ready().start().press(1000).press(2000);
    assertThat(performer.on().first()).isEmpty();
    assertThat(performer.engine.stage().map()).isPresent();
  }

  @Test
  void aRecordingWithoutNotesLeavesNothing() {
    Performer performer = Performer.ready().start().press(0).press(3840).until(4000);
    assertThat(performer.part().shelf()).isEmpty();
    assertThat(performer.on().first()).isEmpty();
    assertThat(performer.on().vamp()).isEmpty();
    assertThat(performer.engine.stage().armed()).isPresent();
  }

  /** Half the way from the last line: 480 on 1/4, 120 on 1/16; 80 ms at 120 are 154 ticks. */
  @ParameterizedTest
  @CsvSource({"1/16, 120, 0", "1/4, 480, 0", "off, 154, 0"})
  void earlyNotesBelongToTheStart(String grid, long early, long meant) {
    Performer performer =
        Performer.ready()
            .grid(InputGrid.of(ancora.core.note.Grid.named(grid)).withStrength(30))
            .start()
            .press(3000);
    performer.play(36, 3840 - early, 3840 + 300).hit(38, 5000).press(7680).until(7700);
    Note first = performer.clip().notes().filter(n -> n.pitch() == 36).findFirst().orElseThrow();
    assertThat(first.meant()).isEqualTo(meant);
    assertThat(first.played()).isEqualTo(-early);
    assertThat(first.length()).isEqualTo(300 + early);
  }

  /** A note 100 ms before the line at 120 is 76 ms before it once the tempo is 194. */
  @Test
  void howEarlyANoteWasIsSaidByTheTempoUpToTheStart() {
    Performer performer = Performer.ready().grid(InputGrid.OFF).start().press(3000);
    performer.hit(36, 3840 - 192);
    performer.doNow(new SettingCommand.SetTempo(Tempo.of(194)), performer.micros(3840 - 144));
    performer.hit(38, 5000).press(7680).until(7700);
    assertThat(performer.meant()).containsExactly(0L, 1160L);
  }

  @Test
  void otherNotesOfTheBarBeforeStayAsMaterial() {
    Performer performer = Performer.ready().start().press(3000);
    performer.hit(36, 3400).hit(38, 4000).press(7680).until(7700);
    assertThat(performer.meant()).containsExactly(-480L, 240L);
    assertThat(performer.planned()).hasSize(1);
  }

  /** Common practice: at 200 bpm a sixteenth lasts 75 ms, less than the 80 ms of the tolerance. */
  @Test
  void atAFastTempoTheLastSixteenthIsNotTakenForTheDownbeat() {
    Performer performer = Performer.at(200, Meter.COMMON).start().press(3000);
    performer.hit(36, 3600).hit(38, 3840).press(7680).until(7700);
    assertThat(performer.meant()).containsExactly(-240L, 0L);
  }

  @Test
  void aLateStartDrawsOnHindsight() {
    Performer performer = Performer.ready().start();
    performer.hit(36, 3800).hit(38, 3900).press(4040).hit(42, 4800).press(7680).until(7700);
    assertThat(performer.meant()).containsExactly(0L, 0L, 960L);
    assertThat(performer.on().hindsight().notes()).allMatch(p -> p.recorded());
  }

  @Test
  void aRecordingBegunOffTheBarHasItsWindowThere() {
    Performer performer = Performer.with(NO_COUNT_IN.withEntersOn(EntryUnit.BEAT)).start();
    performer.press(900).hit(36, 960).hit(38, 1920).press(960 + 3840).until(5000);
    assertThat(performer.clip().window().start()).isEqualTo(960);
    assertThat(performer.loopLength()).isEqualTo(3840);
    assertThat(performer.meant()).containsExactly(960L, 1920L);
    assertThat(performer.firstSounded(38, 4800)).isEqualTo(1920 + 3840);
  }

  @Test
  void recordingMayBeginWithTheFirstNote() {
    Performer performer = Performer.with(NO_COUNT_IN.withFromFirstNote(true));
    performer.doNow(new PressCommand.MainPress(), Performer.EPOCH - 500_000);
    assertThat(performer.engine.stage().map()).isEmpty();
    performer.hit(36, 0).hit(38, 1920).press(3840).until(3900);
    assertThat(performer.engine.stage().map().orElseThrow().microsOf(0)).isEqualTo(Performer.EPOCH);
    assertThat(performer.meant()).containsExactly(0L, 1920L);
  }

  @Test
  void anArmedPartIsFoundIfNoneIsAndSaysSo() {
    Engine engine =
        Engine.of(
            ancora.core.show.Show.named("x")
                .withNewPart("Kit", ancora.core.sound.Sound.STANDARD_KIT)
                .withNewPart("Bass", ancora.core.sound.Sound.of(33)));
    Outcome outcome = engine.apply(new PressCommand.MainPress(), 0, 0);
    assertThat(((Outcome.Done) outcome).word()).contains("Kit is armed now.");
    assertThat(engine.stage().armed()).isPresent();
  }

  @Test
  void inSevenEight() {
    Performer performer = Performer.at(120, Meter.of(7, 8)).start().press(3000);
    assertThat(startOf(performer)).isEqualTo(3360);
    performer.hit(36, 3360).press(6720).until(6800);
    assertThat(performer.loopLength()).isEqualTo(3360);
    assertThat(performer.span().until()).isEqualTo(Ticks.OPEN);
  }
}
