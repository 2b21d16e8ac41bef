package ancora.core.engine;

import static ancora.core.engine.Concert.A;
import static ancora.core.engine.Concert.B;
import static ancora.core.engine.Concert.BAR;
import static ancora.core.engine.Concert.BASS;
import static ancora.core.engine.Concert.KEYS;
import static ancora.core.engine.Concert.clip;
import static ancora.core.engine.Concert.note;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Manner;
import ancora.core.file.Arranging;
import ancora.core.file.Choice;
import ancora.core.file.MidiCsv;
import ancora.core.file.MidiFile;
import ancora.core.file.MidiSong;
import ancora.core.file.Wanted;
import ancora.core.note.Note;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.rules.shelf.ShelfCommand;
import ancora.core.rules.undo.UndoCommand;
import ancora.core.run.LaidOut;
import ancora.core.run.Run;
import ancora.core.run.RunNote;
import ancora.core.run.RunPart;
import ancora.core.search.Search;
import ancora.core.show.Balance;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Section;
import ancora.core.show.SectionId;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Rules 19, 20: what sounded as a Standard MIDI File, read by others, and brought in again. */
class RunsAsFilesTest {

  /** With {@code --long}, 5100. */
  private static final int RUNS = 80;

  @TempDir Path folder;

  private static final Comparator<RunNote> ORDER =
      Comparator.comparingLong(RunNote::place)
          .thenComparingInt(RunNote::pitch)
          .thenComparingInt(RunNote::velocity)
          .thenComparingLong(RunNote::length);

  /**
   * All notes of a part, from the run's first tick on, each at least a tick long; without those of
   * no length that another of their pitch follows on the same tick.
   */
  private static List<RunNote> notes(Run run, RunPart part) {
    List<RunNote> all = part.allNotes();
    return all.stream()
        .filter(
            n ->
                n.length() > 0
                    || all.stream()
                        .noneMatch(
                            o ->
                                o.length() > 0 && o.place() == n.place() && o.pitch() == n.pitch()))
        .map(n -> n.later(-run.from()))
        .map(n -> new RunNote(n.place(), n.pitch(), n.velocity(), Math.max(1, n.length())))
        .sorted(ORDER)
        .toList();
  }

  /** What is written comes in again as what it was: each sound of a part as a line of its own. */
  @Property(tries = 80)
  void whatWasPerformedComesInAgain(@ForAll long seed) {
    for (Run run : RunsTest.performed(new Random(seed)).runs()) {
      MidiSong song = MidiSong.read(MidiFile.of("Night", run, MidiFile.Type.TRACKS).bytes());
      for (int i = 0; i < run.parts().size(); i++) {
        int track = i + 2;
        List<RunNote> read =
            song.lines().stream()
                .filter(line -> line.track() == track)
                .flatMap(line -> line.notes().stream())
                .filter(note -> note.pitch() < Note.PEDAL)
                .sorted(ORDER)
                .toList();
        assertThat(read)
            .isEqualTo(
                notes(run, run.parts().get(i)).stream()
                    .filter(note -> note.pitch() < Note.PEDAL)
                    .toList());
      }
    }
  }

  /** Two readers by others, midicsv and the JDK's, find in each run the notes that sounded. */
  @Test
  void othersReadWhatSounded() throws IOException, InterruptedException, InvalidMidiDataException {
    int runs = Search.samples(RUNS);
    for (long seed = Search.SEED; runs > 0; seed++) {
      for (Run run : RunsTest.performed(new Random(seed)).runs()) {
        byte[] file = MidiFile.of("Night", run, MidiFile.Type.TRACKS).bytes();
        List<String[]> rows = MidiCsv.rows(folder, file);
        assertThat(rows.get(0)).containsExactly("0", "0", "Header", "1", tracks(run), "960");
        Sequence sequence = MidiSystem.getSequence(new ByteArrayInputStream(file));
        for (int i = 0; i < run.parts().size(); i++) {
          List<String> sounded = strokes(run, run.parts().get(i));
          assertThat(strokes(rows, String.valueOf(i + 2)))
              .as("midicsv, seed %s", seed)
              .isEqualTo(sounded);
          assertThat(strokes(sequence.getTracks()[i + 1]))
              .as("the JDK, seed %s", seed)
              .isEqualTo(sounded);
        }
        runs--;
      }
    }
  }

