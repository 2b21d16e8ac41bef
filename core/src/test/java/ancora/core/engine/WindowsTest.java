package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Manner;
import ancora.core.clip.Reshaping;
import ancora.core.edit.Clips;
import ancora.core.note.Note;
import ancora.core.record.Played;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.RecordingSettings;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Rules 13 and 14: moving the window while it sounds, hand-off, breather. */
class WindowsTest {

  private static Command reshape(Reshaping reshaping) {
    return new ShelfCommand.Reshape(KEYS, A, reshaping);
  }

  private static Concert fourBars() {
    return Concert.with(
            clip(
                A,
                0,
                4 * BAR,
                note(1, 60, 0, 60),
                note(2, 62, BAR, 60),
                note(3, 64, 2 * BAR, 60),
                note(4, 65, 3 * BAR, 60)))
        .start();
  }

  /** The examples: W 0, N 15360, p 9000 → 1320; W' 960, N' 3840, p 500 → 4340. */
  @Test
  void aPositionOutsideIsCountedRoundTheNewWindow() {
    assertThat(new LoopWindow(0, 7680).wrap(9000)).isEqualTo(1320);
    assertThat(new LoopWindow(960, 3840).wrap(500)).isEqualTo(4340);
    Concert concert = fourBars().at(2 * BAR + 900, reshape(new Reshaping.Halve()));
    concert.until(6 * BAR);
    assertThat(concert.clip(A).window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(concert.attacks(60, 2 * BAR + 960))
        .as("at the beat 2·3840 + 960, place 8640, it goes on at 960")
        .containsExactly(4 * BAR);
    assertThat(concert.attacks(62, 2 * BAR + 960)).containsExactly(3 * BAR, 5 * BAR);
  }

  @Test
  void doubleShowsWhatHalvingKeptOrElseCopies() {
    Concert concert = fourBars();
    concert.at(100, reshape(new Reshaping.Halve())).until(960);
    concert.at(1000, reshape(new Reshaping.Twice())).until(1920);
    assertThat(concert.clip(A).noteCount()).isEqualTo(4);
    concert.at(2000, reshape(new Reshaping.Twice())).until(2880);
    Clip doubled = concert.clip(A);
    assertThat(doubled.window().length()).isEqualTo(8 * BAR);
    assertThat(concert.meant(doubled))
        .containsExactly(0L, BAR, 2 * BAR, 3 * BAR, 4 * BAR, 5 * BAR, 6 * BAR, 7 * BAR);
    assertThat(doubled.notes().map(Note::id).distinct()).hasSize(8);
    concert.at(3000, new UndoCommand.Undo());
    assertThat(concert.clip(A).window().length()).isEqualTo(4 * BAR);
  }

  @Test
  void shiftRotatesTheLoopAndSetStartMovesOverTheMaterial() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60), note(2, 62, 3360, 60)));
    concert.at(0, reshape(new Reshaping.Shift(960)));
    assertThat(concert.meant(concert.clip(A))).containsExactly(480L, 960L);
    concert.at(0, new ShelfCommand.SetManner(KEYS, A, Manner.DEFAULT.withPickup(960)));
    concert.at(0, reshape(new Reshaping.ToWindow(960, BAR)));
    assertThat(concert.clip(A).manner().pickup()).as("moving W sets the pickup to 0").isZero();
    assertThat(concert.meant(concert.clip(A))).containsExactly(480L, 960L);
  }

  @Test
  void whatSoundsEndsAtItsNaturalEndAndADroneGoesOn() {
    Concert concert =
        Concert.with(clip(A, 0, 2 * BAR, note(1, 60, 0, 1500), note(2, 62, 100, 9000))).start();
    concert.at(500, reshape(new Reshaping.Halve())).until(4 * BAR);
    assertThat(concert.heard(60).subList(0, 3)).containsExactly("on 0", "off 1500", "on 3840");
    assertThat(concert.heard(62)).as("a drone is not attacked again").containsExactly("on 0");
    concert.at(4 * BAR + 500, new CueCommand.CueTacet(KEYS)).until(6 * BAR);
    assertThat(concert.heard(62)).containsExactly("on 0", "off " + 5 * BAR);
  }

  @Test
  void aLengthIsAWholeNumberOfBeats() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60)));
    assertThat(concert.refused(0, reshape(new Reshaping.ToWindow(0, 1440))))
        .contains("whole number of beats");
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> new Reshaping.ToWindow(0, 0))
        .isInstanceOf(ancora.core.Refusal.class)
        .hasMessageContaining("whole number of beats");
    assertThat(concert.refused(0, reshape(new Reshaping.ToWindow(0, 65 * BAR))))
        .contains("64 bars");
    assertThat(concert.clip(A)).isEqualTo(clip(A, note(1, 60, 0, 60)));
  }

  /** Doubled at the next beat it would have 3998 notes; two more are played before that. */
  @Test
  void aChangeThatCannotBeByTheTimeItComesIsLeftOut() {
    Note[] notes = new Note[1999];
    for (int i = 0; i < notes.length; i++) {
      notes[i] = note(i + 1, 40 + i % 40, i, 15);
    }
    Concert concert = Concert.with(clip(A, notes)).start().press(100);
    concert.at(2000, reshape(new Reshaping.Twice()));
    concert.play(100, 2100, 2150).play(101, 2200, 2250).until(2 * BAR);
    assertThat(concert.clip(A).window().length()).isEqualTo(BAR);
    assertThat(concert.clip(A).noteCount()).isEqualTo(2001);
  }

  @Test
  void aHandOffInAFirstRecordingIsTheMainPress() {
    Concert concert = Concert.with().start().press(BAR - 500).play(60, BAR, BAR + 100);
    concert.at(2 * BAR + 50, new PressCommand.HandOff());
    var parts = concert.stage().show().parts();
    assertThat(parts.get(2).name()).isEqualTo("Keys 2");
    assertThat(parts.get(2).sound()).isEqualTo(parts.get(0).sound());
    assertThat(concert.stage().armed()).contains(parts.get(2).id());
    concert.play(62, 2 * BAR + 200, 2 * BAR + 300).press(3 * BAR - 20).until(5 * BAR);
    assertThat(concert.attacks(60, 2 * BAR))
        .as("26 ms late, so it sounds at once")
        .containsExactly(2 * BAR + 51, 3 * BAR, 4 * BAR);
    assertThat(concert.heard(parts.get(2).id(), 62, 3 * BAR)).startsWith("on " + (3 * BAR + 200));
    assertThat(concert.newest().noteCount()).isEqualTo(1);
  }

  /**
   * At least three quarters done: the pass is finished and A is the line; else A is the next entry.
   */
  @Test
  void aHandOffInOverdubFinishesThePassIfMostOfItIsDone() {
    Concert most = Concert.with(clip(A, 0, 4 * BAR, note(1, 60, 0, 60))).start().press(100);
    most.at(3 * BAR + 100, new PressCommand.HandOff());
    assertThat(first(most).start()).isEqualTo(4 * BAR);
    Concert early = Concert.with(clip(A, 0, 4 * BAR, note(1, 60, 0, 60))).start().press(100);
    early.at(BAR + 700, new PressCommand.HandOff());
    assertThat(first(early).start()).isEqualTo(2 * BAR);
  }

  private static ancora.core.record.FirstRecording first(Concert concert) {
    return concert.stage().on(concert.stage().armed().orElseThrow()).first().orElseThrow();
  }

  /** A breather never moves the phase: the next pass starts where it ends. */
  @Test
  void inABreatherNothingIsRecorded() {
    Concert concert = Concert.with(clip(A, note(1, 40, 0, 60)), clip(B));
    concert.at(
        0, new SettingCommand.SetRecording(concert.stage().show().recording().withBreatherBars(1)));
    concert.start().press(BAR);
    concert.play(50, BAR + 480, BAR + 500);
    concert.play(51, 2 * BAR + 480, 2 * BAR + 500);
    concert.play(52, 3 * BAR + 480, 3 * BAR + 500).until(4 * BAR);
    assertThat(concert.clip(A).layers().stream().map(l -> l.notes().get(0).pitch()))
        .isEqualTo(List.of(40, 50, 52))
        .asList()
        .hasSize(3);
    assertThat(concert.attacks(40, 0)).containsExactly(0L, BAR, 2 * BAR, 3 * BAR);
  }

  @Test
  void whatAKnobDoesUntilItHasRestedASecondIsOneStep() {
    Concert concert = Concert.with(clip(A, 0, 4 * BAR, note(1, 36, 0, 60))).start();
    for (int turn = 1; turn <= 3; turn++) {
      Reshaping window = new Reshaping.ToWindow(turn * 960L, 4 * BAR);
      concert.at(turn * 1200L, new ShelfCommand.Reshape(KEYS, A, window));
    }
    concert.until(3 * 1200 + 960);
    assertThat(concert.stage().history().done()).hasSize(1);
    Reshaping later = new Reshaping.ToWindow(0, 3 * BAR);
    concert.at(3 * 1200 + 1921, new ShelfCommand.Reshape(KEYS, A, later)).until(2 * BAR);
    assertThat(concert.stage().history().done()).as("it had rested").hasSize(2);
    concert.at(2 * BAR, new UndoCommand.Undo()).at(2 * BAR + 10, new UndoCommand.Undo());
    assertThat(concert.clip(A).window()).isEqualTo(new LoopWindow(0, 4 * BAR));
    concert.at(2 * BAR + 20, new UndoCommand.Redo());
    assertThat(concert.clip(A).window()).isEqualTo(new LoopWindow(3 * 960, 4 * BAR));
  }

  private static final Command SHORTER =
      new ShelfCommand.WindowBars(ShelfCommand.WindowBars.Bars.SHORTER, false);

  private static Concert closedTooLate(boolean overdubAfter) {
    Concert concert = Concert.of(show -> show);
    RecordingSettings settings = concert.stage().show().recording();
    concert.at(0, new SettingCommand.SetRecording(settings.withOverdubAfter(overdubAfter)));
    concert.start().press(0).hit(60, 0).hit(62, BAR + 960);
    return concert.press(2 * BAR + 384).hit(64, 2 * BAR + 1920);
  }

  /** Worked value 29: 200 ms are 384 ticks, a second 1920. */
  @ParameterizedTest
  @ValueSource(longs = {2 * BAR + 2304, 3 * BAR + 1920})
  void aBarShorterInTheFirstPassIsAsIfTheLoopHadClosedThere(long press) {
    Concert concert = closedTooLate(true).at(press, SHORTER).until(6 * BAR);
    assertThat(concert.newest().window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(concert.on().vamp().orElseThrow().phase()).isZero();
    assertThat(concert.newest().layers()).hasSize(2);
    assertThat(concert.newest().layers().get(1).notes())
        .as("what was played in bar 3 is in the second pass")
        .extracting(Note::pitch, Note::meant)
        .containsExactly(tuple(64, 1920L));
    assertThat(concert.attacks(60, press)).containsExactly(4 * BAR);
    Concert vamps = closedTooLate(false).at(press, SHORTER).until(5 * BAR);
    assertThat(vamps.meant(vamps.newest())).containsExactly(0L, BAR + 960);
    assertThat(vamps.on().hindsight().notes().filter(p -> !p.recorded()))
        .extracting(Played::pitch)
        .containsExactly(64);
  }

  @Test
  void onceThePassIsOverItIsAWindowOfItsOwn() {
    Concert concert = closedTooLate(false).at(6 * BAR + 100, SHORTER).until(9 * BAR);
    assertThat(concert.newest().window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(concert.stage().history().done()).hasSize(2);
  }

  /**
   * A loop of two beats whose lines lie half a beat after beats: from 5760 to 6720 it passes one.
   */
  @Test
  void stutterTurnsRoundInAWholeBeatOfTheTransportOffTheLoopsPhase() {
    Concert concert =
        Concert.with(clip(A, 480, 1920, note(1, 60, 480, 60), note(2, 62, 2160, 60)), clip(B))
            .start();
    // its lines lie half a beat after the beats
    concert.at(6 * 960 + 700, new MendCommand.Stutter(true, 1, false)).until(11 * 960);
    assertThat(concert.stage().on(KEYS).stutter().orElseThrow().length()).isEqualTo(960);
    assertThat(concert.attacks(60, 6240)).containsExactly(6240L, 7200L, 8160L, 9120L, 10_080L);
    assertThat(concert.attacks(62, 6240)).containsExactly(6960L, 7920L, 8880L, 9840L);
  }

  /** What lay behind the half that is repeated is gone, and so is a layer that had nothing else. */
  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void aLayerThatARepeatLeavesEmptyIsNone(boolean recorded) {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60))).start().until(100);
    if (recorded) {
      concert.press(BAR + 100).hit(62, BAR + 1920);
    } else {
      concert.press(100).hit(62, 1920).press(BAR - 200);
    }
    assertThat(concert.clip(A).layers()).hasSize(2);
    concert.at(BAR + 2500, reshape(new Reshaping.Halve()));
    concert.at(BAR + 2510, new EditCommand.RepeatClip(KEYS, new Clips(List.of(A)), 2));
    concert.until(2 * BAR + 10);
    assertThat(concert.clip(A).layers()).hasSize(1);
    assertThat(concert.attacks(60, 2 * BAR)).containsExactly(2L * BAR);
    if (recorded) {
      // what comes now has a layer of its own
      concert.hit(64, 2 * BAR + 960).press(2 * BAR + 1200).until(3 * BAR);
      assertThat(concert.clip(A).layers()).hasSize(2);
      concert.at(3 * BAR, new MendCommand.Peel());
      assertThat(concert.clip(A).layers()).hasSize(1);
    }
  }
}
