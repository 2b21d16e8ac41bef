package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.LengthRule;
import org.junit.jupiter.api.Test;

/** Rule 15: what was played while nothing was recording becomes a clip. */
class KeepTest {

  private static final Command KEEP = new KeepCommand.Keep(false, false);
  private static final Command MORE = new KeepCommand.KeepPhrases(1);
  private static final Command FEWER = new KeepCommand.KeepPhrases(-1);

  private static Concert playing() {
    return Concert.with(clip(A, note(1, 40, 0, 60))).start();
  }

  @Test
  void theLastPhraseIsKeptOnItsBarLines() {
    Concert concert = playing();
    concert.play(50, 100, 200);
    concert.play(60, 3 * BAR + 480, 3 * BAR + 600).play(62, 4 * BAR + 240, 4 * BAR + 300);
    concert.at(5 * BAR + 700, KEEP);
    Clip kept = concert.newest();
    assertThat(kept.letter()).isEqualTo("b");
    assertThat(kept.window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(concert.meant(kept))
        .as("two bars of silence lie between the first note and the phrase")
        .containsExactly(480L, BAR + 240);
    assertThat(concert.on().vamp().orElseThrow().clip()).as("it goes on the shelf").isEqualTo(A);
    concert.at(5 * BAR + 800, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(1);
  }

  private static long bars(Concert concert) {
    return concert.newest().window().length() / BAR;
  }

  private static Concert hitIn(int... bars) {
    Concert concert = playing();
    for (int bar : bars) {
      concert.hit(60, (bar - 1) * BAR + 960).hit(64, bar * BAR - 960);
    }
    return concert;
  }

  /** Worked value 20. */
  @Test
  void aSilentBarPartsNoPhrase() {
    assertThat(bars(hitIn(1, 2, 4).at(4 * BAR + 700, KEEP))).isEqualTo(4);
  }

  /** Worked value 21. */
  @Test
  void onePhraseMoreAndOneFewer() {
    Concert concert = hitIn(1, 2, 5).at(5 * BAR + 700, KEEP);
    assertThat(bars(concert)).isEqualTo(1);
    concert.at(5 * BAR + 800, MORE);
    assertThat(bars(concert)).isEqualTo(5);
    assertThat(concert.stage().show().part(KEYS).shelf()).as("the same step").hasSize(2);
    assertThat(concert.refused(5 * BAR + 900, MORE)).isEqualTo("Nothing was played before it.");
    concert.hit(72, 5 * BAR + 950).at(5 * BAR + 1000, FEWER);
    assertThat(bars(concert)).as("what was played since is none of it").isEqualTo(1);
    assertThat(concert.refused(5 * BAR + 1100, FEWER)).contains("no silence in it");
    concert.at(5 * BAR + 1200, new UndoCommand.Undo());
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(1);
    assertThat(concert.refused(5 * BAR + 1300, MORE)).contains("keep it again");
  }

  @Test
  void oneFewerLetsGoWhatLiesBeforeASilenceOfABar() {
    Concert concert = hitIn(1, 2, 4).at(4 * BAR + 700, KEEP).at(4 * BAR + 800, FEWER);
    assertThat(bars(concert)).isEqualTo(1);
    concert.at(4 * BAR + 900, MORE);
    assertThat(bars(concert)).isEqualTo(4);
  }

  @Test
  void whatIsKeptAndCuedIsCuedAgainAndIsNotSilencedOnceItSounds() {
    Concert concert = hitIn(1, 2, 5).at(5 * BAR + 700, new KeepCommand.Keep(false, true));
    concert.at(5 * BAR + 800, MORE);
    assertThat(concert.on().cue().orElseThrow().clip()).contains(concert.newest().id());
    concert.until(6 * BAR + 10);
    assertThat(concert.refused(6 * BAR + 100, FEWER)).contains("sounds already");
    assertThat(concert.on().vamp().orElseThrow().clip()).isEqualTo(concert.newest().id());
  }

  /** At standstill a silence of 3 s parts two phrases: 5760 ticks. */
  @Test
  void atStandstillAPhraseGoesBackToASilenceOfThreeSeconds() {
    Concert concert = Concert.with();
    concert.hit(60, 0).hit(62, 5700).hit(64, 11_600).hit(65, 12_080);
    concert.at(13_000, KEEP);
    assertThat(concert.newest().noteCount()).isEqualTo(2);
    concert.at(13_100, MORE);
    assertThat(concert.newest().noteCount()).isEqualTo(4);
    concert.at(13_200, FEWER);
    assertThat(concert.newest().noteCount()).isEqualTo(2);
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
    concert.at(3 * BAR + 500, new KeepCommand.Keep(false, true)).until(5 * BAR);
    assertThat(concert.newest().window().length()).isEqualTo(4 * BAR);
    assertThat(concert.attacks(60, 3 * BAR)).containsExactly(4 * BAR + 480);
  }

  @Test
  void ofTheLoopsLengthItIsTheStretchThatWentBy() {
    Concert concert = Concert.with(clip(A, 0, 2 * BAR, note(1, 40, 0, 60))).start();
    concert.play(60, 3 * BAR + 480, 3 * BAR + 600);
    concert.at(4 * BAR + 100, new KeepCommand.Keep(true, false));
    assertThat(concert.newest().window().length()).isEqualTo(2 * BAR);
    assertThat(concert.meant(concert.newest())).containsExactly(BAR + 480);
  }

  @Test
  void withNothingPlayedItSaysSo() {
    assertThat(playing().refused(BAR, KEEP)).contains("Nothing was played on Keys");
    assertThat(Concert.with().refused(10, KEEP)).contains("Nothing was played on Keys");
  }

  @Test
  void afterAStopItIsOnTheBarLinesOfTheRun() {
    Concert concert = playing();
    concert.play(60, 2 * BAR + 480, 2 * BAR + 600).play(62, 3 * BAR + 240, 3 * BAR + 300);
    concert.at(4 * BAR + 700, new CueCommand.Stop());
    concert.at(9 * BAR, KEEP);
    assertThat(concert.newest().window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(concert.meant(concert.newest())).containsExactly(480L, BAR + 240);
    assertThat(concert.stage().map()).as("it starts nothing").isEmpty();
    assertThat(concert.on().ready()).contains(concert.newest().id());
  }

  @Test
  void theLastBarsAreThoseThatHaveGoneBy() {
    Concert concert = playing();
    for (int bar = 0; bar < 6; bar++) {
      concert.play(60 + bar, bar * BAR + 480, bar * BAR + 600);
    }
    concert.at(6 * BAR - 100, new KeepCommand.KeepBars(KEYS, BASS, 2, false));
    Clip kept = concert.stage().show().part(BASS).shelf().get(0);
    assertThat(kept.window().length()).isEqualTo(2 * BAR);
    assertThat(kept.notes().map(Note::pitch))
        .as("the line that comes in 52 ms counts; it is kept on another part")
        .containsExactly(64, 65);
    assertThat(concert.refused(6 * BAR, new KeepCommand.KeepBars(KEYS, KEYS, 33, false)))
        .contains("1 to 32");
  }

  @Test
  void aStretchIsOnTheBarsAroundIt() {
    Concert concert = playing();
    for (int bar = 0; bar < 6; bar++) {
      concert.play(60 + bar, bar * BAR + 480, bar * BAR + 600);
    }
    long from = Concert.micros(2 * BAR + 100);
    long until = Concert.micros(3 * BAR + 700);
    concert.at(6 * BAR, new KeepCommand.KeepStretch(KEYS, KEYS, from, until, false));
    assertThat(concert.newest().notes().map(Note::pitch)).containsExactly(62, 63);
    assertThat(
            concert.refused(6 * BAR, new KeepCommand.KeepStretch(KEYS, KEYS, until, from, false)))
        .contains("Choose a stretch");
  }

  @Test
  void pedalAndControllersAreKeptToo() {
    Concert concert = playing();
    Controller wheel = Controller.change(1);
    concert.foot(true, 2 * BAR + 100).play(60, 2 * BAR + 480, 2 * BAR + 600);
    concert.at(2 * BAR + 700, new HandCommand.MoveController("keys", 0, wheel, 90));
    concert.foot(false, 2 * BAR + 2000).at(3 * BAR + 10, KEEP);
    Clip kept = concert.newest();
    assertThat(kept.notes().filter(Note::isPedal).map(Note::meant)).containsExactly(100L);
    assertThat(kept.take().soundingMoves())
        .extracting(ControllerMove::place, ControllerMove::value)
        .containsExactly(tuple(700L, 90));
  }
}
