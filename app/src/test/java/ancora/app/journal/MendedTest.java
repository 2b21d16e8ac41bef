package ancora.app.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import ancora.core.clip.Clip;
import ancora.core.clip.Layer;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.engine.Effect;
import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.file.MidiFile;
import ancora.core.note.Note;
import ancora.core.player.Sounded;
import ancora.core.record.AfterClosing;
import ancora.core.replay.Replay;
import ancora.core.show.Part;
import ancora.core.stage.Stage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MidiSystem;
import org.junit.jupiter.api.Test;

/**
 * Journals that sounded wrong once. Each is a member of a class of faults, made small; what each
 * should be was worked out by hand, at 120 in 4/4, a bar of 3840 ticks.
 */
class MendedTest {

  private static final Path JOURNALS = Path.of("src/test/resources/mended");

  private static final long BAR = 3840;

  /** A journal that was done again. */
  private static final class Done {
    private final Replay replay;
    private int refused;

    private Done(String journal) throws IOException {
      JournalFile file = JournalFile.read(Files.readAllLines(JOURNALS.resolve(journal + ".jsonl")));
      replay = Replay.of(Stage.of(file.show()));
      for (JournalFile.Line line : file.lines()) {
        if (replay.apply(line.command(), line.stamp(), line.at()) instanceof Outcome.Refused) {
          refused++;
        }
      }
    }

    private Clip clip() {
      return parts().flatMap(part -> part.shelf().stream()).findFirst().orElseThrow();
    }

    private Stream<Part> parts() {
      return replay.stage().show().parts().stream();
    }

    /** Where notes of a pitch lie in the clip, as it sounds. */
    private List<Long> places(int pitch) {
      return clip()
          .notes()
          .filter(note -> note.pitch() == pitch)
          .map(Note::meant)
          .sorted()
          .toList();
    }

    private List<Long> attacks(int pitch) {
      return replay.sounded().stream()
          .filter(s -> s.kind() == Sounded.Kind.ON && s.pitch() == pitch && !s.isClick())
          .map(Sounded::tick)
          .toList();
    }

    private List<Long> releases(int pitch) {
      return replay.sounded().stream()
          .filter(s -> s.kind() == Sounded.Kind.OFF && s.pitch() == pitch && !s.isClick())
          .map(Sounded::tick)
          .toList();
    }
  }

  private static Done done(String journal) throws IOException {
    return new Done(journal);
  }

  @Test
  void doubleOfWhatWasNeverHalvedIsACopyWhateverLiesBehindTheLoop() throws IOException {
    for (String journal : List.of("double-over-material", "repeat-over-material")) {
      Done ran = done(journal);
      assertThat(ran.clip().window()).isEqualTo(new LoopWindow(0, 2 * BAR));
      assertThat(ran.places(36)).as(journal).containsExactly(0L, BAR);
      assertThat(ran.places(38)).as(journal).containsExactly(1440L, BAR + 1440);
      assertThat(ran.places(50)).as("what lay behind the loop").isEmpty();
    }
    Done left = done("double-over-what-a-stop-left");
    assertThat(left.places(36)).containsExactly(0L, BAR);
    assertThat(left.places(50)).isEmpty();
  }

  @Test
  void halvedAndDoubledALoopIsAsItWas() throws IOException {
    Done ran = done("halve-then-double");
    assertThat(ran.clip().window()).isEqualTo(new LoopWindow(0, 2 * BAR));
    assertThat(ran.places(36)).containsExactly(0L);
    assertThat(ran.places(38)).containsExactly(1440L);
  }

  /** Played at 3500 for 1550 ticks: on eighths from 3360, seven of 480, to 5280, eleven of them. */
  @Test
  void theEndIsCountedFromWhereANoteWasPlayed() throws IOException {
    Note note = done("ends-too").clip().notes().findFirst().orElseThrow();
    assertThat(note.meant()).isEqualTo(3360);
    assertThat(note.length()).isEqualTo(1920);
  }

  /** The span from 2880 over the line to 960 is lifted from 0 to 480. */
  @Test
  void whatIsLeftOfAPedalOverTheLineSounds() throws IOException {
    List<Note> spans =
        done("pedal-deleted-over-the-line").clip().notes().filter(Note::isPedal).toList();
    assertThat(spans)
        .extracting(Note::meant, Note::length)
        .containsExactlyInAnyOrder(tuple(2880L, 960L), tuple(480L, 480L));
  }

  @Test
  void toTheNextGoesByWhatSounds() throws IOException {
    Clip clip = done("to-the-next-that-sounds").clip();
    Note first = clip.notes().filter(note -> note.id() == 1).findFirst().orElseThrow();
    assertThat(first.length()).as("to the note at 2880").isEqualTo(2880);
  }

