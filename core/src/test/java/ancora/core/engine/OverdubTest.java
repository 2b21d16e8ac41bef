package ancora.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.RecordingSettings;
import org.junit.jupiter.api.Test;

/** Rule 6: overdub, layers, peel. */
class OverdubTest {

  /** A bar with a note at 0 and one at 1920, vamping from 3840. */
  private static Performer vamping() {
    return Performer.with(RecordingSettings.DEFAULT.withCountInBars(0))
        .start()
        .press(0)
        .hit(36, 0)
        .hit(36, 1920)
        .press(3840)
        .until(3840);
  }

  private static Performer overdubbing() {
    return vamping().press(4000);
  }

  @Test
  void eachPassMakesALayer() {
    Performer performer = overdubbing().hit(38, 4800).hit(38, 6720).hit(42, 8000).hit(42, 16000);
    assertThat(performer.layerSizes()).containsExactly(2, 2, 1, 1);
  }

  /** Played at 40: q = 0, first sounded by the loop a pass later. */
  @Test
  void aNoteHeardLiveWaitsAPass() {
    Performer performer = overdubbing().hit(38, 7720);
    assertThat(performer.firstSounded(38, 7720)).isEqualTo(7680 + 3840);
  }

  /** Played at 3800 of the pass: q is the line, first sounded a whole pass after the line. */
  @Test
  void aNoteMovedOverTheLineWaitsFromTheLine() {
    Performer performer = overdubbing().hit(38, 3840 + 3800);
    assertThat(performer.meant()).containsExactly(0L, 0L, 1920L);
    assertThat(performer.firstSounded(38, 7640)).isEqualTo(7680 + 3840);
  }

  @Test
  void aNoteMovedOverTheLineStaysWithItsPassIfItIsAlone() {
    Performer performer = overdubbing().hit(38, 4800).hit(38, 7640).until(12000);
    assertThat(performer.layerSizes()).containsExactly(2, 2);
  }

  @Test
  void aNoteMovedOverTheLineJoinsTheNextPassIfThatGetsAnother() {
    Performer performer = overdubbing().hit(38, 4800).hit(38, 7640).hit(42, 8640);
    assertThat(performer.layerSizes()).containsExactly(2, 1, 2);
    assertThat(performer.clip().layers().get(performer.clip().layers().size() - 1).notes())
        .extracting(n -> n.meant())
        .contains(0L, 960L);
  }

  @Test
  void switchedOnItTakesInWhatWasJustPlayed() {
    Performer performer = vamping().hit(38, 4800).press(4900);
    assertThat(performer.layerSizes()).containsExactly(2, 1);
    assertThat(vamping().hit(38, 4600).press(4900).layerSizes()).containsExactly(2);
  }

  @Test
  void switchedOffJustAfterALineItLeavesTheNotesSince() {
    Performer performer = overdubbing().hit(38, 4800).hit(42, 7700).press(7800);
    assertThat(performer.layerSizes()).containsExactly(2, 1);
    Performer later = overdubbing().hit(38, 4800).hit(42, 7700).press(8000);
    assertThat(later.layerSizes()).containsExactly(2, 1, 1);
  }

  @Test
  void offAndOnAgainNothingIsRecordedTwice() {
    Performer performer = overdubbing().hit(38, 4800).press(4830).press(4860).hit(42, 5760);
    assertThat(performer.layerSizes()).containsExactly(2, 1, 1);
  }

  @Test
  void whileVampingNothingIsRecordedButAllIsRemembered() {
    Performer performer = vamping().hit(38, 5000).hit(38, 6000);
    assertThat(performer.layerSizes()).containsExactly(2);
    assertThat(performer.on().hindsight().notes().filter(p -> !p.recorded())).hasSize(2);
  }

