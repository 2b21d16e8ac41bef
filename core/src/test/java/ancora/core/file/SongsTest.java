package ancora.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.replay.Replay;
import ancora.core.rules.cues.CueCommand;
import ancora.core.run.LaidOut;
import ancora.core.run.Run;
import ancora.core.run.RunNote;
import ancora.core.run.RunPart;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import ancora.core.time.Ticks;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Rule 20: a song that is brought in plays as the song, cut wherever it may be. */
class SongsTest {

  private static final int QUARTER = 96;
  private static final int VOLUME = 7;
  private static final int EXPRESSION = 11;
  private static final int SOFTEST = 48;

  @TempDir Path folder;

  /** Somebody's song, with whatever songs have: written by the JDK. */
  private static byte[] song(Random random) throws Exception {
    Sequence sequence = new Sequence(Sequence.PPQ, QUARTER);
    int tracks = 1 + random.nextInt(3);
    int[] meters = {4, 4, 4, 3, 2};
    int long16 = 16 * QUARTER * (1 + random.nextInt(8));
    for (int t = 0; t < tracks; t++) {
      Track track = sequence.createTrack();
      int channel = random.nextInt(4) == 0 ? 9 : random.nextInt(3);
      if (t == 0) {
        for (int i = random.nextInt(3); i > 0; i--) {
          int beats = meters[random.nextInt(meters.length)];
          meta(track, 0x58, 4 * QUARTER * random.nextInt(6), beats, 2, 24, 8);
        }
        for (int i = random.nextInt(3); i > 0; i--) {
          meta(track, 0x51, QUARTER * random.nextInt(20), 4 + random.nextInt(9), 0, 0);
        }
      }
      for (int n = random.nextInt(12); n > 0; n--) {
        int number = random.nextBoolean() ? VOLUME : EXPRESSION;
        int at = random.nextInt(3) == 0 ? 0 : random.nextInt(long16);
        // softer than this a step of the controller is more than what is asked for
        int value = SOFTEST + random.nextInt(128 - SOFTEST);
        track.add(new MidiEvent(new ShortMessage(0xb0, channel, number, value), at));
      }
      for (int n = random.nextInt(3); n > 0; n--) {
        int at = random.nextInt(3) == 0 ? 0 : random.nextInt(long16);
        track.add(new MidiEvent(new ShortMessage(0xc0, channel, random.nextInt(3), 0), at));
      }
      for (int n = 1 + random.nextInt(40); n > 0; n--) {
        int pitch = 40 + random.nextInt(12);
        int at =
            random.nextBoolean()
                ? random.nextInt(long16)
                : QUARTER * random.nextInt(long16 / QUARTER);
        int length =
            random.nextInt(5) == 0 ? random.nextInt(20 * QUARTER) : random.nextInt(QUARTER);
        track.add(
            new MidiEvent(new ShortMessage(0x90, channel, pitch, 1 + random.nextInt(127)), at));
        track.add(new MidiEvent(new ShortMessage(0x80, channel, pitch, 0), at + 1 + length));
      }
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    MidiSystem.write(sequence, tracks == 1 ? 0 : 1, out);
    return out.toByteArray();
  }

  /**
   * In the file a note is as loud as volume and expression of its channel say, whichever track says
   * them: 40 log(value / 127) dB each (General MIDI 2, from memory). What comes in is as loud, by
   * the part's level and the clip's moves.
   */
  @Property(tries = 200)
  void eachNoteIsAsLoudAsInTheFile(@ForAll long seed) throws Exception {
    Random random = new Random(seed);
    byte[] file = song(random);
    MidiSong song = MidiSong.read(file);
    Show show = broughtIn(song, 1 + random.nextInt(9)).show();
    if (show.form().isEmpty()) {
      return;
    }
    Sequence sequence = MidiSystem.getSequence(new ByteArrayInputStream(file));
    long rest = song.first() - firstNote(sequence) * Ticks.PER_QUARTER / QUARTER;
    Run run = LaidOut.form(show);
    for (int i = 0; i < song.lines().size(); i++) {
      MidiSong.Line line = song.lines().get(i);
      RunPart part = run.parts().get(i);
      for (RunNote note : notes(line.notes(), song.end())) {
        double written = inTheFile(sequence, line.channel() - 1, note.place() - rest);
        double sounds =
            part.balances().get(0).balance().level()
                + decibels(stands(part, VOLUME, note.place()))
                + decibels(stands(part, EXPRESSION, note.place()));
        assertThat(sounds).as("line %s: %s", i + 1, attack(note)).isCloseTo(written, within(0.5));
      }
    }
  }

  private static double decibels(int value) {
    return 40 * Math.log10(value / 127.0);
  }

  static long firstNote(Sequence sequence) {
    return events(sequence)
        .filter(e -> status(e) >> 4 == 9 && data(e, 2) > 0)
        .mapToLong(MidiEvent::getTick)
        .min()
        .orElseThrow();
  }

  private static Stream<MidiEvent> events(Sequence sequence) {
    return Arrays.stream(sequence.getTracks())
        .flatMap(track -> IntStream.range(0, track.size()).mapToObj(track::get));
  }

  private static int status(MidiEvent event) {
    return event.getMessage().getStatus();
  }

  private static int data(MidiEvent event, int place) {
    return event.getMessage().getMessage()[place] & 0x7f;
  }

  /**
   * The sum of what both controllers say last by a tick; a file that says no volume says the full.
   */
  private static double inTheFile(Sequence sequence, int channel, long tick) {
    List<MidiEvent> changes =
        events(sequence)
            .filter(e -> status(e) >> 4 == 0xb)
            .sorted(Comparator.comparingLong(MidiEvent::getTick))
            .toList();
    int[] stand = {changes.stream().anyMatch(e -> data(e, 1) == VOLUME) ? 100 : 127, 127};
    for (MidiEvent change : changes) {
      boolean by = change.getTick() * Ticks.PER_QUARTER / QUARTER <= tick;
      if (by && status(change) == 0xb0 + channel) {
        stand[data(change, 1) == VOLUME ? 0 : 1] = data(change, 2);
      }
    }
    return decibels(stand[0]) + decibels(stand[1]);
  }

  private static int stands(RunPart part, int number, long tick) {
    return part.allMoves().stream()
        .filter(move -> move.controller().number() == number && move.place() <= tick)
        .reduce((a, b) -> b)
        .map(ControllerMove::value)
        .orElse(127);
  }

  /** Another program reads the same notes: each line's, whatever of a pitch overlaps. */
  @Test
  void theNotesAreThoseThatMidicsvReads() throws Exception {
    for (int seed = 1; seed <= 25; seed++) {
      byte[] file = song(new Random(seed));
      MidiSong song = MidiSong.read(file);
      Set<String> own = new TreeSet<>();
      for (MidiSong.Line line : song.lines()) {
        line.notes().stream()
            .filter(note -> note.pitch() < Note.PEDAL)
            .forEach(note -> own.add(line.channel() + " " + attack(note)));
      }
      long rest =
          song.first()
              - firstNote(MidiSystem.getSequence(new ByteArrayInputStream(file))) * 960 / QUARTER;
      assertThat(own).as("seed %s", seed).isEqualTo(midicsv(file, rest));
    }
  }

  private Set<String> midicsv(byte[] file, long rest) throws Exception {
    List<String[]> rows = MidiCsv.rows(folder, file);
    return rows.stream()
        .filter(MidiCsv::isOnset)
        .map(
            row ->
                "%d %d %s %s"
                    .formatted(
                        Integer.parseInt(row[3]) + 1,
                        MidiCsv.tick(row, rows) + rest,
                        row[4],
                        row[5]))
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static void meta(Track track, int kind, int tick, int... data) throws Exception {
    byte[] bytes = new byte[data.length];
    for (int i = 0; i < data.length; i++) {
      bytes[i] = (byte) data[i];
    }
    track.add(new MidiEvent(new MetaMessage(kind, bytes, bytes.length), tick));
  }

  /**
   * Notes by place and pitch, the pedal aside. Those on one tick are one; each ends where its pitch
   * is attacked next, and where the song does.
   */
  static List<RunNote> notes(List<RunNote> notes, long over) {
    Map<Integer, TreeMap<Long, RunNote>> byPitch = new TreeMap<>();
    for (RunNote note : notes) {
      if (note.pitch() < Note.PEDAL) {
        byPitch
            .computeIfAbsent(note.pitch(), pitch -> new TreeMap<>())
            .merge(
                note.place(),
                note,
                (a, b) ->
                    new RunNote(
                        a.place(),
                        a.pitch(),
                        Math.max(a.velocity(), b.velocity()),
                        Math.max(a.length(), b.length())));
      }
    }
    List<RunNote> all = new ArrayList<>();
    for (TreeMap<Long, RunNote> pitch : byPitch.values()) {
      for (RunNote note : pitch.values()) {
        Long next = pitch.higherKey(note.place());
        long room = (next == null ? over : Math.min(next, over)) - note.place();
        long length = Math.min(room, note.length());
        all.add(new RunNote(note.place(), note.pitch(), note.velocity(), length));
      }
    }
    all.sort(Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch));
    return all;
  }

  static Stage broughtIn(MidiSong song, int cut) {
    Stage stage = Stage.of(Show.named("Song"));
    Arranging arranging = Arranging.of(song, Choice.all(cut), stage.show());
    Engine engine = Engine.of(stage);
    assertThat(engine.apply(arranging.bringIn(), 0, 0)).isInstanceOf(Outcome.Done.class);
    return engine.stage();
  }

  /** To the note and the tick; an end may lie off by less than the shortest note of a clip. */
  static void isTheSong(MidiSong song, Run run) {
    assertThat(run.parts()).hasSameSizeAs(song.lines());
    for (int i = 0; i < song.lines().size(); i++) {
      List<RunNote> written = notes(song.lines().get(i).notes(), song.end());
      List<RunNote> sounded = notes(run.parts().get(i).allNotes(), song.end());
      assertThat(sounded.stream().map(SongsTest::attack).toList())
          .as("line %s", i + 1)
          .isEqualTo(written.stream().map(SongsTest::attack).toList());
      for (int n = 0; n < written.size(); n++) {
        assertThat(sounded.get(n).length())
            .as("how long %s lasts", attack(written.get(n)))
            .isCloseTo(written.get(n).length(), within(Note.SHORTEST));
      }
    }
  }

  static String attack(RunNote note) {
    return "%d %d %d".formatted(note.place(), note.pitch(), note.velocity());
  }

  @Property(tries = 300)
  void aSongIsTheSameLaidOutFromItsSections(@ForAll long seed) throws Exception {
    Random random = new Random(seed);
    MidiSong song = MidiSong.read(song(random));
    Show show = broughtIn(song, 1 + random.nextInt(9)).show();
    if (!show.form().isEmpty()) {
      isTheSong(song, LaidOut.form(show));
    }
  }

  /** Space is pressed, and it plays from its first bar to its last. */
  @Property(tries = 100)
  void aSongPlaysFromItsFirstBarToItsLast(@ForAll long seed) throws Exception {
    Random random = new Random(seed);
    MidiSong song = MidiSong.read(song(random));
    Stage stage = broughtIn(song, 1 + random.nextInt(9));
    if (stage.show().form().isEmpty()) {
      return;
    }
    Replay replay = Replay.ofRuns(stage);
    replay.apply(new CueCommand.Start(), 1000, 1000);
    long over = LaidOut.form(stage.show()).until();
    long stop = Math.round(replay.stage().map().orElseThrow().microsOf(over)) - 1000;
    replay.advance(stop);
    replay.apply(new CueCommand.Stop(), stop, stop);
    isTheSong(song, replay.runs().get(0));
  }
}
