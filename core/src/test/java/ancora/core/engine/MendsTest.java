package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static ancora.core.engine.Concert.shelved;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.Reshaping;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.note.Grid;
import ancora.core.note.InputGrid;
import ancora.core.note.Note;
import ancora.core.note.NoteRepeat;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.editing.EditCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.time.Tempo;
import java.util.List;
import java.util.function.LongUnaryOperator;
import org.junit.jupiter.api.Test;

/** Rules 7 to 10: replace, punch, takes, comp, held erase, note repeat; each undone exactly. */
class MendsTest {

  private static final Clip FOUR =
      clip(
          A,
          note(1, 36, 0, 60),
          note(2, 38, 960, 60),
          note(3, 36, 1920, 60),
          note(4, 38, 2880, 60));

  private static Concert vamping() {
    return Concert.with(FOUR).start();
  }

  /**
   * What was played before the press that took the pass off goes with it, however late it comes.
   */
  @Test
  void anEarlyDownbeatThatComesAfterThePeelOfItsPassIsOffAsWell() {
    Command down = new HandCommand.KeyDown(Concert.key(50), 100);
    Concert intime = vamping().at(BAR - 1000, new MendCommand.Replace(true));
    intime.down(50, BAR - 48).late(BAR, BAR + 48, new MendCommand.Peel()).until(BAR + 1700);
    Concert late = vamping().at(BAR - 1000, new MendCommand.Replace(true));
    late.late(BAR, BAR + 48, new MendCommand.Peel()).late(BAR - 48, BAR + 1700, down);
    assertThat(intime.clip(A).layers()).isEqualTo(late.clip(A).layers());
    assertThat(late.meant(late.clip(A))).doesNotContain(BAR - 48);
  }

