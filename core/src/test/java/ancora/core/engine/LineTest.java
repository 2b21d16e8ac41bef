package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Manner;
import ancora.core.note.Note;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.Leaving;
import org.junit.jupiter.api.Test;

/** Rule 5: what happens at the line, at entry, and at leaving. */
class LineTest {

  private static final Note X = note(1, 60, 3360, 1280);

  @Test
  void aNoteRingsOverAndIsAttackedOnceAPass() {
    Concert concert = Concert.with(clip(A, X)).start().until(3 * BAR);
    assertThat(concert.heard(60))
        .containsExactly(
            "on 0", "off 800", "on 3360", "off 4640", "on 7200", "off 8480", "on 11040");
  }

  @Test
  void cutAtTheLineItIsCut() {
    Concert concert =
        Concert.with(clip(A, X).withManner(Manner.DEFAULT.withRing(false))).start().until(2 * BAR);
    assertThat(concert.heard(60)).containsExactly("on 3360", "off 3840", "on 7200");
  }

  /** The example: with Y from −480 to 800 nothing is attacked at the line. */
  @Test
  void aTieIsOneGesture() {
    Note y = note(2, 60, -480, 1280);
    Concert concert = Concert.with(clip(A, note(1, 60, 3360, 480), y)).start().until(2 * BAR + 900);
    assertThat(concert.heard(60))
        .as("entering at 0 attacks it at 0")
        .containsExactly("on 0", "off 800", "on 3360", "off 4640", "on 7200", "off 8480");
  }

  /** The example: with a loop note at 240 it is off and on again there. */
  @Test
  void againEndsWhatRingsOver() {
    Concert concert = Concert.with(clip(A, X, note(2, 60, 240, 200))).start().until(2 * BAR);
    assertThat(concert.heard(60))
        .containsExactly(
            "on 0",
            "off 240",
            "on 240",
            "off 440",
            "on 3360",
            "off 4080",
            "on 4080",
            "off 4280",
            "on 7200");
  }

  @Test
  void aNoteAsLongAsTheLoopIsAttackedInEachPassAndALongerOneIsADrone() {
    Concert once = Concert.with(clip(A, note(1, 60, 0, 3900))).start().until(2 * BAR + 10);
    assertThat(once.heard(60))
        .containsExactly("on 0", "off 3840", "on 3840", "off 7680", "on 7680");
    Concert drone = Concert.with(clip(A, note(1, 60, 0, 5000))).start().until(9 * BAR);
    assertThat(drone.heard(60)).containsExactly("on 0");
    drone.at(9 * BAR + 500, new CueCommand.CueTacet(KEYS)).until(11 * BAR);
    assertThat(drone.heard(60)).containsExactly("on 0", "off " + 10 * BAR);
  }

  /** Held round: the loop takes the voice over, and what follows depends on the release. */
  @Test
  void aKeyHeldRoundBecomesALoopNoteOfOnePass() {
    Concert concert = Concert.with(clip(A, note(9, 40, 0, 60))).start().press(100);
    concert.play(60, 960, 960 + BAR + 500).until(960 + 3 * BAR + 10);
    assertThat(concert.heard(60))
        .as("released less than a beat after q + N: attacked from q + 2N on")
        .containsExactly(
            "on 960",
            "off " + (960 + 2 * BAR),
            "on " + (960 + 2 * BAR),
            "off " + (960 + 3 * BAR),
            "on " + (960 + 3 * BAR));
  }

  @Test
  void aKeyHeldLongerBecomesADrone() {
    Concert concert = Concert.with(clip(A, note(9, 40, 0, 60))).start().press(100);
    concert.play(60, 960, 960 + BAR + 1500).until(6 * BAR);
    assertThat(concert.heard(60)).containsExactly("on 960");
    concert.at(6 * BAR + 10, new CueCommand.Stop());
    assertThat(concert.heard(60)).hasSize(2).last().asString().startsWith("off");
  }

