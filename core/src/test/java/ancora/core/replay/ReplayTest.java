package ancora.core.replay;

import static org.assertj.core.api.Assertions.assertThat;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.file.Channels;
import ancora.core.file.MidiFile;
import ancora.core.note.Controller;
import ancora.core.note.InputKey;
import ancora.core.note.Note;
import ancora.core.player.Sounded.Kind;
import ancora.core.rules.cues.CueCommand;
import ancora.core.rules.hands.HandCommand;
import ancora.core.rules.mending.MendCommand;
import ancora.core.rules.press.PressCommand;
import ancora.core.rules.settings.SettingCommand;
import ancora.core.show.Click;
import ancora.core.show.PartId;
import ancora.core.show.RecordingSettings;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.stage.Stage;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiFileFormat;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import org.junit.jupiter.api.Test;

/**
 * What sounds, in virtual time, against events worked out by hand; and the file that is made of it.
 */
class ReplayTest {

  private static final PartId KEYS = new PartId(1);
  private static final InputKey PAD = new InputKey("pads", 0, 60);

  private static Show show(Note... notes) {
    Click silent = Click.of(false, Click.When.ALWAYS, Click.Sound.CLAVES, 0);
    Show show =
        Show.named("Quay")
            .withClick(silent)
            .withRecording(RecordingSettings.DEFAULT.withCountInBars(0))
            .withNewPart("Keys", Sound.of(4))
            .withNextId(5000);
    if (notes.length == 0) {
      return show;
    }
    Clip clip = Clip.of(new ClipId(2), "a", new LoopWindow(0, 3840), List.of(notes));
    return show.mapPart(KEYS, part -> part.withClip(clip));
  }

  private static Note note(long id, int pitch, long onset, long length) {
    return Note.of(id, pitch, 90, onset, onset, length);
  }

  /** Microseconds of a tick at 120, tick 0 being at 1 s. */
  private static long at(long tick) {
    return 1_000_000 + Math.round(tick * 500_000.0 / 960);
  }

  private static Replay started(Show show) {
    Replay replay = Replay.of(Stage.of(show));
    replay.apply(new CueCommand.Start(), at(0), at(0));
    return replay;
  }

  private static Stream<String> events(Replay replay) {
    return replay.sounded().stream()
        .filter(s -> !s.isClick())
        .map(s -> s.kind() + " " + s.pitch() + " @" + s.tick());
  }

  /** Rule 5, the example of ring-over: attacked once a pass at 3360, off at 800 of the next. */
  @Test
  void aNoteRingsOverTheLine() {
    Replay replay = started(show(note(10, 60, 3360, 1280)));
    replay.advance(at(9000));
    assertThat(events(replay))
        .containsExactly(
            "ON 60 @0",
            "OFF 60 @800",
            "ON 60 @3360",
            "OFF 60 @4640",
            "ON 60 @7200",
            "OFF 60 @8480");
  }

  /** Rule 5, again: with a loop note 60 at 240, off at 240, on at 240. */
  @Test
  void againEndsAndAttacks() {
    Replay replay = started(show(note(10, 60, 3360, 1280), note(11, 60, 240, 100)));
    replay.advance(at(4300));
    assertThat(events(replay))
        .containsSequence("ON 60 @3360", "OFF 60 @4080", "ON 60 @4080", "OFF 60 @4180");
  }

  @Test
  void aFirstLoopIsHeardFromTheLineOn() {
    Replay replay = started(show());
    replay.apply(new PressCommand.MainPress(), at(10), at(15));
    replay.apply(new HandCommand.KeyDown(PAD, 90), at(970), at(972));
    replay.apply(new HandCommand.KeyUp(PAD), at(1300), at(1302));
    replay.apply(new PressCommand.MainPress(), at(3900), at(3905));
    replay.advance(at(9000));
    assertThat(events(replay).skip(2))
        .containsExactly("ON 60 @4800", "OFF 60 @5130", "ON 60 @8640", "OFF 60 @8970");
  }

