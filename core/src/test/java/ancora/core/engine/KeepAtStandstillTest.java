package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.core.clip.Clip;
import ancora.core.note.InputGrid;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.rules.Command;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.keeping.KeepCommand;
import ancora.core.rules.keeping.Otherwise;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.Arrival;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Rule 15: what is played without starting anything becomes a clip, whose tempo is found. */
class KeepAtStandstillTest {

  private static final Command KEEP = new KeepCommand.Keep(false, false);

  /** Quarter notes at 96, in ticks of the concert's 120. */
  private static final int QUARTER = 1200;

  private static final long FIRST = 5000;

  /** Two bars: a bass note on one and three, chords on all quarters, the first the loudest. */
  private static Concert played(Concert concert, int quarter) {
    for (int beat = 0; beat < 8; beat++) {
      long at = FIRST + beat * quarter;
      if (beat % 2 == 0) {
        concert.play(beat % 4 == 0 ? 36 : 43, at, at + 60);
      }
      concert.play(60, at + 62, at + 120).play(64 + beat, at + quarter / 2, at + quarter / 2 + 60);
    }
    return concert;
  }

  private static Concert empty() {
    return Concert.of(
        show ->
            show.mapPart(
                KEYS, part -> part.withInputGrid(InputGrid.of(ancora.core.note.Grid.EIGHTH))));
  }

  private static Concert kept() {
    return played(empty(), QUARTER).at(FIRST + 9 * QUARTER, KEEP);
  }

  @Test
  void aShowWithoutMusicTakesItsTempo() {
    Concert concert = kept();
    assertThat(concert.stage().show().tempo().bpm()).isCloseTo(96, within(0.5));
    assertThat(concert.stage().show().meter()).isEqualTo(Meter.COMMON);
    assertThat(concert.newest().window().length()).isEqualTo(2 * BAR);
    assertThat(bass(concert.newest())).containsExactly(0L, 1920L, 3840L, 5760L);
    assertThat(concert.stage().map()).as("nothing is started").isEmpty();
    assertThat(concert.on().ready()).contains(concert.newest().id());
  }

  private static List<Long> bass(Clip clip) {
    return clip.notes().filter(n -> n.pitch() < 50).map(Note::meant).sorted().toList();
  }

  /** Strokes that all lie within a beat tell of no tempo: the show's holds. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 5, 10, 20})
  void aBurstIsKeptAsItIs(int apart) {
    Concert concert = empty();
    for (int i = 0; i < 40; i++) {
      concert.play(60, FIRST + (long) i * apart, FIRST + (long) i * apart + 1);
    }
    concert.at(FIRST + 5000, KEEP);
    assertThat(concert.newest().noteCount()).isEqualTo(40);
    assertThat(concert.newest().window().length()).isPositive();
  }

  @Test
  void itIsUndoneInOneStepWithItsTempo() {
    Concert concert = kept();
    concert.at(FIRST + 10 * QUARTER, new UndoCommand.Undo());
    assertThat(concert.stage().show().tempo().bpm()).isEqualTo(120);
    assertThat(concert.stage().show().part(KEYS).shelf()).isEmpty();
    concert.at(FIRST + 11 * QUARTER, new UndoCommand.Redo());
    assertThat(concert.stage().show().tempo().bpm()).isCloseTo(96, within(0.5));
    assertThat(bass(concert.newest())).containsExactly(0L, 1920L, 3840L, 5760L);
  }

  /** Under a count-in, or while the first note is awaited, time stays as it is. */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void whileARecordingIsToBeginItIsKeptInTheShowsTempo(boolean countIn) {
    Concert concert = played(empty(), QUARTER);
    RecordingSettings settings = concert.stage().show().recording();
    concert.at(
        FIRST + 9 * QUARTER,
        new SettingCommand.SetRecording(
            countIn ? settings.withCountInBars(1) : settings.withFromFirstNote(true)));
    concert.press(FIRST + 9 * QUARTER + 10).at(FIRST + 9 * QUARTER + 20, KEEP);
    assertThat(concert.stage().show().tempo().bpm()).isEqualTo(120);
    assertThat(bass(concert.newest())).containsExactly(0L, 1920L, 3840L, 5760L);
    assertThat(
            concert.refused(FIRST + 9 * QUARTER + 30, new KeepCommand.ChangeKept(Otherwise.HALF)))
        .contains("Stop first");
  }

