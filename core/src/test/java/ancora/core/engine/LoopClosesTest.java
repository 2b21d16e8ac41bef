package ancora.core.engine;

import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.plan.PlannedNote;
import ancora.core.record.Played;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.LengthRule;
import ancora.core.show.RecordingSettings;
import ancora.core.time.EntryUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 4: the loop closes. */
class LoopClosesTest {

  private static final RecordingSettings PLAIN = RecordingSettings.DEFAULT.withCountInBars(0);

  private static Performer recording(RecordingSettings settings) {
    return Performer.with(settings).start().press(0).hit(36, 0);
  }

  @ParameterizedTest
  @CsvSource({
    "ANY, 7780, 7680", "ANY, 8280, 11520", "DOUBLING, 8280, 15360", "DOUBLING, 7780, 7680",
    "ANY, 100, 3840", "ANY, 3839, 3840", "ANY, 7680, 7680", "DOUBLING, 3900, 3840"
  })
  void byAPress(LengthRule rule, long press, long length) {
    Performer performer = recording(PLAIN.withLengthRule(rule)).press(press).until(press + length);
    assertThat(performer.loopLength()).isEqualTo(length);
  }

  @ParameterizedTest
  @CsvSource({"8280, 7680", "9700, 11520", "100, 3840", "5760, 7680"})
  void byStoppingTheTransport(long stop, long length) {
    Performer performer = recording(PLAIN).stop(stop);
    assertThat(performer.loopLength()).isEqualTo(length);
    assertThat(performer.on().ready()).contains(performer.clip().id());
  }

  @Test
  void notesPastTheWindowStayAsMaterialWhenStopped() {
    Performer performer = recording(PLAIN).hit(38, 4000).stop(4500);
    assertThat(performer.loopLength()).isEqualTo(3840);
    assertThat(performer.meant()).containsExactly(0L, 4080L);
    performer.start();
    assertThat(performer.planned()).hasSize(1);
  }

  @Test
  void onBeatsIfSo() {
    Performer performer = recording(PLAIN.withClosesOn(EntryUnit.BEAT)).press(2800).until(2900);
    assertThat(performer.loopLength()).isEqualTo(2880);
  }

  @Test
  void theLoopIsPlannedBeforeItsLineComes() {
    Performer performer = recording(PLAIN).press(3000);
    assertThat(performer.span().from()).isEqualTo(3840);
    assertThat(performer.firstSounded(36, 0)).isEqualTo(3840);
    assertThat(performer.part().shelf()).isEmpty();
    assertThat(performer.until(3840).part().shelf()).hasSize(1);
    assertThat(performer.span().id()).isEqualTo(performer.until(9000).span().id());
  }

  @Test
  void aSecondPressCallsTheClosingOff() {
    Performer performer = recording(PLAIN).press(3000).press(3500);
    assertThat(performer.on().vamp()).isEmpty();
    performer.hit(38, 5000).press(7000).until(7700);
    assertThat(performer.loopLength()).isEqualTo(7680);
  }

  @Test
  void aSetLengthClosesByItself() {
    Performer performer = recording(PLAIN.withFixedUnits(2));
    assertThat(performer.until(7679).part().shelf()).isEmpty();
    assertThat(performer.until(7680).loopLength()).isEqualTo(7680);
  }

  @Test
  void multiplesOfTheFirstLoop() {
    Performer performer =
        Performer.with(
            show ->
                show.withNewPart("Bass", ancora.core.sound.Sound.of(33))
                    .withRecording(PLAIN.withLengthRule(LengthRule.OF_THE_SHOWS_FIRST)));
    performer.start().press(0).hit(36, 0).press(11520).until(11520);
    assertThat(performer.loopLength()).isEqualTo(11520);
    var bass = performer.engine.stage().show().parts().get(1);
    performer.doNow(new PressCommand.Arm(bass.id()), performer.micros(11600));
    performer.press(15300).hit(40, 15360).press(15360 + 12000).until(15360 + 23040);
    long second = performer.engine.stage().show().parts().get(1).shelf().get(0).window().length();
    assertThat(second).isEqualTo(23040);
  }

  @Test
  void sixtyFourBarsAreTheLongestLoop() {
    Performer performer = recording(PLAIN).until(64 * 3840 - 100);
    assertThat(performer.on().first().orElseThrow().until()).isEqualTo(64 * 3840);
    assertThat(performer.until(64 * 3840 + 10).loopLength()).isEqualTo(64 * 3840);
  }

  @Test
  void notesAfterAForgivenLineBelongToTheNextPassInOverdub() {
    Performer performer = recording(PLAIN.withOverdubAfter(true)).hit(38, 1920);
    performer.hit(42, 3860).press(3900).until(4000);
    assertThat(performer.layerSizes()).containsExactly(2, 1);
    assertThat(performer.firstSounded(42, 3840)).isEqualTo(7680);
  }

  @Test
  void notesAfterAForgivenLineStayInHindsightInVamp() {
    Performer performer = recording(PLAIN).hit(42, 3860).press(3900).until(4000);
    assertThat(performer.layerSizes()).containsExactly(1);
    assertThat(performer.on().hindsight().notes().filter(p -> !p.recorded())).hasSize(1);
  }

  @Test
  void aNoteShortlyBeforeTheLineGoesToTheStart() {
    Performer performer = recording(PLAIN).hit(38, 3730).press(3800).until(3900);
    Note moved = performer.clip().notes().filter(n -> n.pitch() == 38).findFirst().orElseThrow();
    assertThat(moved.meant()).isZero();
    assertThat(moved.played()).isEqualTo(-110);
    assertThat(performer.firstSounded(38, 3840)).isEqualTo(7680);
  }

