package ancora.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assumptions.assumeThat;

import ancora.core.analysis.FoundTempo;
import ancora.core.analysis.TempoFinder;
import ancora.core.note.Note;
import ancora.core.replay.Replay;
import ancora.core.rules.cues.CueCommand;
import ancora.core.run.LaidOut;
import ancora.core.run.Run;
import ancora.core.run.RunNote;
import ancora.core.search.Search;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalInt;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Rule 20, by songs that nobody here wrote: the music of games in Debian's packages openttd-openmsx
 * and planetblupi-music-midi, which {@code ./ancora test} fetches. What they say is what midicsv
 * reads in them.
 */
class RealSongsTest {

  /** Where they are unpacked. */
  private static final Path SONGS =
      Path.of(System.getProperty("ancora.songs", Path.of("..", "target", "songs").toString()));

  /** Longer songs, in notes, are laid out and not performed, but in a long search. */
  private static final int PERFORMED = Search.samples(700);

  @TempDir Path folder;

  @BeforeAll
  static void fetched() {
    assumeThat(SONGS).isDirectory();
  }

  static Stream<Path> songs() throws IOException {
    if (!Files.isDirectory(SONGS)) {
      return Stream.of(SONGS);
    }
    try (Stream<Path> all = Files.walk(SONGS)) {
      return all.filter(file -> file.toString().endsWith(".mid")).sorted().toList().stream();
    }
  }

  /**
   * In, it has the notes of the file, of each channel; as sections it is laid out as the song, and
   * is performed so from its first bar to its last; out, its notes are where they were.
   */
  @ParameterizedTest
  @MethodSource("songs")
  void playsAsTheSong(Path file) throws Exception {
    byte[] bytes = Files.readAllBytes(file);
    MidiSong song = MidiSong.read(bytes);
    List<String[]> rows = MidiCsv.rows(folder, bytes);
    List<Struck> written = struck(rows);
    long rest = song.first() - written.get(0).tick();
    assertThat(
            song.lines().stream()
                .flatMap(line -> struck(line.channel(), line.notes()))
                .sorted()
                .toList())
        .isEqualTo(written.stream().map(one -> one.later(rest)).sorted().toList());
    assertThat(song.tempo().bpm()).isCloseTo(tempo(rows, written.get(0).tick()), within(0.001));
    if (song.lines().size() > Show.MOST_PARTS) {
      song = song.joined();
    }
    Stage stage = SongsTest.broughtIn(song, 8);
    Run form = LaidOut.form(stage.show());
    SongsTest.isTheSong(song, form);
    byte[] out = MidiFile.of("song", form, MidiFile.Type.TRACKS).bytes();
    assertThat(struck(MidiCsv.rows(folder, out)).stream().map(one -> one.on(0)).sorted().toList())
        .isEqualTo(
            form.parts().stream().flatMap(part -> struck(0, part.allNotes())).sorted().toList());
    if (song.notes() > PERFORMED) {
      return;
    }
    Replay replay = Replay.ofRuns(stage);
    replay.apply(new CueCommand.Start(), 1000, 1000);
    long stop = Math.round(replay.stage().map().orElseThrow().microsOf(form.until())) - 1000;
    replay.advance(stop);
    replay.apply(new CueCommand.Stop(), stop, stop);
    SongsTest.isTheSong(song, replay.runs().get(0));
  }

  /** The least part of them whose tempo is found in their notes alone, or half or double of it. */
  private static final double FOUND = 0.95;

  @Test
  void theirTempoIsFound() throws IOException {
    List<Path> songs = songs().toList();
    long found = 0;
    for (Path file : songs) {
      byte[] bytes = Files.readAllBytes(file);
      double bpm = MidiSong.read(bytes).times().get(0).tempo().bpm();
      FoundTempo tempo = TempoFinder.find(MidiOnsets.of(bytes), OptionalInt.empty()).orElseThrow();
      double octaves = Math.log(tempo.bpm() / bpm) / Math.log(2);
      if (Math.abs(octaves - Math.rint(octaves)) < 0.015) {
        found++;
      } else {
        assertThat(tempo.sureness()).as("%s: %s", file, tempo.bpm()).isLessThan(0.9);
      }
    }
    assertThat(found).isGreaterThanOrEqualTo(Math.round(FOUND * songs.size()));
  }

  /** A note that is struck: on a channel from 1, at a tick of 960 to the quarter note. */
  private record Struck(int channel, long tick, int pitch, int velocity)
      implements Comparable<Struck> {

    Struck later(long ticks) {
      return new Struck(channel, tick + ticks, pitch, velocity);
    }

    Struck on(int other) {
      return new Struck(other, tick, pitch, velocity);
    }

    @Override
    public int compareTo(Struck other) {
      return Comparator.comparingLong(Struck::tick)
          .thenComparingInt(Struck::channel)
          .thenComparingInt(Struck::pitch)
          .thenComparingInt(Struck::velocity)
          .compare(this, other);
    }
  }

  private static Stream<Struck> struck(int channel, List<RunNote> notes) {
    return notes.stream()
        .filter(note -> note.pitch() < Note.PEDAL)
        .map(note -> new Struck(channel, note.place(), note.pitch(), note.velocity()));
  }

  /** From the first on. */
  private static List<Struck> struck(List<String[]> rows) {
    return rows.stream()
        .filter(MidiCsv::isOnset)
        .map(
            row ->
                new Struck(
                    Integer.parseInt(row[3]) + 1,
                    MidiCsv.tick(row, rows),
                    Integer.parseInt(row[4]),
                    Integer.parseInt(row[5])))
        .sorted()
        .toList();
  }

  /** What is said last by a tick, in beats a minute; 120 where nothing is (MIDI 1.0, Files). */
  private static double tempo(List<String[]> rows, long tick) {
    return rows.stream()
        .filter(row -> row[2].equals("Tempo") && MidiCsv.tick(row, rows) <= tick)
        .reduce((a, b) -> b)
        .map(row -> 60e6 / Integer.parseInt(row[3]))
        .orElse(120.0);
  }
}
