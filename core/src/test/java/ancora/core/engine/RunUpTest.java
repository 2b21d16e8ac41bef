package ancora.core.engine;

import static ancora.core.catalogue.Asked.asked;
import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static ancora.core.engine.Concert.shelved;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Note;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.RunUp;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Recordings that begin at a bar; up to there what sounds sounds on. */
class RunUpTest {

  private static final Clip FOUR_BARS =
      clip(A, 0, 4 * BAR, note(1, 36, 480, 60), note(2, 38, 2 * BAR + 480, 60));

  private static Concert set(RunUp.Of of, int bar, Clip... shelf) {
    return Concert.of(
        show ->
            show.withRecording(show.recording().withRunUp(Optional.of(new RunUp(of, bar))))
                .mapPart(Concert.KEYS, part -> shelved(part, shelf)));
  }

  private static List<String> sounding(Clip clip) {
    return clip.notes().map(n -> n.pitch() + "@" + n.meant()).sorted().toList();
  }

  @Test
  void aFirstRecordingBeginsAtABarOfTheTransport() {
    Concert concert = set(RunUp.Of.TRANSPORT, 4).start().press(BAR + 100);
    assertThat(concert.on().first().orElseThrow().start()).isEqualTo(3 * BAR);
    concert.play(50, BAR + 480, BAR + 540).play(60, 3 * BAR + 480, 3 * BAR + 540);
    concert.press(4 * BAR + 20).until(4 * BAR + 30);
    assertThat(concert.newest().notes().map(Note::pitch)).containsExactly(60);
    concert.at(4 * BAR + 40, new CueCommand.CueTacet(Concert.KEYS)).press(5 * BAR + 1000);
    assertThat(concert.on().first().orElseThrow().start())
        .as("a bar gone by no longer counts")
        .isEqualTo(6 * BAR);
  }

  @Test
  void fromStandstillTheTransportRunsUpToIt() {
    Concert concert = set(RunUp.Of.TRANSPORT, 3).press(0);
    assertThat(concert.on().first().orElseThrow().start()).isEqualTo(2 * BAR);
  }

  @Test
  void replaceBeginsAtABarOfTheLoop() {
    Concert concert = set(RunUp.Of.LOOP, 3, FOUR_BARS).start();
    concert.at(4 * BAR + 100, new MendCommand.Replace(true));
    assertThat(concert.on().open().orElseThrow().since()).isEqualTo(6 * BAR);
    concert.play(50, 5 * BAR, 5 * BAR + 60).play(60, 6 * BAR + 960, 6 * BAR + 1020);
    concert.until(9 * BAR);
    assertThat(concert.heard(36)).as("up to there it sounds").contains("on " + (4 * BAR + 480));
    assertThat(concert.attacks(38, 4 * BAR)).as("and from there not").isEmpty();
    assertThat(sounding(concert.clip(A))).contains("60@" + (2 * BAR + 960));
    assertThat(sounding(concert.clip(A))).doesNotContain("50@" + BAR, "38@" + (2 * BAR + 480));
  }

  @Test
  void whatIsToBeginCanBeCalledOff() {
    for (Command off :
        List.of(
            new PressCommand.MainPress(),
            new UndoCommand.Undo(),
            new MendCommand.Takes(false),
            asked("takes {on}"))) {
      Concert concert = set(RunUp.Of.LOOP, 3, FOUR_BARS).start();
      concert.at(100, new MendCommand.Takes(true));
      assertThat(Engine.undoWords(concert.stage())).contains("takes that is to begin on Keys");
      concert.at(400, off);
      assertThat(concert.on().open()).as("%s", off).isEmpty();
      concert.play(60, 2 * BAR + 480, 2 * BAR + 540).until(5 * BAR);
      assertThat(concert.clip(A)).isEqualTo(FOUR_BARS);
    }
  }

  @Test
  void theBarMustBeInTheLoop() {
    Concert concert = set(RunUp.Of.LOOP, 5, FOUR_BARS).start();
    assertThat(concert.refused(100, new MendCommand.Replace(true))).contains("no bar 5");
    assertThat(concert.clip(A).window()).isEqualTo(new LoopWindow(0, 4 * BAR));
  }

  @Test
  void theLineJustGoneByIsForgiven() {
    Concert concert = set(RunUp.Of.LOOP, 1, FOUR_BARS).start();
    concert.press(4 * BAR + 40);
    assertThat(concert.on().open().orElseThrow().since()).isEqualTo(4 * BAR);
    concert.play(60, 4 * BAR + 480, 4 * BAR + 540).press(5 * BAR).press(5 * BAR + 500);
    assertThat(concert.on().open().orElseThrow().since()).isEqualTo(8 * BAR);
  }
}
