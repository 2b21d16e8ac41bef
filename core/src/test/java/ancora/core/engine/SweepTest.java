package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Stretch;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.undo.UndoCommand;
import java.util.Comparator;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A comp is put together while it sounds: a take is held, and what is heard of it goes in. */
class SweepTest {

  /** Three takes of two bars, each with a note on each half bar. */
  private static final Clip TAKES =
      clip(A, notes(60))
          .withWindow(new LoopWindow(0, 2 * BAR))
          .with(Take.of(2, List.of(new Layer(1, List.of(notes(70))))))
          .with(Take.of(3, List.of(new Layer(1, List.of(notes(80))))));

  private static Note[] notes(int pitch) {
    Note[] notes = new Note[4];
    for (int i = 0; i < notes.length; i++) {
      notes[i] = note(pitch + i, pitch, i * BAR / 2, 100);
    }
    return notes;
  }

  private static Concert vamping() {
    return Concert.with(TAKES).start().until(BAR);
  }

  private static Concert held(Concert concert, int take, long from, long until) {
    concert.at(from, new MendCommand.CompHeld(KEYS, A, take, true));
    return concert.at(until, new MendCommand.CompHeld(KEYS, A, take, false)).until(until + 20);
  }

  private static List<Integer> pitches(Concert concert) {
    return concert
        .clip(A)
        .take()
        .sounding()
        .sorted(Comparator.comparingLong(Note::meant))
        .map(Note::pitch)
        .toList();
  }

  @Test
  void whatIsHeardWhileItIsHeldGoesIn() {
    Concert concert = vamping();
    concert.at(2 * BAR, new MendCommand.CompHeld(KEYS, A, 2, true)).until(2 * BAR + 100);
    assertThat(concert.clip(A).take().number()).as("it is heard").isEqualTo(2);
    concert.at(3 * BAR - 10, new MendCommand.CompHeld(KEYS, A, 2, false)).until(3 * BAR + 50);
    assertThat(pitches(concert)).containsExactly(70, 70, 60, 60);
    assertThat(concert.clip(A).take().stretches())
        .containsExactly(new Stretch(0, BAR - 10, 2), new Stretch(BAR - 10, 2 * BAR, 1));
  }

  /** Held again it is the same comp, drawn anew; nothing else of it is otherwise. */
  @Test
  void oneCompIsSweptTogether() {
    Concert concert = held(vamping(), 2, 2 * BAR, 3 * BAR - 10);
    int comp = concert.clip(A).take().number();
    held(concert, 3, 4 * BAR + BAR / 2, 5 * BAR);
    assertThat(concert.clip(A).take().number()).isEqualTo(comp);
    assertThat(pitches(concert)).containsExactly(70, 80, 60, 60);
    concert.at(5 * BAR + 100, new UndoCommand.Undo());
    assertThat(pitches(concert)).containsExactly(70, 70, 60, 60);
  }

  @Test
  void overTheLineItIsTwoStretches() {
    Concert concert = held(vamping(), 2, 3 * BAR + BAR / 2, 4 * BAR + BAR / 2);
    assertThat(pitches(concert)).containsExactly(70, 60, 60, 70);
    held(concert, 3, 5 * BAR, 8 * BAR);
    assertThat(pitches(concert)).as("a whole pass and more").containsOnly(80);
  }

  @Test
  void fromHereOnWithOnePress() {
    Concert concert = vamping().at(3 * BAR - 100, new MendCommand.CompHere(KEYS, A, 3));
    assertThat(pitches(concert.until(3 * BAR))).containsExactly(60, 60, 80, 80);
    concert.at(4 * BAR + BAR / 2 - 50, new MendCommand.CompHere(KEYS, A, 2)).until(5 * BAR);
    assertThat(pitches(concert)).containsExactly(60, 70, 70, 70);
  }

  @Test
  void whatMakesNoSenseIsRefused() {
    Concert concert = vamping();
    assertThat(concert.refused(BAR + 10, new MendCommand.CompHeld(KEYS, A, 1, true)))
        .isEqualTo("Take 1 is heard already: choose another.");
    assertThat(concert.refused(BAR + 10, new MendCommand.CompHeld(KEYS, A, 9, true)))
        .contains("no take 9");
    Concert still = Concert.with(TAKES);
    assertThat(still.refused(0, new MendCommand.CompHere(KEYS, A, 2)))
        .isEqualTo("Keys a does not sound: bring it in first.");
    assertThat(concert.refused(BAR + 20, new MendCommand.CompHere(KEYS, A, 9))).contains("take 9");
  }

  /** Let go when the clip has left, or the take is gone: nothing is made. */
  @Test
  void whatHasLeftIsLeftAsItIs() {
    Concert concert = vamping().at(BAR, new MendCommand.CompHeld(KEYS, A, 2, true));
    concert.at(BAR + 500, new CueCommand.Stop());
    concert.at(BAR + 900, new MendCommand.CompHeld(KEYS, A, 2, false));
    assertThat(concert.clip(A).takes()).hasSize(3);
    assertThat(concert.stage().hands().sweep()).isEmpty();
  }
}
