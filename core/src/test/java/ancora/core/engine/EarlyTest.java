package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Layer;
import ancora.core.clip.Take;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.RunUp;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Rule 3: whatever begins at a line has what is early for it. Grid 1/16: half a step is 120 ticks.
 */
class EarlyTest {

  private static Concert on(Grid grid, Concert concert) {
    return concert.at(0, new SettingCommand.SetInputGrid(KEYS, InputGrid.of(grid)));
  }

  private static Concert takesFromNothing(Grid grid) {
    return on(grid, Concert.of(show -> show))
        .at(0, new SettingCommand.ReportDelay(0))
        .start()
        .at(5, new MendCommand.Takes(true));
  }

  private static List<Long> places(Take take, int pitch) {
    return take.sounding().filter(n -> n.pitch() == pitch).map(Note::meant).toList();
  }

  /** Worked values 1 and 2: take 1 has that pitch at its start, too. */
  @ParameterizedTest
  @CsvSource({"SIXTEENTH, 24", "OFF, 31"})
  void eachTakeHasItsOwnEarlyDownbeat(Grid grid, long early) {
    Concert concert = takesFromNothing(grid).hit(36, 0).hit(38, 1920).press(BAR);
    concert.hit(36, 2 * BAR - early).hit(38, 2 * BAR + 1920).until(3 * BAR + 10);
    concert.at(3 * BAR + 20, new MendCommand.Takes(false));
    List<Take> takes = concert.newest().takes();
    assertThat(places(takes.get(0), 36)).containsExactly(0L);
    assertThat(places(takes.get(takes.size() - 1), 36)).containsExactly(0L);
    assertThat(takes.stream().skip(1).filter(t -> places(t, 36).contains(BAR - early))).isEmpty();
  }

  /** Worked value 3: 90 ms are 173 ticks. */
  @Test
  void ninetyMillisecondsBeforeTheLineANoteIsOfTheTakeBefore() {
    Concert concert = takesFromNothing(Grid.OFF).hit(36, 0).press(BAR);
    concert.hit(38, BAR + 960).hit(40, 2 * BAR - 173).hit(38, 2 * BAR + 960).until(3 * BAR + 10);
    concert.at(3 * BAR + 20, new MendCommand.Takes(false));
    assertThat(places(concert.newest().take(2), 40)).containsExactly(BAR - 173);
  }

  private static Concert overdubbing() {
    return Concert.with(clip(A, note(1, 40, 0, 60))).start().press(0);
  }

  private static List<List<Long>> layers(Concert concert) {
    return concert.clip(A).layers().stream()
        .skip(1)
        .map(Layer::notes)
        .map(notes -> notes.stream().map(Note::meant).sorted().toList())
        .toList();
  }

  /** Worked value 4: 16 ms are 31 ticks. */
  @Test
  void offTheGridWhatIsEarlyForAPassIsInItsLayerWhereItWasPlayed() {
    Concert concert = overdubbing().hit(60, 960).hit(62, 2 * BAR - 31).hit(64, 2 * BAR + 960);
    assertThat(layers(concert.until(3 * BAR + 10)))
        .containsExactly(List.of(960L), List.of(960L, BAR - 31));
  }

  /** Worked value 5. */
  @Test
  void whereThatPassHasNothingElseItIsOfThePassBefore() {
    Concert concert = overdubbing().hit(60, 960).hit(62, BAR - 31);
    assertThat(layers(concert.until(3 * BAR + 10))).containsExactly(List.of(960L, BAR - 31));
    Concert alone = overdubbing().hit(62, BAR - 31);
    assertThat(layers(alone.until(3 * BAR + 10))).containsExactly(List.of(BAR - 31));
  }

  /** Worked value 9: 10 ms are 19 ticks. */
  @ParameterizedTest
  @CsvSource({"SIXTEENTH, 7680", "OFF, 7661"})
  void aRunUpHasItsEarlyFirstNote(Grid grid, long meant) {
    Concert concert = on(grid, Concert.with(clip(A, 0, 4 * BAR, note(1, 40, 0, 60))));
    concert.at(
        0,
        new SettingCommand.SetRecording(
            concert
                .stage()
                .show()
                .recording()
                .withRunUp(Optional.of(new RunUp(RunUp.Of.LOOP, 3)))));
    concert.start().press(100).hit(60, 2 * BAR - 19).until(4 * BAR + 10);
    assertThat(layers(concert)).containsExactly(List.of(meant));
  }

  /** Worked value 10. */
  @Test
  void theFirstRecordingIsAmongTheTakes() {
    Concert concert = takesFromNothing(Grid.OFF).hit(36, 0).press(BAR);
    concert.hit(38, BAR + 960).at(BAR + 1920, new MendCommand.Takes(false));
    assertThat(concert.newest().take().number()).isEqualTo(1);
    assertThat(concert.newest().take(2).partial()).isTrue();
  }

  /** Worked value 11. */
  @Test
  void aStrayNoteIsNotHeardInsteadOfTheTakeThatWas() {
    Concert concert = Concert.with(clip(A, 0, 4 * BAR, note(1, 40, 0, 60))).start();
    concert.at(100, new MendCommand.Takes(true)).hit(60, 960);
    concert.at(2000, new MendCommand.Takes(false));
    assertThat(concert.clip(A).take().number()).isEqualTo(1);
  }

  /** Worked value 12: a second is 1920 ticks. */
  @Test
  void peelInTakesFirstSaysSoAndThenDropsTheTakeBefore() {
    Concert concert = Concert.with(clip(A, note(1, 40, 0, 60))).start();
    concert.at(0, new MendCommand.Takes(true)).hit(60, 960).hit(62, BAR + 960);
    concert.until(2 * BAR + 190);
    String word = concert.said(2 * BAR + 192, new MendCommand.Peel());
    assertThat(word).isNotEmpty();
    assertThat(concert.clip(A).findTake(3)).isPresent();
    concert.at(2 * BAR + 2000, new MendCommand.Peel());
    assertThat(concert.clip(A).findTake(3)).isEmpty();
    concert.at(2 * BAR + 2500, new MendCommand.Restore());
    assertThat(concert.clip(A).findTake(3)).isPresent();
  }

  /** Worked value 26: 20 ms are 38 ticks. */
  @Test
  void whereTakesAreSwitchedOffAtTheLineItIsAsAtAClosing() {
    Concert concert = on(Grid.SIXTEENTH, Concert.with(clip(A, note(1, 40, 0, 60)))).start();
    concert.at(0, new MendCommand.Takes(true)).hit(60, 960).hit(62, BAR - 38);
    concert.at(BAR + 100, new MendCommand.Takes(false)).until(3 * BAR);
    assertThat(concert.clip(A).takes()).hasSize(2);
    assertThat(places(concert.clip(A).take(2), 62)).containsExactly(0L);
  }
}