  @Test
  void replacePutsNewNotesForOldInTheStretchPassed() {
    Concert concert = vamping();
    concert.at(BAR + 900, new MendCommand.Replace(true));
    concert.play(50, BAR + 1000, BAR + 1100).until(BAR + 2000);
    concert.at(BAR + 2000, new MendCommand.Replace(false)).until(3 * BAR);
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 1000L, 2880L);
    assertThat(concert.attacks(38, BAR)).containsExactly(BAR + 2880, 2 * BAR + 2880);
    assertThat(concert.attacks(36, BAR)).containsExactly(BAR, 2 * BAR);
    Clip after = concert.clip(A);
    concert.at(3 * BAR + 10, new UndoCommand.Undo());
    assertThat(concert.clip(A).notes()).isEqualTo(FOUR.notes().toList());
    concert.at(3 * BAR + 20, new UndoCommand.Redo());
    assertThat(concert.clip(A)).isEqualTo(after);
  }

  /**
   * A downbeat that was early and is on its line by the grid goes with its bar, and stays with it.
   */
  @Test
  void anEarlyDownbeatGoesWithItsBar() {
    Note early = Note.of(5, 50, 90, -20, 0, 60);
    Concert concert = Concert.with(clip(A, early, note(6, 52, 1920, 60))).start();
    concert.at(1000, new MendCommand.Replace(true)).until(BAR - 100);
    concert.at(BAR - 10, new MendCommand.Replace(false)).until(2 * BAR + 10);
    assertThat(concert.meant(concert.clip(A)))
        .as("its meant onset was not passed")
        .containsExactly(0L);
    assertThat(concert.attacks(50, BAR - 100)).containsExactly(BAR, 2 * BAR);
  }

  /** A late end of an overdub takes a note back that a held erase had taken out by then. */
  @Test
  void whatWasNeverRecordedIsTakenOutByNoLayerAndTheHoldGoesOn() {
    Concert concert = vamping().at(BAR + 900, new PressCommand.MainPress());
    InputGrid grid = InputGrid.of(Grid.THIRTY_SECOND);
    concert.at(BAR + 950, new SettingCommand.SetInputGrid(KEYS, grid)).down(50, 2 * BAR + 100);
    concert.at(2 * BAR + 105, new MendCommand.EraseHeld(true)).until(2 * BAR + 190);
    assertThat(concert.clip(A).layers()).as("the note, and what takes it out").hasSize(3);
    concert.at(2 * BAR + 200, new PressCommand.MainPress());
    assertThat(concert.clip(A).layers()).hasSize(1);
    concert.down(38, 2 * BAR + 700).until(3 * BAR);
    concert.at(3 * BAR + 10, new MendCommand.EraseHeld(false));
    assertThat(concert.clip(A).layers().get(1).notesOut()).containsExactlyInAnyOrder(2L, 4L);
    concert.at(3 * BAR + 20, new UndoCommand.Undo());
    assertThat(concert.clip(A).layers()).hasSize(1);
  }

  private static Concert fourBars(Note... notes) {
    return Concert.with(clip(A, 0, 4 * BAR, notes)).start();
  }

  /** Worked value 6. */
  @Test
  void offTheGridAPunchTakesOutTheDownbeatThatIsEarlyForItAndLeavesThatOfTheNextBar() {
    Concert concert =
        fourBars(
            note(1, 36, 2 * BAR - 20, 60), note(2, 36, 4 * BAR - 20, 60), note(3, 38, 960, 60));
    concert.at(900, new MendCommand.Punch(2 * BAR, 4 * BAR));
    concert.hit(50, 2 * BAR - 25).hit(52, 3 * BAR + 960).until(5 * BAR);
    assertThat(concert.on().open()).as("its range has gone by").isEmpty();
    assertThat(concert.meant(concert.clip(A)))
        .containsExactly(960L, 2 * BAR - 25, 3 * BAR + 960, 4 * BAR - 20);
  }

  @Test
  void whatIsEarlyForAPunchsLastLineIsInHindsight() {
    Concert concert = fourBars(note(3, 38, 960, 60));
    concert.at(900, new MendCommand.Punch(2 * BAR, 3 * BAR));
    concert.hit(50, 2 * BAR + 960).hit(52, 3 * BAR - 30).until(5 * BAR);
    assertThat(concert.meant(concert.clip(A))).containsExactly(960L, 2 * BAR + 960);
  }

  /** Worked value 7: 25 ms are 48 ticks, 5 ms are 10. */
  @Test
  void replaceIsForgivenAtABarLineInsideTheLoop() {
    Concert concert = fourBars(note(1, 36, BAR, 60), note(2, 36, 2 * BAR, 60));
    concert.hit(50, BAR + 10).at(BAR + 48, new MendCommand.Replace(true));
    concert.at(BAR + 1920, new MendCommand.Replace(false));
    assertThat(concert.meant(concert.clip(A))).containsExactly(BAR + 10, 2 * BAR);
  }

  /** Worked value 8; early, as it was played, or on its line. */
  @Test
  void replaceSwitchedOffJustAfterABarLineLeavesThatBarsDownbeat() {
    for (long downbeat : new long[] {2 * BAR - 20, 2 * BAR, 2 * BAR + 10}) {
      Concert concert = fourBars(note(1, 36, BAR, 60), note(2, 36, downbeat, 60));
      concert.at(BAR - 5, new MendCommand.Replace(true)).hit(50, BAR + 960);
      concert.at(2 * BAR + 48, new MendCommand.Replace(false)).until(6 * BAR);
      assertThat(concert.meant(concert.clip(A))).containsExactly(BAR + 960, downbeat);
    }
  }

  /** A pass that is replaced from its line on takes its own downbeat along, though it was early. */
  @Test
  void aReplacedPassTakesTheDownbeatThatIsEarlyForItAlong() {
    Concert concert =
        Concert.with(clip(A, note(1, 36, BAR - 20, 60), note(2, 38, 960, 60))).start();
    concert.at(BAR, new MendCommand.Replace(true)).hit(50, BAR + 480).until(3 * BAR + 10);
    assertThat(concert.on().open()).isEmpty();
    assertThat(concert.meant(concert.clip(A))).containsExactly(480L);
    assertThat(concert.attacks(36, BAR)).isEmpty();
  }

  /** What is played and what is taken out early for the line of a late press are of one layer. */
  @Test
  void undoTakesAllBackThatWasEarlyForAReplace() {
    Clip before = clip(A, note(1, 36, BAR - 20, 60), note(2, 38, 960, 60));
    Concert concert = Concert.with(before).start();
    concert.hit(50, BAR - 22).at(BAR + 60, new MendCommand.Replace(true)).until(BAR + 500);
    assertThat(concert.clip(A).layers()).hasSize(2);
    concert.at(BAR + 500, new UndoCommand.Undo(true)).until(BAR + 510);
    assertThat(concert.meant(concert.clip(A))).containsExactly(960L, BAR - 20);
  }

  /** Rule 3: nothing begins where a replace ends, so it is as where a loop closes. */
  @Test
  void whatIsEarlyForTheEndOfAReplaceGoesToTheStart() {
    Concert concert =
        Concert.of(
            show ->
                show.mapPart(
                    KEYS,
                    part ->
                        shelved(part, clip(A, note(2, 38, 960, 60)))
                            .withInputGrid(InputGrid.of(Grid.SIXTEENTH))));
    concert.start().at(BAR, new MendCommand.Replace(true)).hit(50, BAR + 960);
    concert.hit(52, 2 * BAR - 40).until(3 * BAR);
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 960L);
    assertThat(concert.clip(A).layers()).hasSize(2);
    concert.at(3 * BAR + 10, new MendCommand.Replace(true)).hit(50, 3 * BAR + 20);
    concert.hit(50, 4 * BAR - 40).until(5 * BAR);
    assertThat(concert.meant(concert.clip(A))).as("it is there already").containsExactly(0L);
  }

  @Test
  void aPunchIsConfinedToItsRangeAndSilencesItAtOnce() {
    Concert concert = vamping();
    concert.at(BAR + 100, new MendCommand.Punch(960, 1920));
    concert.play(50, BAR + 500, BAR + 600).play(51, BAR + 1000, BAR + 1100).until(2 * BAR);
    concert.at(2 * BAR, new MendCommand.PunchOff());
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 1000L, 1920L, 2880L);
    assertThat(concert.attacks(38, BAR)).containsExactly(BAR + 2880);
    assertThat(concert.refused(2 * BAR + 1, new MendCommand.Punch(960, 9999)))
        .contains("within the loop");
  }

  @Test
  void theBarThatSoundsCanBePunched() {
    Concert concert =
        Concert.with(clip(A, 0, 2 * BAR, note(1, 36, 0, 60), note(2, 38, BAR + 960, 60))).start();
    concert.at(BAR + 500, new MendCommand.PunchHere()).play(50, BAR + 1000, BAR + 1100);
    concert.at(BAR + 2000, new MendCommand.PunchOff());
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, BAR + 1000);
  }

  @Test
  void eachPassIsATakeAndTheLastCompleteOneIsHeard() {
    Concert concert = vamping();
    concert.at(BAR - 5, new MendCommand.Takes(true));
    concert.play(50, BAR + 480, BAR + 600);
    concert.play(51, 2 * BAR + 480, 2 * BAR + 600).play(52, 2 * BAR + 960, 2 * BAR + 1000);
    concert.play(53, 4 * BAR + 480, 4 * BAR + 600);
    concert.at(4 * BAR + 1000, new MendCommand.Takes(false)).until(6 * BAR);
    Clip clip = concert.clip(A);
    assertThat(clip.takes().stream().map(Take::partial))
        .as("an empty pass has vanished, the stub is marked")
        .containsExactly(false, false, false, true);
    assertThat(clip.take().number()).isEqualTo(3);
    assertThat(concert.attacks(36, BAR)).as("the old take is silent meanwhile").isEmpty();
    assertThat(concert.attacks(51, 5 * BAR)).containsExactly(5 * BAR + 480);
    concert.at(6 * BAR, new UndoCommand.Undo());
    assertThat(concert.clip(A).notes()).isEqualTo(FOUR.notes().toList());
  }

  /** What a clip is called is not part of what is played on it. */
  @Test
  void ofTakesThatEndedBeforeTheyBeganNoCopyIsLeft() {
    Concert concert = Concert.with(FOUR).start().at(1000, new MendCommand.Takes(true));
    concert.hit(50, 1300).at(1400, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Twice()));
    concert.until(1950).late(900, 2000, new PressCommand.MainPress());
    assertThat(concert.clip(A).window().length()).isEqualTo(2 * BAR);
    assertThat(concert.clip(A).takes()).hasSize(1);
  }

  /** What was early for a take that does not begin changes nothing from when it is known. */
  @Test
  void theTakeThatIsHeardSoundsFromTheLineAtWhichTakesEnded() {
    Concert concert = Concert.with(clip(A, note(1, 40, 0, 60))).start();
    concert.at(0, new MendCommand.Takes(true)).hit(61, BAR - 40).hit(62, 2 * BAR - 40);
    concert.at(2 * BAR + 48, new PressCommand.MainPress()).until(3 * BAR - 10);
    assertThat(concert.attacks(61, 2 * BAR - 10)).containsExactly(2 * BAR + 48);
    Concert left = Concert.with(clip(A, note(1, 40, 0, 60))).start();
    left.at(0, new MendCommand.Takes(true)).at(BAR + 900, new CueCommand.CueTacet(KEYS));
    left.hit(62, 2 * BAR - 40).until(3 * BAR);
    assertThat(left.attacks(40, 10)).isEmpty();
  }

  /** Twice as long it has the take twice. */
  @Test
  void aTakeThatWasWholeBeforeTheWindowWasDoubledIsWhole() {
    Concert concert = Concert.with(FOUR).start().at(0, new MendCommand.Takes(true)).hit(50, 960);
    concert.at(BAR + 900, new ShelfCommand.Reshape(KEYS, A, new Reshaping.Twice()));
    concert.at(2 * BAR, new MendCommand.Takes(false)).until(2 * BAR + 10);
    assertThat(concert.clip(A).take().number()).isEqualTo(2);
    assertThat(concert.clip(A).take().partial()).isFalse();
  }

  @Test
  void aNameGivenWhileMendingStays() {
    for (Command mend : List.of(new MendCommand.Replace(true), new MendCommand.Takes(true))) {
      Command end =
          mend instanceof MendCommand.Takes
              ? new MendCommand.Takes(false)
              : new MendCommand.Replace(false);
      for (boolean plays : List.of(false, true)) {
        Concert concert = vamping().at(BAR - 5, mend);
        concert.at(BAR + 100, new ShelfCommand.RenameClip(KEYS, A, "fog"));
        if (plays) {
          concert.play(50, BAR + 1000, BAR + 1100);
        }
        concert.at(2 * BAR + 10, end);
        assertThat(concert.clip(A).name()).isEqualTo("fog");
        if (plays) {
          concert.at(2 * BAR + 20, new UndoCommand.Undo());
          assertThat(concert.clip(A).notes()).isEqualTo(FOUR.notes().toList());
          assertThat(concert.clip(A).name()).isEqualTo("fog");
        }
      }
    }
  }

  @Test
  void takesAreHeardRenamedDeletedCroppedAndSpread() {
    Concert concert = vamping();
    concert.at(BAR - 5, new MendCommand.Takes(true));
    concert.play(50, BAR + 480, BAR + 600).play(51, 2 * BAR + 480, 2 * BAR + 600);
    concert.at(3 * BAR, new MendCommand.Takes(false));
    concert.at(3 * BAR + 500, new MendCommand.HearTake(KEYS, A, 1, false)).until(5 * BAR);
    assertThat(concert.attacks(36, 3 * BAR)).startsWith(4 * BAR);
    concert.at(5 * BAR, new MendCommand.RenameTake(KEYS, A, 2, "calm"));
    assertThat(concert.refused(5 * BAR, new MendCommand.DeleteTake(KEYS, A, 1)))
        .contains("is heard");
    concert.at(5 * BAR + 1, new MendCommand.SpreadTakes(KEYS, A));
    assertThat(concert.stage().show().part(KEYS).shelf())
        .extracting(Clip::letter, Clip::name, Clip::noteCount)
        .contains(org.assertj.core.groups.Tuple.tuple("b", "calm", 1));
    concert
        .at(5 * BAR + 2, new UndoCommand.Undo())
        .at(5 * BAR + 3, new MendCommand.CropTakes(KEYS, A));
    assertThat(concert.clip(A).takes()).hasSize(1);
  }

  @Test
  void aCompIsPutTogetherFromStretchesThatCoverTheLoopOnce() {
    Note longNote = note(21, 36, 480, 3000);
    Clip two =
        FOUR.with(FOUR.take().withNumber(2))
            .with(Take.of(1, List.of(new ancora.core.clip.Layer(1, List.of(longNote)))))
            .withHeard(2);
    Concert concert = Concert.with(two);
    concert.at(
        0,
        new MendCommand.Comp(KEYS, A, List.of(new Stretch(0, 960, 1), new Stretch(960, 3840, 2))));
    Clip comp = concert.clip(A);
    assertThat(comp.notes().map(Note::meant)).containsExactly(480L, 960L, 1920L, 2880L);
    assertThat(comp.notes().findFirst().orElseThrow().length())
        .as("it ends where its pitch is attacked next")
        .isEqualTo(1440);
    assertThat(comp.takes()).as("the takes stay").hasSize(3);
    String gap =
        concert.refused(
            1,
            new MendCommand.Comp(
                KEYS, A, List.of(new Stretch(0, 960, 1), new Stretch(1000, 3840, 2))));
    assertThat(gap).contains("cover the whole loop");
  }

  @Test
  void heldEraseTakesOutWhatPassesOnAHeldPitch() {
    Concert concert = vamping();
    concert.at(BAR + 10, new MendCommand.EraseHeld(true)).down(38, BAR + 500).until(BAR + 1500);
    concert.up(38, BAR + 1500).at(BAR + 1600, new MendCommand.EraseHeld(false)).until(3 * BAR);
    assertThat(concert.meant(concert.clip(A))).containsExactly(0L, 1920L, 2880L);
    assertThat(concert.attacks(38, BAR))
        .as("the key is not heard, nor what it erases")
        .containsExactly(BAR + 2880, 2 * BAR + 2880);
    concert.at(3 * BAR, new UndoCommand.Undo());
    assertThat(concert.clip(A).notes()).isEqualTo(FOUR.notes().toList());
  }

  /** At a tempo whose lines lie between microseconds: the plan for the line comes just after it. */
  @Test
  void aHoldEndsWhereATakeIsHeardAndItsDownbeatSounds() {
    Clip two = FOUR.with(FOUR.take().withNumber(2)).withHeard(1);
    Concert concert = betweenMicros(two);
    concert.start().at(5300, new MendCommand.EraseHeld(true)).down(36, 5400);
    concert.at(5600, new MendCommand.HearTake(KEYS, A, 1, false)).until(4 * BAR);
    assertThat(concert.attacks(36, 0)).containsExactly(0L, 1920L, BAR, 2 * BAR, 3 * BAR);
  }

  /** At a tempo at which a tick is no whole number of microseconds. */
  private static Concert betweenMicros(Clip clip) {
    return Concert.of(
        show -> show.mapPart(KEYS, p -> Concert.shelved(p, clip)).withTempo(Tempo.of(91.7)));
  }

  /**
   * What a punch has brought is flattened within its range: nothing is played in the rest of it,
   * which takes nothing out, and what a stutter repeats out of it sounds on the first tick after
   * it.
   */
  @Test
  void whatARangeDoesNotTakeOutSoundsFromItsVeryEndOn() {
    Clip one = clip(A, note(1, 36, 3120, 15));
    Concert concert = betweenMicros(one);
    LongUnaryOperator at120 = tick -> Math.round(tick * 120 / 91.7);
    concert.start().at(at120.applyAsLong(BAR + 3264), new MendCommand.Stutter(true, 4, false));
    concert.at(at120.applyAsLong(3 * BAR + 1440), new MendCommand.Punch(1920, 3360));
    concert.hit(50, at120.applyAsLong(3 * BAR + 1968));
    concert.at(at120.applyAsLong(3 * BAR + 2400), new EditCommand.Flatten(KEYS, A));
    concert.until(at120.applyAsLong(4 * BAR));
    assertThat(concert.attacks(36, 3 * BAR + 1450)).startsWith(3 * BAR + 3360);
  }

  @Test
  void whatWasUndoneWhileItsPitchWasHeldIsNotErased() {
    Concert concert = vamping().press(0).hit(60, 480).press(BAR - 10).until(BAR + 10);
    concert.at(BAR + 20, new MendCommand.EraseHeld(true)).down(60, BAR + 30);
    concert.at(BAR + 100, new UndoCommand.Undo(true)).up(60, 3 * BAR);
    concert.at(3 * BAR + 10, new MendCommand.EraseHeld(false));
    concert.at(3 * BAR + 20, new UndoCommand.Redo()).until(3 * BAR + 200);
    concert.late(2 * BAR, 3 * BAR + 200, new HandCommand.KeyDown(Concert.key(61), 90));
    concert.late(2 * BAR + 9, 3 * BAR + 210, new HandCommand.KeyUp(Concert.key(61)));
    concert.until(3 * BAR + 300);
    assertThat(concert.clip(A).notes().filter(n -> n.pitch() == 60)).hasSize(1);
  }

  /** It came up before erase was held again: that hold has erased nothing. */
  @Test
  void aKeyThatWasUpBeforeErasesNothingInTheNextHold() {
    Concert concert = vamping().at(100, new MendCommand.EraseHeld(true)).down(38, 200);
    concert.at(1500, new MendCommand.EraseHeld(false)).at(1600, new MendCommand.EraseHeld(true));
    concert.until(3000).late(1000, 3000, new HandCommand.KeyUp(Concert.key(38))).until(3100);
    assertThat(concert.meant(concert.clip(A))).contains(2880L).doesNotContain(960L);
  }

  @Test
  void heldEraseTakesOutADroneThatSounds() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 9000), note(2, 62, 480, 60))).start();
    concert.down(60, 2 * BAR).up(60, 2 * BAR + 10);
    concert.at(2 * BAR + 100, new MendCommand.EraseHeld(true)).down(60, 2 * BAR + 200);
    concert.until(2 * BAR + 300).up(60, 2 * BAR + 400);
    concert.at(2 * BAR + 500, new MendCommand.EraseHeld(false));
    assertThat(concert.meant(concert.clip(A))).containsExactly(480L);
  }

  @Test
  void heldKeysAreRepeatedOnEachLineAndRecordedThere() {
    Concert concert = vamping();
    concert.at(50, new HandCommand.RepeatNotes(new NoteRepeat(Grid.EIGHTH, 50))).press(100);
    concert.play(50, 530, 1500).until(BAR);
    assertThat(concert.heard(50))
        .as("50 ticks, 26 ms, after a line: it counts for it and sounds at once")
        .containsExactly("on 531", "off 720", "on 960", "off 1200", "on 1440", "off 1500");
    assertThat(concert.clip(A).take().layer(2).orElseThrow().notes())
        .extracting(Note::meant, Note::length)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(480L, 240L),
            org.assertj.core.groups.Tuple.tuple(960L, 240L),
            org.assertj.core.groups.Tuple.tuple(1440L, 60L));
    concert.until(2 * BAR);
    assertThat(concert.attacks(50, BAR)).containsExactly(BAR + 480, BAR + 960, BAR + 1440);
  }

  @Test
  void aRepeatOnTheClosingLineIsTheFirstOfTheNextPass() {
    Concert concert = Concert.with().start();
    concert.at(50, new HandCommand.RepeatNotes(new NoteRepeat(Grid.QUARTER, 50)));
    concert.at(
        60,
        new SettingCommand.SetRecording(concert.stage().show().recording().withOverdubAfter(true)));
    concert.press(BAR - 10).down(50, BAR + 1900).press(2 * BAR - 20);
    concert.untilJustBefore(2 * BAR).until(2 * BAR + 100).up(50, 2 * BAR + 500);
    assertThat(concert.meant(concert.newest())).containsExactly(0L, 1920L, 2880L);
  }

  /** More than 60 ms after a line: from the next one. Pressure gives the velocity. */
  @Test
  void aPressWellAfterALineCountsForTheNext() {
    Concert concert = vamping();
    concert.at(50, new HandCommand.RepeatNotes(new NoteRepeat(Grid.QUARTER, 50)));
    concert.down(50, 1100).until(2000);
    assertThat(concert.attacks(50, 0)).containsExactly(1920L);
    concert.at(2100, new HandCommand.RepeatNotes(new NoteRepeat(Grid.EIGHTH, 66.7)));
    concert.until(3000);
    assertThat(concert.attacks(50, 2000))
        .as("a new grid counts from its own next line, with its swing")
        .containsExactly(2560L, 2880L);
  }
}