  @Test
  void unlessThatPitchIsThereAlready() {
    Performer performer = recording(PLAIN).hit(36, 3730).press(3800).until(3900);
    assertThat(performer.meant()).containsExactly(0L);
    assertThat(performer.on().hindsight().notes().filter(p -> !p.recorded())).hasSize(1);
  }

  @Test
  void withoutAGridItStays() {
    Performer performer = Performer.with(PLAIN).grid(InputGrid.OFF).start().press(0);
    performer.hit(36, 0).hit(38, 3700).press(3800).until(3900);
    assertThat(performer.meant()).containsExactly(0L, 3700L);
  }

  /** Rule 5: pressed at 3360 of pass 1 and released at 800 of pass 2 is one note. */
  @Test
  void aNoteStillHeldIsRecordedUntilReleased() {
    Performer performer = recording(PLAIN).down(60, 3360).press(3800).until(3840 + 700);
    assertThat(performer.planned())
        .filteredOn(PlannedNote::tied)
        .as("the loop takes the voice over where its place comes round, if the key is down still")
        .singleElement()
        .satisfies(note -> assertThat(note.place()).isEqualTo(3360));
    performer.up(60, 3840 + 800);
    Note held = performer.clip().notes().filter(n -> n.pitch() == 60).findFirst().orElseThrow();
    assertThat(held.length()).isEqualTo(1280);
    assertThat(held.held()).isFalse();
    assertThat(performer.firstSounded(60, 3840)).isEqualTo(3360 + 3840);
  }

  @Test
  void aTempoChangeInMidRecordingKeepsPlacesByTick() {
    Performer performer = recording(PLAIN);
    performer.doNow(
        new SettingCommand.SetTempo(ancora.core.time.Tempo.of(60)), performer.micros(1000));
    performer.hit(38, 1920).press(3840).until(3900);
    assertThat(performer.meant()).containsExactly(0L, 1920L);
    assertThat(performer.loopLength()).isEqualTo(3840);
  }

  @Test
  void aPressStampedInTimeCountsHoweverLateItArrives() {
    Performer performer = recording(PLAIN);
    long stamp = performer.micros(7780);
    assertThat(performer.engine.apply(new PressCommand.MainPress(), stamp, stamp + 3_000_000))
        .isInstanceOf(Outcome.Done.class);
    assertThat(performer.loopLength()).isEqualTo(7680);
  }

  @Test
  void aNoteStampedBeforeTheLineIsPlacedBeforeItHoweverLateItArrives() {
    Performer performer = recording(PLAIN).press(3800).until(4200);
    long stamp = performer.micros(1920);
    performer.engine.apply(
        new HandCommand.KeyDown(new ancora.core.note.InputKey("stand-in", 0, 38), 90),
        stamp,
        performer.micros(4200));
    assertThat(performer.layerSizes()).containsExactly(2);
    assertThat(performer.meant()).containsExactly(0L, 1920L);
  }

  private static Concert setLength(boolean overdubAfter) {
    Concert concert =
        Concert.of(show -> show.mapPart(KEYS, part -> part.withInputGrid(InputGrid.OFF)));
    RecordingSettings settings = concert.stage().show().recording();
    concert.at(
        0,
        new SettingCommand.SetRecording(settings.withFixedUnits(1).withOverdubAfter(overdubAfter)));
    return concert.start().press(0);
  }

  private static Concert lateHit(Concert concert, int pitch, long stamp, long arrives) {
    InputKey key = new InputKey("keys", 0, pitch);
    return concert
        .late(stamp, arrives, new HandCommand.KeyDown(key, 90))
        .late(stamp + 60, arrives + 1, new HandCommand.KeyUp(key));
  }

  /** Rule 3: a second is 1920 ticks. */
  @Test
  void aRecordingThatClosesWithoutNotesWaitsASecondForThem() {
    Concert concert = lateHit(setLength(false), 60, 480, BAR + 1900);
    assertThat(concert.newest().window().length()).isEqualTo(BAR);
    assertThat(concert.meant(concert.newest())).containsExactly(480L);
    assertThat(concert.until(3 * BAR).attacks(60, BAR + 1930)).containsExactly(2 * BAR + 480);
    Concert tooLate = lateHit(setLength(false), 60, 480, BAR + 1930);
    assertThat(tooLate.stage().show().part(KEYS).shelf()).isEmpty();
    assertThat(tooLate.on().hindsight().notes()).allMatch(played -> !played.recorded());
  }

  @Test
  void aCommandOnThePartEndsThatWaiting() {
    Concert concert = setLength(false).at(BAR + 100, new PressCommand.MainPress());
    lateHit(concert.at(BAR + 200, new PressCommand.MainPress()), 60, 480, BAR + 300);
    assertThat(concert.stage().show().part(KEYS).shelf()).isEmpty();
  }

  @Test
  void whereOverdubFollowsWhatIsPlayedMeanwhileIsOfTheNextPass() {
    Concert concert = setLength(true).hit(64, BAR + 240);
    lateHit(concert, 60, 480, BAR + 900).until(2 * BAR + 10);
    Clip clip = concert.newest();
    assertThat(clip.layers()).extracting(l -> l.notes().size()).containsExactly(1, 1);
    assertThat(concert.meant(clip)).containsExactly(240L, 480L);
    assertThat(concert.on().open()).isPresent();
    assertThat(concert.on().hindsight().notes()).allMatch(Played::recorded);
  }
}