  /** Rule 6: played in the pass, heard live; the loop has it a pass later, and not as a flam. */
  @Test
  void anOverdubbedNoteWaitsAPass() {
    Replay replay = started(show(note(10, 48, 0, 100)));
    replay.apply(new PressCommand.MainPress(), at(300), at(300));
    replay.apply(new HandCommand.KeyDown(PAD, 90), at(930), at(930));
    replay.apply(new HandCommand.KeyUp(PAD), at(945), at(945));
    replay.advance(at(6000));
    assertThat(events(replay).filter(e -> e.startsWith("ON 60")))
        .containsExactly("ON 60 @930", "ON 60 @4800");
  }

  @Test
  void peelEndsWhatTheLoopSoundsFromTheLayer() {
    Replay replay = started(show(note(10, 48, 0, 100)));
    replay.apply(new PressCommand.MainPress(), at(300), at(300));
    replay.apply(new HandCommand.KeyDown(PAD, 90), at(960), at(960));
    replay.apply(new HandCommand.KeyUp(PAD), at(2880), at(2880));
    replay.apply(new MendCommand.Peel(), at(5760), at(5760));
    replay.advance(at(12_000));
    assertThat(events(replay).filter(e -> e.contains(" 60 ")))
        .containsExactly("ON 60 @960", "OFF 60 @2880", "ON 60 @4800", "OFF 60 @5760");
  }

  @Test
  void stopAndPanicLeaveNothingSounding() {
    Replay replay = started(show(note(10, 60, 0, 3000), note(11, 64, 0, 5000)));
    replay.apply(new HandCommand.KeyDown(new InputKey("pads", 0, 67), 90), at(100), at(100));
    replay.apply(new CueCommand.Stop(), at(500), at(500));
    assertThat(events(replay).filter(e -> e.startsWith("OFF"))).hasSize(2);
    replay.apply(new HandCommand.Panic(), at(600), at(600));
    assertThat(events(replay).filter(e -> e.startsWith("OFF"))).hasSize(3);
  }

  /**
   * The JDK's own reader of Standard MIDI Files reads what is written. Standard MIDI Files 1.0:
   * type 1 has its tempo and meter in the first track; FF 51 03 07 A1 20 is 120 quarter notes a
   * minute; FF 58 04 04 02 18 08 is 4/4 with 24 clocks to the click.
   */
  @Test
  void theFileIsReadByTheJdk() throws IOException, InvalidMidiDataException {
    Replay replay = started(show(note(10, 60, 0, 480), note(11, 64, 960, 480)));
    replay.apply(new SettingCommand.SetTempo(Tempo.of(60)), at(1920), at(1920));
    replay.apply(new CueCommand.Stop(), at(3000), at(3000));
    byte[] bytes = file(replay);
    MidiFileFormat format = MidiSystem.getMidiFileFormat(new ByteArrayInputStream(bytes));
    assertThat(format.getType()).isEqualTo(1);
    assertThat(format.getResolution()).isEqualTo(960);
    Sequence read = MidiSystem.getSequence(new ByteArrayInputStream(bytes));
    assertThat(read.getTracks()).hasSize(2);
    assertThat(meta(read.getTracks()[0], 0x51)).containsExactly("0: 07 A1 20", "1920: 0F 42 40");
    assertThat(meta(read.getTracks()[0], 0x58)).containsExactly("0: 04 02 18 08");
    assertThat(notes(read.getTracks()[1]))
        .containsExactly("ON 60 @0", "OFF 60 @480", "ON 64 @960", "OFF 64 @1440");
  }

  @Test
  void rollsFollowOneAnotherOnBarLines() throws IOException, InvalidMidiDataException {
    Replay replay = started(show(note(10, 60, 0, 480)));
    replay.apply(new CueCommand.Stop(), at(2000), at(2000));
    replay.apply(new CueCommand.Start(), at(9000), at(9000));
    replay.apply(new CueCommand.Stop(), at(10_000), at(10_000));
    Sequence read = MidiSystem.getSequence(new ByteArrayInputStream(file(replay)));
    assertThat(replay.rolls()).hasSize(2);
    assertThat(notes(read.getTracks()[1]))
        .containsExactly("ON 60 @0", "OFF 60 @480", "ON 60 @3840", "OFF 60 @4320");
  }