  @Test
  void peelAndRestoreAreInverses() {
    Performer performer = overdubbing().hit(38, 4800).hit(38, 8640).hit(42, 9600);
    Clip full = performer.clip();
    performer.peel(10_000);
    assertThat(performer.layerSizes()).containsExactly(2, 1);
    performer.peel(10_100);
    assertThat(performer.layerSizes()).containsExactly(2);
    performer.restore(10_200).restore(10_300);
    assertThat(performer.clip()).isEqualTo(full);
  }

  @Test
  void peelStopsAtTheFirstRecording() {
    Performer performer = vamping();
    assertThat(performer.refusalOf(new MendCommand.Peel(), 5000)).contains("clear");
    performer.doNow(new MendCommand.Clear(), performer.micros(5050));
    assertThat(performer.part().shelf()).as("the first press only says so").isNotEmpty();
    performer.doNow(new MendCommand.Clear(), performer.micros(5100));
    assertThat(performer.part().shelf()).isEmpty();
    assertThat(performer.engine.plan().parts().get(0).spans()).isEmpty();
    performer.doNow(new UndoCommand.Undo(), performer.micros(5200));
    assertThat(performer.layerSizes()).containsExactly(2);
    assertThat(performer.span().phase()).isZero();
  }

  @Test
  void aLayerThatWentOffComesBackBesideANewOne() {
    Performer performer = overdubbing().hit(38, 4800).peel(5000).hit(42, 5760).hit(42, 6000);
    assertThat(performer.layerSizes()).containsExactly(2, 2);
    performer.restore(6200);
    assertThat(performer.layerSizes()).containsExactly(2, 1, 2);
    assertThat(performer.refusalOf(new MendCommand.Restore(), 6300)).contains("taken off");
  }

  @Test
  void aHeldKeyIsPeeledWithItsLayerAndRestoredWithItsTrueLength() {
    Performer performer = overdubbing().down(60, 4800).peel(5000).up(60, 6000).restore(6100);
    assertThat(performer.clip().layers().get(performer.clip().layers().size() - 1).notes())
        .singleElement()
        .satisfies(note -> assertThat(note.length()).isEqualTo(1200));
  }

  @Test
  void peelingAnOpenFirstRecordingStartsAfresh() {
    Performer performer = Performer.ready().start().press(0).hit(36, 0).hit(38, 1000).peel(2000);
    assertThat(performer.on().first().orElseThrow().start()).isEqualTo(3840);
    performer.hit(42, 3840).press(7680).until(7700);
    assertThat(performer.clip().notes().map(n -> n.pitch())).containsExactly(42);
    assertThat(performer.planned()).extracting(n -> n.pitch()).containsExactly(42);
    assertThat(performer.on().hindsight().notes()).hasSize(3);
  }

  @Test
  void peelAllGoesBackToWhenOverdubWasSwitchedOn() {
    Performer performer = overdubbing().hit(38, 4800).press(5000).press(9000);
    performer.hit(42, 9600).hit(42, 12_480);
    assertThat(performer.layerSizes()).containsExactly(2, 1, 1, 1);
    performer.doNow(new MendCommand.PeelAll(), performer.micros(13_000));
    assertThat(performer.layerSizes()).containsExactly(2, 1);
  }

  @Test
  void afterAStopTheClipStandsReadyAndAllNotesSound() {
    Performer performer = overdubbing().hit(38, 7720).stop(7800).start();
    assertThat(performer.span().from()).isZero();
    assertThat(performer.firstSounded(38, 0)).isZero();
  }

  @Test
  void nPeelsAfterNLayersLeaveTheClipThatWas() {
    Performer performer = vamping();
    Clip before = performer.clip();
    performer.press(4000);
    for (int pass = 1; pass <= 8; pass++) {
      performer.hit(40 + pass, pass * 3840L + 960).hit(50, pass * 3840L + 3800);
    }
    int added = performer.clip().layers().size() - 1;
    for (int i = 0; i < added; i++) {
      performer.peel(9 * 3840 + 100 * i);
    }
    assertThat(performer.clip().layers()).isEqualTo(before.layers());
  }
}