  @Test
  void whileARecordingIsToBeginNoSongBringsAnotherTempo() {
    Show song = Show.named("Song").withNewPart("Keys", Sound.of(4));
    Command bringIn =
        new ShelfCommand.BringIn(
            new Arrival(
                Optional.of(Tempo.of(97)), Optional.empty(), song.parts(), List.of(), List.of()));
    Concert concert = empty();
    RecordingSettings settings = concert.stage().show().recording();
    concert.at(0, new SettingCommand.SetRecording(settings.withCountInBars(1))).press(10);
    assertThat(concert.refused(20, bringIn)).contains("about to be");
    concert.press(30).at(40, bringIn);
    assertThat(concert.stage().show().tempo()).isEqualTo(Tempo.of(97));
  }

  @Test
  void whileTimeRunsASongBringsItsTempoFromWhereItCanBeHeard() {
    Concert concert = empty().start();
    Show song = Show.named("Song").withNewPart("Keys", Sound.of(4));
    concert.at(
        960,
        new ShelfCommand.BringIn(
            new Arrival(
                Optional.of(Tempo.of(60)), Optional.empty(), song.parts(), List.of(), List.of())));
    assertThat(concert.stage().runningMap().tickAt(Concert.micros(960) + 1_000_000))
        .isEqualTo(1920);
  }

  /** A tempo that was changed since stays when the clip is taken back. */
  @Test
  void aTempoThatWasChangedSinceStays() {
    Concert concert = kept();
    concert.at(FIRST + 10 * QUARTER, new SettingCommand.SetTempo(Tempo.of(133)));
    concert.at(FIRST + 11 * QUARTER, new UndoCommand.Undo());
    assertThat(concert.stage().show().tempo().bpm()).isEqualTo(133);
  }

  @Test
  void inAShowWithMusicTheNotesComeToItsTempo() {
    Concert concert = played(Concert.with(clip(A, note(1, 40, 0, 60))), QUARTER);
    concert.at(FIRST + 9 * QUARTER, KEEP);
    assertThat(concert.stage().show().tempo().bpm()).isEqualTo(120);
    assertThat(concert.newest().window().length()).isEqualTo(2 * BAR);
    assertThat(bass(concert.newest()))
        .as("by beats, though it was played slower")
        .allSatisfy(place -> assertThat(Math.floorMod(place + 960, 1920)).isBetween(900, 1020));
  }

  private static Concert changed(Otherwise... ways) {
    Concert concert = kept();
    for (int i = 0; i < ways.length; i++) {
      concert.at(FIRST + (10 + i) * QUARTER, new KeepCommand.ChangeKept(ways[i]));
    }
    return concert;
  }

  @Test
  void itsTempoIsTakenOtherwise() {
    assertTempo(changed(Otherwise.DOUBLE), 192, 4 * BAR);
    assertTempo(changed(Otherwise.HALF), 48, BAR);
    assertTempo(changed(Otherwise.HALF, Otherwise.DOUBLE), 96, 2 * BAR);
    Concert three = changed(Otherwise.THREE);
    assertThat(three.stage().show().meter()).isEqualTo(Meter.of(3, 4));
    assertThat(three.newest().window().length() % (3 * 960)).isZero();
    Concert later = changed(Otherwise.LATER);
    assertThat(bass(later.newest()))
        .as("what was on the second beat is on the first, the beat before in a bar of its own")
        .containsExactly(3 * 960L, 5 * 960L, 7 * 960L, 9 * 960L);
  }

  private static void assertTempo(Concert concert, double bpm, long length) {
    assertThat(concert.stage().show().tempo().bpm()).isCloseTo(bpm, within(1.0));
    assertThat(concert.newest().window().length()).isEqualTo(length);
    assertThat(concert.stage().history().done()).as("it is one step still").hasSize(1);
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(1);
  }

  @Test
  void givenUpItIsGone() {
    Concert concert = changed(Otherwise.GIVE_UP);
    assertThat(concert.stage().show().part(KEYS).shelf()).isEmpty();
    assertThat(concert.stage().show().tempo().bpm()).isEqualTo(120);
    assertThat(concert.stage().history().done()).isEmpty();
    assertThat(concert.refused(FIRST + 20 * QUARTER, new KeepCommand.ChangeKept(Otherwise.HALF)))
        .contains("Something else was done since");
  }