  @Test
  void aRepeatOfSeveralClipsIsOneStep() throws IOException {
    Done ran = done("repeat-of-two-clips");
    assertThat(ran.parts().flatMap(part -> part.shelf().stream()))
        .extracting(Clip::window)
        .containsOnly(new LoopWindow(0, BAR));
    assertThat(ran.replay.stage().history().done()).isEmpty();
  }

  @Test
  void theLayerThatWentOffLastComesBackFirstAfterUndoToo() throws IOException {
    Done ran = done("off-order-after-undo");
    assertThat(ran.clip().take().layers()).extracting(Layer::number).containsExactly(1, 4);
    assertThat(ran.clip().take().off()).extracting(Layer::number).containsExactly(2);
  }

  @Test
  void aLayerLeftWithNothingGoes() throws IOException {
    Done ran = done("layer-left-with-nothing");
    assertThat(ran.clip().take().layers()).extracting(Layer::number).containsExactly(1);
    assertThat(ran.refused).as("nothing is left to peel").isEqualTo(1);
  }

  @Test
  void aRunThatBeginsWithAWheelCanBeRead() throws IOException, InvalidMidiDataException {
    Done ran = done("wheel-in-the-count-in");
    byte[] file = MidiFile.of("run", ran.replay.runs(), MidiFile.Type.TRACKS).bytes();
    assertThat(MidiSystem.getSequence(new ByteArrayInputStream(file))).isNotNull();
  }

  /** The key went down 200 ms before erase was held, and arrived after that. */
  @Test
  void aKeyBeforeEraseIsRecordedHoweverLateItArrives() throws IOException {
    Done ran = done("key-before-erase");
    // (3 395 834 − 1 000 000) µs are tick 4600, place 760: on sixteenths 720
    assertThat(ran.places(66)).containsExactly(720L);
    assertThat(ran.places(36)).containsExactly(0L);
  }

  /** The key was down from place 1860 to 1960, while erase was held; both arrived after that. */
  @Test
  void aKeyInEraseErasesHoweverLateItArrives() throws IOException {
    Done ran = done("key-in-erase-late");
    assertThat(ran.places(38)).as("neither the old one nor the key itself").isEmpty();
    assertThat(ran.places(36)).containsExactly(0L);
    assertThat(ran.attacks(38)).as("as far as bar 2, in which it was erased").endsWith(5760L);
    assertThat(ran.replay.stage().history().done()).hasSize(1);
  }

  /** The key is down from 960 for 1440 ticks, and the loop is doubled meanwhile. */
  @Test
  void theCopyOfAKeyThatWasDownAsLongAsItWas() throws IOException {
    Clip clip = done("double-of-a-held-key").clip();
    assertThat(clip.window().length()).isEqualTo(2 * BAR);
    assertThat(clip.notes().filter(note -> note.pitch() == 60))
        .extracting(Note::meant, Note::length, Note::held)
        .containsExactlyInAnyOrder(tuple(960L, 1440L, false), tuple(BAR + 960, 1440L, false));
  }

  @Test
  void whatIsPlayedAfterFlattenIsInALayerOfItsOwn() throws IOException {
    Done ran = done("flatten-beside-overdub");
    assertThat(ran.places(42)).containsExactly(1920L);
    assertThat(ran.places(38)).containsExactly(960L);
    assertThat(ran.clip().layers()).hasSize(2);
    assertThat(ran.replay.stage().history().done())
        .extracting(step -> step.words())
        .containsExactly(
            "the recording of Kit a", "layer 2 of Kit a", "flatten", "layer 3 of Kit a");
  }

  @Test
  void aPassThatIsPlayedWholeIsWholeAfterUndoToo() throws IOException {
    Clip clip = done("take-after-undo").clip();
    assertThat(clip.take().partial()).isFalse();
    assertThat(clip.notes().map(Note::pitch)).containsExactly(52);
  }

  @Test
  void aTakeOfAKeyThatArrivesAfterTheEndIsPartial() throws IOException {
    Done ran = done("take-of-a-late-key");
    assertThat(ran.clip().takes())
        .extracting(take -> take.sounding().map(Note::pitch).toList(), Take::partial)
        .containsExactly(
            tuple(List.of(36), false), tuple(List.of(50), false), tuple(List.of(51), true));
    assertThat(ran.clip().take().number()).isEqualTo(2);
    assertThat(ran.replay.stage().history().done()).as("one step").hasSize(1);
  }

  @Test
  void theLastCompleteTakeIsHeardTheFirstRecordingAmongThem() throws IOException {
    for (String journal : List.of("stub-from-nothing", "stub-after-a-loop")) {
      Clip clip = done(journal).clip();
      assertThat(clip.notes().map(Note::pitch).sorted())
          .as(journal)
          .containsExactly(70, 71, 72, 73);
      assertThat(clip.takes()).extracting(Take::partial).containsExactly(false, true);
    }
  }