  /** Where notes begin and end, as "tick pitch velocity", 0 for an end. */
  private static List<String> strokes(Run run, RunPart part) {
    return notes(run, part).stream()
        .filter(n -> n.pitch() < Note.PEDAL)
        .flatMap(
            n ->
                Stream.of(
                    n.place() + " " + n.pitch() + " " + n.velocity(),
                    n.end() + " " + n.pitch() + " 0"))
        .sorted()
        .toList();
  }

  private static List<String> strokes(List<String[]> rows, String track) {
    return rows.stream()
        .filter(r -> r[0].equals(track) && r[2].startsWith("Note_"))
        .map(r -> r[1] + " " + r[4] + " " + (r[2].equals("Note_on_c") ? r[5] : "0"))
        .sorted()
        .toList();
  }

  private static List<String> strokes(Track track) {
    return IntStream.range(0, track.size())
        .mapToObj(track::get)
        .filter(
            e ->
                e.getMessage() instanceof ShortMessage m
                    && (m.getCommand() == ShortMessage.NOTE_ON
                        || m.getCommand() == ShortMessage.NOTE_OFF))
        .map(
            e -> {
              ShortMessage m = (ShortMessage) e.getMessage();
              boolean on = m.getCommand() == ShortMessage.NOTE_ON;
              return e.getTick() + " " + m.getData1() + " " + (on ? m.getData2() : 0);
            })
        .sorted()
        .toList();
  }

  private static String tracks(Run run) {
    return String.valueOf(run.parts().size() + 1);
  }

  /** Clip a for two bars, from 120 to 90 in the second; then b, in section B; a soft bass. */
  private static Run night() {
    Concert concert =
        Concert.of(
            show ->
                show.mapPart(
                        KEYS,
                        p ->
                            Concert.shelved(
                                p, clip(A, note(1, 60, 0, 960)), clip(B, note(2, 64, 0, 2 * BAR))))
                    .mapPart(
                        BASS,
                        p ->
                            Concert.shelved(p, clip(new ClipId(20), note(3, 36, 960, 480)))
                                .withBalance(Balance.placed(-12, -50, 0, 0)))
                    .withForm(
                        List.of(
                            new Section(
                                new SectionId(30),
                                "B",
                                "Lamp",
                                Map.of(KEYS, Optional.of(B)),
                                false,
                                Optional.empty()))));
    concert
        .start()
        .at(BAR, new SettingCommand.SetTempo(Tempo.of(90.5)))
        .at(2 * BAR - 400, new CueCommand.CueSection(new SectionId(30)))
        .at(4 * BAR, new CueCommand.Stop());
    return concert.run();
  }

  @Test
  void namesSoundsBalancesTempoAndSectionsAreWritten() throws IOException, InterruptedException {
    List<String[]> rows =
        MidiCsv.rows(folder, MidiFile.of("Quay", night(), MidiFile.Type.TRACKS).bytes());
    List<String> lines = rows.stream().map(r -> String.join(" ", r)).toList();
    assertThat(lines)
        .contains(
            "1 0 Title_t \"Quay\"",
            "1 0 Time_signature 4 2 24 8",
            "1 0 Tempo 500000",
            "1 7680 Marker_t \"B Lamp\"",
            "2 0 Title_t \"Keys\"",
            "2 0 Program_c 0 4",
            "2 0 Control_c 0 7 127",
            "2 0 Control_c 0 10 64",
            "3 0 Title_t \"Bass\"",
            "3 0 Program_c 1 33",
            // −12 dB are 127 · 10^(−12/40), General MIDI Level 2; −50 is half way to the left
            "3 0 Control_c 1 7 64",
            "3 0 Control_c 1 10 32");
    List<String[]> tempos = rows.stream().filter(r -> r[2].equals("Tempo")).toList();
    assertThat(tempos).hasSize(2);
    assertThat(60e6 / Integer.parseInt(tempos.get(1)[3])).isCloseTo(90.5, within(0.002));
    assertThat(Long.parseLong(tempos.get(1)[1])).isBetween(BAR, BAR + 200);
  }

