package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.record.FirstRecording;
import ancora.core.rules.Command;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.Part;
import org.junit.jupiter.api.Test;

/** Rule 14: one press finishes here and goes on recording there. */
class HandOffTest {

  private static final Command HAND_OFF = new PressCommand.HandOff();

  private static Concert fourBars() {
    return Concert.with(clip(A, 0, 4 * BAR, note(1, 60, 0, 60))).start();
  }

  private static Part made(Concert concert) {
    return concert.stage().show().part(concert.stage().armed().orElseThrow());
  }

  private static FirstRecording first(Concert concert) {
    return concert.stage().on(made(concert).id()).first().orElseThrow();
  }

  @Test
  void nothingPausesAndTheNewPartHasSoundAndSettings() {
    Concert concert = fourBars();
    concert.at(10, new SettingCommand.SetPartInput(KEYS, keys(concert).input().withTranspose(12)));
    concert.press(100).play(62, 480, 600).at(BAR + 700, HAND_OFF);
    Part made = made(concert);
    assertThat(made.name()).isEqualTo("Keys 2");
    assertThat(made.sound()).isEqualTo(keys(concert).sound());
    assertThat(made.input()).isEqualTo(keys(concert).input());
    assertThat(made.inputGrid()).isEqualTo(keys(concert).inputGrid());
    assertThat(concert.on().vamp().orElseThrow().clip()).isEqualTo(A);
    concert.until(9 * BAR);
    assertThat(concert.attacks(60, 0)).containsExactly(0L, 4 * BAR, 8 * BAR);
    assertThat(concert.attacks(74, 600))
        .as("the layer that was begun is kept")
        .containsExactly(4 * BAR + 480, 8 * BAR + 480);
  }

  /** What is recorded afterwards on the part that was left is not what was handed over. */
  @Test
  void thePartThatWasLeftIsRecordedOnAgain() {
    Concert concert = fourBars().press(100).hit(62, 480).at(BAR + 700, HAND_OFF);
    concert.until(5 * BAR + 10).hit(74, 5 * BAR + 480).press(6 * BAR - 400).until(6 * BAR + 10);
    concert.at(6 * BAR + 20, new PressCommand.ArmAlongside(KEYS, true)).press(6 * BAR + 100);
    concert.hit(76, 6 * BAR + 960).until(7 * BAR);
    assertThat(concert.stage().on(KEYS).open()).as("overdub goes on").isPresent();
    assertThat(concert.attacks(76, 9 * BAR)).isEmpty();
    assertThat(concert.clip(A).notes().map(Note::pitch)).contains(76);
  }

  /** Early notes for the new A go there; all others stay where they were pressed. */
  @Test
  void earlyNotesOfTheNewStartGoToTheNewPart() {
    Concert concert = fourBars().press(100);
    concert.at(3 * BAR + 1000, HAND_OFF);
    assertThat(first(concert).start()).isEqualTo(4 * BAR);
    concert.play(70, 3 * BAR + 2000, 3 * BAR + 2100).play(72, 4 * BAR - 60, 4 * BAR + 200);
    concert.press(5 * BAR - 20).until(5 * BAR + 10);
    assertThat(made(concert).shelf().get(0).notes())
        .extracting(Note::pitch, Note::meant)
        .containsExactly(org.assertj.core.groups.Tuple.tuple(72, 0L));
    assertThat(concert.clip(A).notes().map(Note::pitch)).containsExactly(60, 70);
  }

  /** At least three quarters of the pass, less the forgiveness, which is 120 ms or 230 ticks. */
  @Test
  void theForgivenessCountsForTheThreeQuarters() {
    assertThat(first(fourBars().press(100).at(3 * BAR - 225, HAND_OFF)).start()).isEqualTo(4 * BAR);
    assertThat(first(fourBars().press(100).at(3 * BAR - 240, HAND_OFF)).start()).isEqualTo(3 * BAR);
  }

  @Test
  void inTakesModeTheLastCompleteTakeIsHeardAndTheOthersStay() {
    Concert concert = Concert.with(clip(A, note(1, 60, 0, 60))).start();
    concert.at(BAR - 5, new MendCommand.Takes(true));
    concert.play(62, BAR + 480, BAR + 600).play(64, 2 * BAR + 480, 2 * BAR + 600);
    concert.play(65, 3 * BAR + 100, 3 * BAR + 200).at(3 * BAR + 500, HAND_OFF).until(5 * BAR);
    Clip clip = concert.clip(A);
    assertThat(clip.notes().map(Note::pitch)).containsExactly(64);
    assertThat(clip.takes().stream().map(Take::partial)).containsExactly(false, false, false, true);
    assertThat(concert.attacks(64, 4 * BAR)).containsExactly(4 * BAR + 480);
  }

  @Test
  void itIsOneStepOfUndo() {
    Concert concert = fourBars().press(100).at(BAR + 700, HAND_OFF);
    assertThat(concert.stage().show().parts()).hasSize(3);
    concert.at(BAR + 900, new UndoCommand.Undo());
    assertThat(concert.stage().on(made(concert).id()).first()).as("called off").isEmpty();
    concert.at(BAR + 910, new UndoCommand.Undo());
    assertThat(concert.stage().show().parts()).hasSize(2);
    assertThat(concert.on().vamp().orElseThrow().clip()).isEqualTo(A);
  }

  /** What was armed before is armed again, and what is begun on it then is not cut short. */
  @Test
  void undoneItGivesHandsBackToThePartBefore() {
    Concert concert = fourBars().press(100).play(62, 480, 600).at(BAR + 700, HAND_OFF);
    concert.until(2 * BAR + 10).at(2 * BAR + 20, new UndoCommand.Undo());
    concert.at(2 * BAR + 30, new UndoCommand.Undo());
    assertThat(concert.stage().armed()).contains(KEYS);
    concert.at(2 * BAR + 100, new MendCommand.Replace(true)).until(2 * BAR + 500);
    assertThat(concert.on().recording().orElseThrow().isOpen()).isTrue();
  }

  @Test
  void withNothingToFinishOrSixteenPartsItIsRefused() {
    Concert still = Concert.with();
    assertThat(still.refused(0, HAND_OFF)).endsWith(".");
    Concert concert = fourBars();
    for (int i = 3; i <= 16; i++) {
      concert.at(10, new SettingCommand.AddPart("Bell " + i, keys(concert).sound()));
    }
    concert.at(20, new PressCommand.Arm(KEYS)).press(100);
    assertThat(concert.refused(BAR + 700, HAND_OFF)).contains("16 parts");
    assertThat(concert.on().recording().orElseThrow().isOpen()).as("it goes on").isTrue();
  }

  private static Part keys(Concert concert) {
    return concert.stage().show().part(KEYS);
  }
}
