package ancora.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ancora.core.engine.Engine;
import ancora.core.engine.Outcome;
import ancora.core.note.Note;
import ancora.core.replay.Replay;
import ancora.core.rules.cues.CueCommand;
import ancora.core.run.LaidOut;
import ancora.core.run.Run;
import ancora.core.run.RunNote;
import ancora.core.show.Show;
import ancora.core.stage.Stage;
import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

/** Rule 20: a song that is brought in plays as the song, cut wherever it may be. */
class SongsTest {

  private static final int QUARTER = 96;

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
  private static List<RunNote> notes(List<RunNote> notes, long over) {
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

  private static Stage broughtIn(MidiSong song, int cut) {
    Stage stage = Stage.of(Show.named("Song"));
    Arranging arranging = Arranging.of(song, Choice.all(cut), stage.show());
    Engine engine = Engine.of(stage);
    assertThat(engine.apply(arranging.bringIn(), 0, 0)).isInstanceOf(Outcome.Done.class);
    return engine.stage();
  }

  /** To the note and the tick; an end may lie off by less than the shortest note of a clip. */
  private static void isTheSong(MidiSong song, Run run) {
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

  private static String attack(RunNote note) {
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