  /**
   * MIDI 1.0: En ll mm is a bend of mm·128 + ll, 10000 being 0x4E·128 + 0x10; Bn 40 7F is the
   * sustain pedal going down.
   */
  @Test
  void controllersAreWrittenAsTheStandardHasThem() throws IOException, InvalidMidiDataException {
    Replay replay = started(show(note(10, 60, 0, 480)));
    replay.apply(
        new HandCommand.MoveController("keys", 0, Controller.BEND, 10_000), at(960), at(960));
    replay.apply(new HandCommand.Sustain("keys", 0, 127), at(1920), at(1920));
    replay.apply(
        new HandCommand.MoveController("keys", 0, Controller.PRESSURE, 33), at(2000), at(2000));
    replay.apply(new HandCommand.Panic(), at(2400), at(2400));
    replay.apply(new CueCommand.Stop(), at(3000), at(3000));
    Sequence read = MidiSystem.getSequence(new ByteArrayInputStream(file(replay)));
    List<String> found = new ArrayList<>();
    Track track = read.getTracks()[1];
    for (int i = 0; i < track.size(); i++) {
      // before that are volume and pan
      if (track.get(i).getTick() > 0
          && track.get(i).getMessage() instanceof ShortMessage m
          && m.getCommand() != ShortMessage.NOTE_ON
          && m.getCommand() != ShortMessage.NOTE_OFF
          && m.getCommand() != ShortMessage.PROGRAM_CHANGE) {
        found.add(
            "%d: %02X %02X %02X"
                .formatted(track.get(i).getTick(), m.getCommand(), m.getData1(), m.getData2()));
      }
    }
    assertThat(found)
        .containsExactly(
            "960: E0 10 4E",
            "1920: B0 40 7F",
            "2000: D0 21 00",
            "2400: B0 40 00",
            "2400: E0 00 40",
            "2400: D0 00 00");
  }

  /** General MIDI Level 1: percussion is on channel 10, which counts as 9 here. */
  @Test
  void drumsAreOnChannelTen() {
    Show band = Show.named("band").withMeter(Meter.of(7, 8));
    for (int i = 0; i < 12; i++) {
      band = band.withNewPart("Part " + i, i == 3 ? Sound.STANDARD_KIT : Sound.of(i));
    }
    Show full = band;
    assertThat(full.parts().stream().map(p -> Channels.of(full).get(p.id())))
        .containsExactly(0, 1, 2, 9, 3, 4, 5, 6, 7, 8, 10, 11);
  }

  private static byte[] file(Replay replay) {
    return MidiFile.of("Quay", replay.runs(), MidiFile.Type.TRACKS).bytes();
  }

  private static List<String> meta(Track track, int type) {
    List<String> found = new ArrayList<>();
    for (int i = 0; i < track.size(); i++) {
      if (track.get(i).getMessage() instanceof MetaMessage meta && meta.getType() == type) {
        StringBuilder hex = new StringBuilder(track.get(i).getTick() + ":");
        for (byte b : meta.getData()) {
          hex.append(String.format(" %02X", b));
        }
        found.add(hex.toString());
      }
    }
    return found;
  }

  private static List<String> notes(Track track) {
    List<String> found = new ArrayList<>();
    for (int i = 0; i < track.size(); i++) {
      if (track.get(i).getMessage() instanceof ShortMessage message
          && message.getCommand() != ShortMessage.PROGRAM_CHANGE
          && message.getCommand() != ShortMessage.CONTROL_CHANGE) {
        Kind kind = message.getCommand() == ShortMessage.NOTE_ON ? Kind.ON : Kind.OFF;
        found.add(kind + " " + message.getData1() + " @" + track.get(i).getTick());
      }
    }
    return found;
  }
}
