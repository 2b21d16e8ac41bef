package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.rules.Command;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.LengthRule;
import org.junit.jupiter.api.Test;

/** Rule 15: what was played while nothing was recording becomes a clip. */
class KeepTest {

  private static final Command KEEP = new PressCommand.Keep(false, false);

  private static Concert playing() {
    return Concert.with(clip(A, note(1, 40, 0, 60))).start();
  }

  @Test
  void theLastPhraseIsKeptOnItsBarLines() {
    Concert concert = playing();
    concert.play(50, 100, 200);
    concert.play(60, 2 * BAR + 480, 2 * BAR + 600).play(62, 3 * BAR + 240, 3 * BAR + 300);
    concert.at(4 * BAR + 700, KEEP);
    Clip kept = concert.newest();
    assertThat(kept.letter()).isEqualTo("b");
    assertThat(kept.window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(concert.meant(kept))
        .as("a bar of silence lies between the first note and the phrase")
        .containsExactly(480L, BAR + 240);
    assertThat(concert.on().vamp().orElseThrow().clip()).as("it goes on the shelf").isEqualTo(A);
    concert.at(4 * BAR + 800, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(1);
  }

  @Test
  void anEarlyFirstNoteAndALandingNoteAreUnderstood() {
    Concert concert = playing();
    concert.play(60, 2 * BAR - 60, 2 * BAR + 100).play(62, 2 * BAR + 1920, 2 * BAR + 2000);
    concert.play(64, 3 * BAR + 100, 3 * BAR + 200).at(3 * BAR + 900, KEEP);
    assertThat(concert.newest().window().length()).isEqualTo(BAR);
    assertThat(concert.meant(concert.newest()))
        .as("31 ms early, it is meant for the bar; the note on the bar after is where it landed")
        .containsExactly(0L, 1920L);
  }

  @Test
  void itIsCuedOnRequestAndBroughtToAnAllowedLength() {
    Concert concert = playing();
    concert.at(
        10,
        new SettingCommand.SetRecording(
            concert.stage().show().recording().withLengthRule(LengthRule.DOUBLING)));
    concert
        .play(60, 480, 600)
        .play(62, BAR + 480, BAR + 600)
        .play(64, 2 * BAR + 480, 2 * BAR + 600);
    concert.at(3 * BAR + 500, new PressCommand.Keep(false, true)).until(5 * BAR);
    assertThat(concert.newest().window().length()).isEqualTo(4 * BAR);
    assertThat(concert.attacks(60, 3 * BAR)).containsExactly(4 * BAR + 480);
  }

  @Test
  void ofTheLoopsLengthItIsTheStretchThatWentBy() {
    Concert concert = Concert.with(clip(A, 0, 2 * BAR, note(1, 40, 0, 60))).start();
    concert.play(60, 3 * BAR + 480, 3 * BAR + 600);
    concert.at(4 * BAR + 100, new PressCommand.Keep(true, false));
    assertThat(concert.newest().window().length()).isEqualTo(2 * BAR);
    assertThat(concert.meant(concert.newest())).containsExactly(BAR + 480);
  }

  @Test
  void withNothingPlayedOrAtStandstillItSaysSo() {
    assertThat(playing().refused(BAR, KEEP)).contains("Nothing has been played on Keys");
    assertThat(Concert.with().refused(10, KEEP)).contains("while the transport runs");
  }
}
