package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static ancora.core.engine.Concert.shelved;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Tempo;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 14: while a breather is on a loop goes round in its length and the breather's. */
class BreatherTest {

  private static final Clip FOUR_BARS = clip(A, 0, 4 * BAR, note(1, 40, 0, 60));

  private static Concert resting(Concert concert, int bars) {
    return concert.at(
        0,
        new SettingCommand.SetRecording(concert.stage().show().recording().withBreatherBars(bars)));
  }

  private static List<Integer> layers(Concert concert) {
    return concert.clip(A).layers().stream()
        .skip(1)
        .flatMap(layer -> layer.notes().stream())
        .map(Note::pitch)
        .toList();
  }

  /** Worked value 13: recorded are bars 1 to 4, 6 to 9, 11 to 14; 5 and 10 are silent. */
  @Test
  void eachPassBeginsAtTheLoopsOwnBeginning() {
    Concert concert = resting(Concert.with(FOUR_BARS), 1).start().press(0);
    for (int bar = 1; bar <= 14; bar++) {
      concert.hit(60 + bar, (bar - 1) * BAR + 960);
    }
    concert.until(15 * BAR);
    assertThat(layers(concert)).containsExactly(61, 62, 63, 64, 66, 67, 68, 69, 71, 72, 73, 74);
    assertThat(concert.clip(A).layers()).hasSize(4);
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 66).map(Note::meant))
        .containsExactly(960L);
    assertThat(concert.attacks(40, 0)).containsExactly(0L, 5 * BAR, 10 * BAR);
    assertThat(concert.attacks(61, BAR)).as("heard in the next pass").startsWith(5 * BAR + 960);
  }

  /** As with every entry that comes no later than 25 ms (rule 5), what was due is made up for. */
  @Test
  void anotherTakeChosenJustAfterARestHasBegunEntersWhole() {
    Concert concert = resting(Concert.with(clip(A, note(1, 40, 0, 15))), 1).start();
    concert.at(BAR + 96, new MendCommand.Takes(true)).hit(62, BAR + 1776);
    concert.at(2 * BAR + 48, new MendCommand.HearTake(KEYS, A, 1, false)).until(5 * BAR);
    assertThat(concert.attacks(40, 0)).containsExactly(0L, BAR, 2 * BAR + 48, 3 * BAR, 4 * BAR);
  }

  private static Clip vamping(int id, int bars) {
    return clip(new ClipId(id), 0, bars * BAR, note(id, 50, 0, 60));
  }

  /** Worked value 13a; at four bars it sounds through. */
  @ParameterizedTest
  @CsvSource({"2, 1, 2", "4, 4, 4", "3, 3, 2", "1, 1, 1"})
  void itRestsSoThatItIsInPhaseWithTheOthers(int first, int second, int rests) {
    Concert concert =
        resting(
            Concert.of(
                show -> {
                  Show three = show.withNewPart("Lead", Sound.of(80));
                  return three
                      .mapPart(KEYS, part -> shelved(part, FOUR_BARS))
                      .mapPart(BASS, part -> shelved(part, vamping(21, first)))
                      .mapPart(
                          three.parts().get(2).id(), part -> shelved(part, vamping(22, second)));
                }),
            1);
    concert.start().press(0).until((4 + rests) * BAR + 10);
    List<Long> attacks = concert.attacks(40, 100);
    assertThat(attacks).contains((4L + rests) * BAR);
    assertThat(concert.on().vamp().orElseThrow().breather().orElseThrow().ticks())
        .isEqualTo(rests * BAR);
    assertThat(attacks.contains(4 * BAR)).as("through").isEqualTo(rests == 4);
  }

  /** Worked value 27. */
  @Test
  void takesRestAsWell() {
    Concert concert =
        resting(Concert.with(FOUR_BARS), 1).start().at(0, new MendCommand.Takes(true));
    for (int bar = 1; bar <= 20; bar++) {
      concert.hit(60 + bar, (bar - 1) * BAR + 960);
    }
    concert.until(19 * BAR + 3800).at(19 * BAR + 3810, new MendCommand.Takes(false));
    List<Take> takes = concert.clip(A).takes();
    assertThat(takes.stream().skip(1).map(t -> t.sounding().map(Note::pitch).toList()))
        .containsExactly(
            List.of(61, 62, 63, 64),
            List.of(66, 67, 68, 69),
            List.of(71, 72, 73, 74),
            List.of(76, 77, 78, 79));
    assertThat(takes).noneMatch(Take::partial);
  }

  @Test
  void afterAFirstRecordingItRestsFirst() {
    Concert concert = resting(Concert.of(show -> show), 1);
    concert.at(
        0,
        new SettingCommand.SetRecording(
            concert.stage().show().recording().withOverdubAfter(true).withFixedUnits(2)));
    concert.start().press(0).hit(60, 0).hit(62, 2 * BAR + 480).hit(64, 3 * BAR + 480);
    concert.until(6 * BAR + 10);
    assertThat(concert.meant(concert.newest())).containsExactly(0L, 480L);
    assertThat(concert.attacks(60, 100)).containsExactly(3 * BAR, 6 * BAR);
  }

  @Test
  void throughARestOfItsLengthTakesSoundTheOneThatWouldBeHeard() {
    Concert concert =
        resting(Concert.with(clip(A, note(1, 40, 0, 60))), 1)
            .start()
            .at(0, new MendCommand.Takes(true));
    concert.hit(61, 960).until(3 * BAR);
    assertThat(concert.attacks(61, 1000)).containsExactly(BAR + 960);
    assertThat(concert.attacks(40, 100)).as("the take before is not the one").isEmpty();
  }

  @Test
  void switchedOffItIsTheLoopAgainFromItsNextLine() {
    Concert concert = resting(Concert.with(FOUR_BARS), 1).start().press(0).hit(61, 960);
    concert.press(5 * BAR + 500).until(15 * BAR);
    assertThat(concert.attacks(40, 0)).containsExactly(0L, 5 * BAR, 10 * BAR, 14 * BAR);
    Concert set = resting(Concert.with(FOUR_BARS), 1).start().press(0).hit(61, 960);
    resting(set.until(4 * BAR + 100), 0).hit(62, 5 * BAR + 960).hit(63, 9 * BAR + 960);
    set.until(14 * BAR);
    assertThat(layers(set)).containsExactly(61, 62, 63);
    assertThat(set.attacks(40, 0)).containsExactly(0L, 5 * BAR, 9 * BAR, 13 * BAR);
  }

  @Test
  void aHandOffInARestBeginsAtTheNextEntryPoint() {
    Concert concert = resting(Concert.with(FOUR_BARS), 1).start().press(0).hit(61, 960);
    concert.at(4 * BAR + 900, new PressCommand.HandOff());
    assertThat(concert.stage().on(concert.stage().armedPart()).first().orElseThrow().start())
        .isEqualTo(5 * BAR);
  }

  /** On a grid or off it: nothing is recorded where it was played. */
  @Test
  void whatIsEarlyForThePassAfterARestIsMeantForItsLine() {
    Concert concert = resting(Concert.with(FOUR_BARS), 1).start().press(0);
    concert.hit(61, 5 * BAR - 40).hit(62, 5 * BAR - 200).until(6 * BAR);
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 61).map(Note::meant))
        .containsExactly(0L);
    assertThat(layers(concert)).containsExactly(61);
  }

  /** At this tempo the line lies between two microseconds. */
  @Test
  void aTakeHeardAtALineOfTheRestSoundsFromItsFirstNote() {
    Concert concert = resting(Concert.with(clip(A, note(1, 40, 0, 60))), 1);
    concert.at(0, new SettingCommand.SetTempo(Tempo.of(175.4))).start();
    concert.at(0, new MendCommand.Takes(true)).hit(61, 660);
    concert.at(1400, new MendCommand.HearTake(KEYS, A, 1, false)).until(BAR);
    assertThat(concert.attacks(40, 100)).containsExactly(BAR);
  }

  @Test
  void whatIsToBeReplacedAfterARestIsWholeUntilThen() {
    Concert concert = resting(Concert.with(clip(A, note(1, 40, 2400, 60))), 1).start().press(0);
    concert.hit(61, 960).at(BAR + 900, new MendCommand.Replace(true));
    concert.at(BAR + 1000, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Twice()));
    concert.until(2 * BAR - 1);
    assertThat(concert.attacks(40, BAR)).as("it sounds").isNotEmpty();
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 40)).as("both").hasSize(2);
  }
}