  @Test
  void onceSomethingElseWasDoneItStays() {
    Concert concert = kept();
    concert.at(FIRST + 10 * QUARTER, new SettingCommand.Rename("Night"));
    concert.at(FIRST + 11 * QUARTER, new KeepCommand.HearKept());
    assertThat(concert.stage().map()).isPresent();
    assertThat(concert.refused(FIRST + 12 * QUARTER, new KeepCommand.ChangeKept(Otherwise.HALF)))
        .contains("Stop first");
  }

  /** Pressed again soon, keep takes the other: a run and a standstill are never one phrase. */
  @Test
  void pressedAgainItTakesTheOther() {
    Concert concert = Concert.with(clip(A, note(1, 40, 0, 60))).start();
    concert.play(50, BAR + 480, BAR + 600).at(2 * BAR + 10, new CueCommand.Stop());
    UnaryOperator<Concert> late =
        c -> {
          for (int i = 0; i < 8; i++) {
            c.play(72, 3 * BAR + i * 960, 3 * BAR + i * 960 + 60);
          }
          return c;
        };
    late.apply(concert).at(6 * BAR, KEEP);
    assertThat(concert.newest().notes().map(Note::pitch)).containsOnly(72);
    concert.at(6 * BAR + 1000, KEEP);
    assertThat(concert.stage().show().part(KEYS).shelf()).hasSize(2);
    assertThat(concert.newest().notes().map(Note::pitch)).containsExactly(50);
    concert.at(6 * BAR + 2000, KEEP);
    assertThat(concert.newest().notes().map(Note::pitch)).containsOnly(72);
  }

  /** What is played before anything was armed is the first part's, and kept there. */
  @Test
  void withNothingArmedItIsTheFirstParts() {
    Show show =
        Show.named("Quay").withNewPart("Keys", Sound.of(4)).withNewPart("Bass", Sound.of(33));
    Engine engine = Engine.of(Stage.of(show));
    InputKey key = new InputKey("keys", 0, 60);
    for (int i = 0; i < 8; i++) {
      engine.apply(new HandCommand.KeyDown(key, 90), i * 500_000L, i * 500_000L);
      engine.apply(new HandCommand.KeyUp(key), i * 500_000L + 90_000, i * 500_000L + 90_000);
    }
    assertThat(engine.apply(KEEP, 5_000_000, 5_000_000)).isInstanceOf(Outcome.Done.class);
    assertThat(engine.stage().show().part(KEYS).shelf()).hasSize(1);
  }

  @Test
  void whatIsNoTempoIsTakenAtTheShows() {
    Concert concert = empty().play(60, 1000, 1100).play(62, 2000, 2100).at(3000, KEEP);
    assertThat(concert.stage().show().tempo().bpm()).isEqualTo(120);
    assertThat(concert.newest().window().length()).isEqualTo(BAR);
  }

  @Test
  void whatWasPlayedOnOnePartIsKeptOnAnother() {
    Concert concert = played(empty(), QUARTER);
    concert.at(FIRST + 9 * QUARTER, new KeepCommand.KeepOnto(BASS, false, false));
    assertThat(concert.stage().show().part(KEYS).shelf()).isEmpty();
    Clip clip = concert.stage().show().part(BASS).shelf().get(0);
    assertThat(bass(clip)).containsExactly(0L, 1920L, 3840L, 5760L);
    assertThat(concert.stage().on(BASS).ready()).contains(clip.id());
    concert.at(FIRST + 10 * QUARTER, new KeepCommand.ChangeKept(Otherwise.GIVE_UP));
    assertThat(concert.stage().show().part(BASS).shelf()).isEmpty();
  }

  @Test
  void aTempoThatRisesIsSaidAndLevelled() {
    Concert concert = empty();
    double at = FIRST;
    for (int beat = 0; beat < 33; beat++) {
      concert.play(beat % 4 == 0 ? 36 : 60, Math.round(at), Math.round(at) + 60);
      at += QUARTER * (1.02 - 0.04 * beat / 32);
    }
    assertThat(concert.said(FIRST + 35 * QUARTER, KEEP))
        .contains("faster by")
        .contains("made steady");
    assertThat(bass(concert.newest())).startsWith(0L, 3840L, 7680L, 11520L, 15360L);
    assertThat(concert.said(FIRST + 36 * QUARTER, new KeepCommand.ChangeKept(Otherwise.AS_PLAYED)))
        .contains("as played");
  }
}