  @Test
  void allInOneTrackHoldsTheSame() {
    Run night = night();
    MidiSong many = MidiSong.read(MidiFile.of("Quay", night, MidiFile.Type.TRACKS).bytes());
    MidiSong one = MidiSong.read(MidiFile.of("Quay", night, MidiFile.Type.ONE_TRACK).bytes());
    assertThat(one.lines())
        .extracting(MidiSong.Line::notes)
        .containsExactlyInAnyOrderElementsOf(
            many.lines().stream().map(MidiSong.Line::notes).toList());
    assertThat(one.markers()).isEqualTo(many.markers());
  }

  /** General MIDI Level 1: percussion is on channel 10; another kit has to share it. */
  @Test
  void whereChannelsDoNotSufficeItIsSaid() {
    Show show = Show.named("Big band");
    for (int i = 0; i < 14; i++) {
      show = show.withNewPart("Part " + i, Sound.of(i % 3));
    }
    show = show.withNewPart("Kit", Sound.STANDARD_KIT).withNewPart("Toms", Sound.kit(8));
    int id = 100;
    for (var part : show.parts()) {
      ClipId clip = new ClipId(id++);
      show =
          show.mapPart(
              part.id(),
              p ->
                  Concert.shelved(
                      p, Clip.of(clip, "a", clip(A).window(), List.of(note(1, 40, 0, 480)))));
    }
    Concert concert = Concert.of(showOf(show));
    concert.start().at(BAR, new CueCommand.Stop());
    MidiFile file = MidiFile.of("Band", concert.run(), MidiFile.Type.TRACKS);
    assertThat(file.said())
        .containsExactly("Toms shares channel 10 with Kit, and sounds as that does.");
  }

  private static UnaryOperator<Show> showOf(Show show) {
    return before -> show.withRecording(before.recording()).withClick(before.click());
  }

  @Test
  void aClipAloneIsOnePassWithWhatRingsOver() {
    Show show =
        Concert.of(
                s ->
                    s.mapPart(
                        KEYS,
                        p ->
                            Concert.shelved(
                                p, clip(A, note(1, 60, 1920, 2880), note(2, 48, 0, 9 * BAR)))))
            .stage()
            .show();
    Run run = LaidOut.clip(show, KEYS, A);
    List<RunNote> notes = notes(run, run.part(KEYS));
    assertThat(notes)
        .extracting(n -> n.pitch() + " " + n.place() + " " + n.length())
        .containsExactly("48 0 3840", "60 1920 2880");
    assertThat(run.until()).isEqualTo(4800);
  }

  /** Rule 5: on entry the material before the window sounds before the entry point. */
  @Test
  void aPickupComesBeforeWhatIsLaidOut() {
    Clip a =
        clip(A, note(1, 60, 0, 480), note(2, 55, -480, 480), note(3, 50, -1440, 480))
            .withManner(Manner.DEFAULT.withPickup(960));
    Clip b =
        clip(B, note(4, 64, 0, 480), note(5, 59, -960, 1440))
            .withManner(Manner.DEFAULT.withPickup(960));
    Stage stage =
        Concert.of(
                s ->
                    s.mapPart(KEYS, p -> Concert.shelved(p, a, b))
                        .withForm(
                            List.of(
                                section(1, "A", Optional.of(A), Optional.of(1)),
                                section(2, "B", Optional.of(B), Optional.of(1)))))
            .stage();
    Run alone = LaidOut.clip(stage.show(), KEYS, A);
    assertThat(alone.from()).as("a bar before, for the pickup").isEqualTo(-BAR);
    assertThat(notes(alone, alone.part(KEYS)))
        .extracting(n -> n.pitch() + " " + n.place() + " " + n.length())
        .containsExactly("55 " + (BAR - 480) + " 480", "60 " + BAR + " 480");
    Run form = LaidOut.form(stage.show());
    assertThat(form.from()).isEqualTo(-BAR);
    assertThat(notes(form, form.part(KEYS)))
        .extracting(n -> n.pitch() + " " + n.place() + " " + n.length())
        .containsExactly(
            "55 " + (BAR - 480) + " 480",
            "60 " + BAR + " 480",
            "59 " + (2 * BAR - 960) + " 1440",
            "64 " + 2 * BAR + " 480");
    MidiSong read = MidiSong.read(MidiFile.of("Night", form, MidiFile.Type.TRACKS).bytes());
    assertThat(read.lines().get(0).notes()).hasSize(4);
    assertThat(read.markers()).hasSize(2);
  }