  /** Down from 0 to 3694 in the loop, and added from 1000 to 1494: one span. */
  @Test
  void thePedalIsDownWhereAnyOfItsSpansHasItDown() throws IOException {
    Done ran = done("merged-pedal");
    long third = 4 * 2 * BAR;
    assertThat(
            ran.replay.sounded().stream()
                .filter(s -> s.pitch() == Note.PEDAL || s.kind().words().contains("control"))
                .filter(s -> s.tick() >= third && s.tick() < third + BAR)
                .map(s -> s.kind().words() + " " + (s.tick() - third) + " " + s.velocity()))
        .containsExactly("control change 74 127", "control change 3694 0");
  }

  @Test
  void aKeyThatIsDownAtAHandOffIsLetGoOnThePartOnWhichItSounds() throws IOException {
    Done ran = done("key-held-over-a-hand-off");
    assertThat(ran.attacks(41)).hasSize(1);
    assertThat(ran.releases(41)).containsExactly(8506L);
  }

  /** 20 ticks before the closing line, delivered 20 ms late; the grid moves half the way. */
  @Test
  void anEarlyDownbeatIsAtTheStartHoweverLateItArrives() throws IOException {
    assertThat(done("early-downbeat-late").places(40)).containsExactly(0L);
  }

  /** Each downbeat is played 13 ms before its take's line. */
  @Test
  void eachTakeHasItsOwnEarlyDownbeat() throws IOException {
    for (String journal : List.of("take-early", "take-early-without-grid")) {
      Clip clip = done(journal).clip();
      assertThat(clip.takes()).as(journal).hasSizeGreaterThanOrEqualTo(4);
      for (Take take : clip.takes().subList(0, 4)) {
        assertThat(take.sounding().filter(note -> note.pitch() == 36).map(Note::meant))
            .as("%s, take %s", journal, take.number())
            .containsExactly(0L);
      }
    }
  }

  /**
   * Replaced are bars 2 and 3 of four: on 25 ms after bar 2's line, or before it, off 25 ms after
   * bar 4's.
   */
  @Test
  void replaceIsForgivenAtEachBarLine() throws IOException {
    for (String journal : List.of("replace-on-late", "replace-off-late")) {
      Done ran = done(journal);
      assertThat(ran.places(36))
          .as(journal)
          .containsExactly(
              0L, 960L, 1920L, 2880L, 3 * BAR, 3 * BAR + 960, 3 * BAR + 1920, 3 * BAR + 2880);
      assertThat(ran.places(50))
          .as(journal)
          .containsExactly(BAR, BAR + 1920, 2 * BAR, 2 * BAR + 1920);
    }
  }

  /** The first note is 20 ticks before the run-up's end, bar 3. */
  @Test
  void whatIsEarlyForTheEndOfARunUpIsRecorded() throws IOException {
    Done ran = done("run-up-early");
    assertThat(ran.places(70)).containsExactly(2 * BAR);
    assertThat(ran.places(71)).containsExactly(2 * BAR + 960);
    assertThat(ran.places(72)).containsExactly(3 * BAR);
  }

  /** A recording that takes follow is closed by the press of line 5. */
  /** Closed at 3840 with nothing in it: notes of 966 and 1926 arrive 503 and 1003 ms later. */
  @Test
  void notesThatArriveLateMakeARecordingThatHasClosed() throws IOException {
    Done ran = done("late-notes-make-a-recording");
    assertThat(ran.clip().window()).isEqualTo(new LoopWindow(0, BAR));
    assertThat(ran.places(38)).containsExactly(960L);
    assertThat(ran.places(36)).containsExactly(1920L);
    assertThat(ran.attacks(36)).contains(2 * BAR + 1920, 3 * BAR + 1920);
  }

  /** Punched is bar 2 of 4; 61 at 3815, 62 at 7655 and 63 at 8680 are old, 70 is played at 3825. */
  @Test
  void offTheGridAPunchHasWhatIsEarlyForItsFirstLine() throws IOException {
    Done ran = done("punch-early-without-a-grid");
    assertThat(ran.places(61)).as("the old downbeat of bar 2").isEmpty();
    assertThat(ran.places(62)).as("that of bar 3").hasSize(1);
    assertThat(ran.places(70)).hasSize(1);
    assertThat(ran.places(70).get(0)).isBetween(BAR - 30, BAR - 1);
    assertThat(ran.places(71)).hasSize(1);
  }

  @Test
  void theForecastSaysThatTakesFollow() throws IOException {
    JournalFile file =
        JournalFile.read(Files.readAllLines(JOURNALS.resolve("takes-forecast.jsonl")));
    Engine engine = Engine.of(Stage.of(file.show()));
    for (JournalFile.Line line : file.lines().subList(0, 3)) {
      engine.apply(line.command(), line.stamp(), line.at());
    }
    JournalFile.Line press = file.lines().get(3);
    assertThat(engine.forecast(press.command(), press.stamp()).effects())
        .filteredOn(Effect.Closes.class::isInstance)
        .extracting(effect -> ((Effect.Closes) effect).then())
        .containsExactly(AfterClosing.TAKES);
  }
}