  @Test
  void whatIsUnderWayAtAnEntryIsAttackedWithTheRestOfItsLengthUnlessItIsNotWanted() {
    Concert wanted = Concert.with(clip(A, note(1, 60, 0, 100)), clip(B, X)).start();
    wanted.cue(B, 500).until(BAR + 2000);
    assertThat(wanted.heard(60)).containsExactly("on 0", "off 100", "on 3840", "off 4640");
    Concert not =
        Concert.with(
                clip(A, note(1, 60, 0, 100)),
                clip(B, X).withManner(Manner.DEFAULT.withUnderWay(false)))
            .start();
    not.cue(B, 500).until(BAR + 2000);
    assertThat(not.heard(60)).containsExactly("on 0", "off 100");
  }

  @Test
  void aPitchUnderWayInTheEnteringClipSoundsOnToTheNewEnd() {
    Concert concert = Concert.with(clip(A, note(1, 60, 2880, 1920)), clip(B, X)).start();
    concert.cue(B, 500).until(BAR + 2000);
    assertThat(concert.heard(60))
        .as("no second attack at the line between the two clips")
        .containsExactly("on 0", "off 960", "on 2880", "off 4640");
  }

  @Test
  void leavingCutsOrLetsRing() {
    Concert cut = Concert.with(clip(A, note(1, 60, 3360, 960)), clip(B, note(2, 62, 0, 60)));
    cut.start().cue(B, 500).until(2 * BAR);
    assertThat(cut.heard(60)).containsExactly("on 0", "off 480", "on 3360", "off 3840");
    Concert ring = Concert.with(clip(A, note(1, 60, 3360, 960)), clip(B, note(2, 62, 0, 60)));
    ring.at(0, new SettingCommand.SetLeaving(KEYS, Leaving.LET_RING))
        .start()
        .cue(B, 500)
        .until(2 * BAR);
    assertThat(ring.heard(60)).containsExactly("on 0", "off 480", "on 3360", "off 4320");
  }

  @Test
  void aPickupSoundsBeforeTheEntryPoint() {
    Note before = note(1, 60, -480, 240);
    Note over = note(2, 62, -240, 480);
    Concert concert =
        Concert.with(
            clip(A, note(3, 50, 0, 60)),
            clip(B, before, over, note(4, 64, 0, 100)).withManner(Manner.DEFAULT.withPickup(960)));
    concert.start().cue(B, 500).until(2 * BAR);
    assertThat(concert.heard(60)).containsExactly("on 3360", "off 3600");
    assertThat(concert.heard(62)).containsExactly("on 3600", "off 4080");
    assertThat(concert.heard(64)).containsExactly("on 3840", "off 3940");
  }

  @Test
  void aPickupThatWouldComeTooLateIsLeftOutWhole() {
    Concert concert =
        Concert.with(
            clip(A, note(3, 50, 0, 60)),
            clip(B, note(1, 60, -480, 100), note(2, 62, -120, 60), note(4, 64, 0, 100))
                .withManner(Manner.DEFAULT.withPickup(960)));
    concert.start().cue(B, 3500).until(BAR + 200);
    assertThat(concert.heard(60)).isEmpty();
    assertThat(concert.heard(62)).isEmpty();
    assertThat(concert.heard(64)).containsExactly("on 3840", "off 3940");
  }

  /** A missed note sounds late by no more than 30 ms, or with at least half of it left. */
  @Test
  void anEntryThatComesTooLateTakesUpWhatIsWorthIt() {
    Concert concert =
        Concert.with(
            clip(A, note(3, 50, 0, 60)),
            clip(B, note(1, 60, 0, 1000), note(2, 62, 0, 150), note(4, 64, 40, 400)));
    concert.start().late(BAR + 50, BAR + 80, new CueCommand.CueClip(KEYS, B)).until(BAR + 1500);
    assertThat(concert.heard(60)).containsExactly("on 3921", "off 4840");
    assertThat(concert.heard(62)).as("less than 240 ticks remain: it waits a pass").isEmpty();
    assertThat(concert.heard(64))
        .as("no more than 30 ms late")
        .containsExactly("on 3921", "off 4280");
  }

  /** Rule 3: held over the start, with more of it after than before, it is a loop note there. */
  @Test
  void aNoteHeldOverTheStartOfARecordingIsALoopNote() {
    Concert concert = Concert.with().start().press(3000).play(60, 3200, 5500).press(2 * BAR - 10);
    concert.until(2 * BAR + 2500);
    assertThat(concert.heard(60))
        .containsExactly("on 3200", "off 5500", "on 7680", "off " + (7680 + 5500 - 3840));
  }
}