  @Test
  void theFormIsLaidOutSectionBySection() {
    Stage stage =
        Concert.of(
                s ->
                    s.mapPart(
                            KEYS,
                            p ->
                                Concert.shelved(
                                    p, clip(A, note(1, 60, 0, 480)), clip(B, note(2, 64, 0, 480))))
                        .withForm(
                            List.of(
                                section(1, "A", Optional.of(A), Optional.of(3)),
                                section(2, "B", Optional.of(A), Optional.empty()),
                                section(3, "C", Optional.of(B), Optional.of(2)),
                                section(4, "D", Optional.empty(), Optional.of(1)))))
            .stage();
    Run run = LaidOut.form(stage.show());
    assertThat(run.bars()).isEqualTo(3 + 1 + 2 + 1);
    assertThat(run.sections())
        .extracting(s -> s.letter() + s.tick() / BAR)
        .containsExactly("A0", "B3", "C4", "D6");
    assertThat(run.part(KEYS).passages())
        .as("a clip that goes on over a section is one passage")
        .extracting(p -> p.letter() + p.from() / BAR + "-" + p.until() / BAR)
        .containsExactly("a0-4", "b4-6");
    assertThat(run.part(KEYS).passages().get(0).notes()).hasSize(4);
  }

  private static Section section(
      int id, String letter, Optional<ClipId> clip, Optional<Integer> bars) {
    return new Section(
        new SectionId(id),
        letter,
        "",
        Map.of(KEYS, clip),
        false,
        bars.map(b -> new Section.GoesOn(b, new SectionId(1))));
  }

  @Test
  void aFileComesInAsPartsClipsAndSections() {
    byte[] bytes = MidiFile.of("Quay", night(), MidiFile.Type.TRACKS).bytes();
    MidiSong song = MidiSong.read(bytes);
    Stage empty = Stage.of(Show.named("New").withMeter(Meter.of(3, 4)));
    Arranging arranging = Arranging.of(song, Choice.of(song), empty.show());
    Engine engine = Engine.of(empty);
    assertThat(engine.apply(new ShelfCommand.BringIn(arranging.arrival()), 0, 0))
        .isInstanceOf(Outcome.Done.class);
    Show show = engine.stage().show();
    assertThat(show.tempo()).isEqualTo(Tempo.of(120));
    assertThat(show.meter()).isEqualTo(Meter.COMMON);
    assertThat(show.parts())
        .extracting(p -> p.name() + p.shelf().size())
        .containsExactly("Keys2", "Bass2");
    assertThat(show.form()).extracting(Section::name).containsExactly("bars 1–2", "B Lamp");
    assertThat(show.parts().get(0).shelf().get(0).notes().map(Note::meant).toList())
        .containsExactly(0L, BAR);
    assertThat(engine.stage().on(show.parts().get(0).id()).ready()).isPresent();
    assertThat(arranging.leftOut()).containsExactly("1 change of tempo: 120 bpm holds.");

    // one step
    assertThat(engine.apply(new UndoCommand.Undo(), 1, 1)).isInstanceOf(Outcome.Done.class);
    assertThat(engine.stage().show().parts()).isEmpty();
    assertThat(engine.stage().show().meter()).isEqualTo(Meter.of(3, 4));
  }

  @Test
  void inAShowWithMusicItsTempoStaysAndClipsCanGoOnToAPart() {
    Stage stage =
        Concert.of(s -> s.mapPart(KEYS, p -> Concert.shelved(p, clip(A, note(1, 60, 0, 480)))))
            .stage();
    MidiSong song = MidiSong.read(MidiFile.of("Quay", night(), MidiFile.Type.TRACKS).bytes());
    Choice choice = Choice.all(1).withLines(List.of(0)).withOnto(Map.of(0, KEYS));
    Arranging arranging = Arranging.of(song, choice, stage.show());
    Engine engine = Engine.of(stage.withShow(stage.show().withTempo(Tempo.of(77))));
    engine.apply(new ShelfCommand.BringIn(arranging.arrival()), 0, 0);
    Show show = engine.stage().show();
    assertThat(show.tempo()).isEqualTo(Tempo.of(77));
    assertThat(show.parts()).hasSize(2);
    assertThat(show.part(KEYS).shelf())
        .extracting(Clip::letter)
        .containsExactly("a", "b", "c", "d");
    assertThat(show.form()).isEmpty();
    assertThat(arranging.leftOut()).contains("1 line was not chosen.");
  }

  /** Parts of another show come as they are there, takes and layers too; one step. */
  @Test
  void clipsOfAnotherShowComeInAsTheyAreThere() {
    Clip chosen = clip(A, note(1, 60, 0, 480), note(2, 64, 960, 480)).withName("harbour");
    Show other =
        Show.named("Other")
            .withTempo(Tempo.of(70))
            .withNewPart("Horn", Sound.of(60))
            .withNewPart("Bell", Sound.of(14));
    PartId horn = other.parts().get(0).id();
    PartId bell = other.parts().get(1).id();
    other =
        other.mapPart(
            horn, p -> Concert.shelved(p, chosen).withBalance(Balance.DEFAULT.withPan(30)));
    Stage stage =
        Concert.of(s -> s.mapPart(KEYS, p -> Concert.shelved(p, clip(A, note(1, 50, 0, 480)))))
            .stage();
    List<Wanted> wanted =
        List.of(
            new Wanted(horn, List.of(A), Optional.of(KEYS)),
            new Wanted(horn, List.of(A), Optional.empty()),
            new Wanted(bell, List.of(), Optional.empty()));
    Show from = other;
    assertThatThrownBy(() -> Arranging.of(from, wanted)).hasMessageContaining("one id");
    Engine engine = Engine.of(stage);
    engine.apply(Arranging.of(from, wanted.subList(0, 1)).bringIn(), 0, 0);
    engine.apply(Arranging.of(from, wanted.subList(1, 3)).bringIn(), 1, 1);
    Show show = engine.stage().show();
    assertThat(show.tempo()).isEqualTo(stage.show().tempo());
    Clip came = show.part(KEYS).shelf().get(1);
    assertThat(came.letter()).isEqualTo("b");
    assertThat(came.name()).isEqualTo("harbour");
    assertThat(came.notes().map(Note::pitch)).containsExactly(60, 64);
    List<Part> last = show.parts().subList(show.parts().size() - 2, show.parts().size());
    assertThat(last).extracting(Part::name).containsExactly("Horn", "Bell");
    assertThat(last.get(0).balance().pan()).isEqualTo(30);
    assertThat(last.get(0).shelf()).hasSize(1);
    assertThat(last.get(1).shelf()).isEmpty();
    engine.apply(new UndoCommand.Undo(), 2, 2);
    engine.apply(new UndoCommand.Undo(), 3, 3);
    assertThat(engine.stage().show().parts()).isEqualTo(stage.show().parts());
  }

  @Test
  void whatDoesNotFitIsRefusedWhole() {
    Stage stage =
        Concert.of(
                s ->
                    s.withMeter(Meter.of(6, 8))
                        .mapPart(
                            KEYS, p -> Concert.shelved(p, clip(A, 0, 2880, note(1, 60, 0, 480)))))
            .stage();
    Show full = stage.show();
    for (int i = full.parts().size(); i < Show.MOST_PARTS; i++) {
      full = full.withNewPart("Part " + i, Sound.of(1));
    }
    MidiSong song = MidiSong.read(MidiFile.of("Quay", night(), MidiFile.Type.TRACKS).bytes());
    Arranging arranging = Arranging.of(song, Choice.of(song), full);
    Engine engine = Engine.of(stage.withShow(full));
    Outcome outcome = engine.apply(new ShelfCommand.BringIn(arranging.arrival()), 0, 0);
    assertThat(outcome).isInstanceOf(Outcome.Refused.class);
    assertThat(((Outcome.Refused) outcome).why()).contains("16 parts at most");
    assertThat(engine.stage().show()).isEqualTo(full);
  }
}
