package ancora.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import ancora.core.Refusal;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.run.Run;
import ancora.core.run.RunNote;
import ancora.core.show.Show;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.zip.GZIPOutputStream;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rule 20: what is read of Standard MIDI Files, and what is refused. */
class MidiSongTest {

  /**
   * The worked example at the end of Standard MIDI Files 1.0, as a file of type 0, with 96 ticks to
   * the quarter note (from memory).
   */
  private static final String TYPE_0 =
      """
      4D 54 68 64 00 00 00 06 00 00 00 01 00 60
      4D 54 72 6B 00 00 00 3B
      00 FF 58 04 04 02 18 08
      00 FF 51 03 07 A1 20
      00 C0 05  00 C1 2E  00 C2 46
      00 92 30 60  00 3C 60  60 91 43 40  60 90 4C 20
      81 40 82 30 40  00 3C 40  00 81 43 40  00 80 4C 40
      00 FF 2F 00
      """;

  /** The same as a file of type 1, with running status and note-ons of velocity 0 for ends. */
  private static final String TYPE_1 =
      """
      4D 54 68 64 00 00 00 06 00 01 00 04 00 60
      4D 54 72 6B 00 00 00 14
      00 FF 58 04 04 02 18 08  00 FF 51 03 07 A1 20  83 00 FF 2F 00
      4D 54 72 6B 00 00 00 10
      00 C0 05  81 40 90 4C 20  81 40 4C 00  00 FF 2F 00
      4D 54 72 6B 00 00 00 0F
      00 C1 2E  60 91 43 40  82 20 43 00  00 FF 2F 00
      4D 54 72 6B 00 00 00 15
      00 C2 46  00 92 30 60  00 3C 60  83 00 30 00  00 3C 00  00 FF 2F 00
      """;

  private static byte[] bytes(String hex) {
    String digits = hex.replaceAll("\\s", "");
    byte[] bytes = new byte[digits.length() / 2];
    for (int i = 0; i < bytes.length; i++) {
      bytes[i] = (byte) Integer.parseInt(digits.substring(2 * i, 2 * i + 2), 16);
    }
    return bytes;
  }

  /** A file of one track, 96 ticks to the quarter note. */
  private static byte[] track(String events) {
    return file("00 60", events);
  }

  private static byte[] file(String division, String events) {
    String length = "%08X".formatted(bytes(events).length);
    return bytes("4D546864 00000006 0000 0001 " + division + " 4D54726B " + length + " " + events);
  }

  private static final String NOTE = "00 90 3C 40 60 80 3C 00 ";
  private static final String END = "00 FF 2F 00";

  @Test
  void theStandardsExampleOfType0() {
    MidiSong song = MidiSong.read(bytes(TYPE_0));
    assertThat(song.tempo()).isEqualTo(Tempo.of(120));
    assertThat(song.meter()).isEqualTo(Meter.COMMON);
    assertThat(song.lines())
        .extracting(MidiSong.Line::channel, MidiSong.Line::sound)
        .containsExactlyInAnyOrder(
            tuple(1, Sound.of(5)), tuple(2, Sound.of(46)), tuple(3, Sound.of(70)));
    assertThat(notes(song, 3)).containsExactly("48 0 3840 96", "60 0 3840 96");
    assertThat(notes(song, 2)).containsExactly("67 960 2880 64");
    assertThat(notes(song, 1)).containsExactly("76 1920 1920 32");
    assertThat(song.barCount()).isEqualTo(1);
    assertThat(song.leftOut()).isEmpty();
  }

  @Test
  void theStandardsExampleOfType1HoldsTheSame() {
    MidiSong one = MidiSong.read(bytes(TYPE_1));
    MidiSong zero = MidiSong.read(bytes(TYPE_0));
    for (int channel = 1; channel <= 3; channel++) {
      assertThat(notes(one, channel)).isEqualTo(notes(zero, channel));
    }
    assertThat(one.lines()).extracting(MidiSong.Line::track).containsExactly(2, 3, 4);
  }

  private static List<String> notes(MidiSong song, int channel) {
    return song.lines().stream()
        .filter(line -> line.channel() == channel)
        .flatMap(line -> line.notes().stream())
        .map(n -> n.pitch() + " " + n.place() + " " + n.length() + " " + n.velocity())
        .toList();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "no MIDI file | 52494646 00000006 0000 0001 0060 00000000 | no MIDI file",
        "too short | 4D546864 00 | no MIDI file",
        "a header cut off | 4D546864 000000FF 0000 0001 0060 0000 | broken at its beginning",
        "type 2 | 4D546864 00000006 0002 0001 0060 | of type 2",
        "no tracks | 4D546864 00000006 0001 0000 0060 | no tracks",
        "65 tracks | 4D546864 00000006 0001 0041 0060 | 65 tracks",
        "no track at all | 4D546864 00000006 0000 0001 0060 | cut off in track 1",
        "2 GB | 4D546864 00000006 0000 0001 0060 4D54726B 7FFFFFFF 00903C40 | cut off in track 1",
        "cut | 4D546864 00000006 0000 0001 0060 4D54726B 0000000C 00903C40 | cut off in track 1",
        "division 0 | 4D546864 00000006 0000 0001 0000 4D54726B 00000004 00FF2F00 | no ticks",
        "SMPTE 23 | 4D546864 00000006 0000 0001 E928 4D54726B 00000004 00FF2F00 | no ticks",
        "no status | 4D546864 00000006 0000 0001 0060 4D54726B 00000003 003C40 | broken in track 1",
        "F1 | 4D546864 00000006 0000 0001 0060 4D54726B 00000003 00F140 | broken in track 1",
        "data of 80 | 4D546864 00000006 0000 0001 0060 4D54726B 00000004 00903C80 | broken in track 1",
        "half an event | 4D546864 00000006 0000 0001 0060 4D54726B 00000003 00903C | broken in track 1",
        "a meta too long | 4D546864 00000006 0000 0001 0060 4D54726B 00000007 00FF01FFFFFF7F | broken in",
        "5 bytes of time | 4D546864 00000006 0000 0001 0060 4D54726B 00000006 FFFFFFFFFF00 | broken in"
      })
  void whatIsNoneIsRefusedInASentence(String what, String hex, String why) {
    assertThatThrownBy(() -> MidiSong.read(bytes(hex + "00".repeat(2))))
        .as(what)
        .isInstanceOf(Refusal.class)
        .hasMessageContaining(why)
        .satisfies(e -> assertThat(e.getMessage()).hasSizeLessThan(240).endsWith("."));
  }

  @Test
  void aHundredThousandEventsAreReadAndNotOneMore() {
    String event = "01 90 3C 40";
    String running = "01 3C 40".repeat(MidiReader.MOST_EVENTS - 2);
    assertThat(MidiSong.read(track(event + running + END)).notes())
        .isEqualTo(MidiReader.MOST_EVENTS - 1);
    assertThatThrownBy(() -> MidiSong.read(track(event + running + "01 3C 40" + END)))
        .hasMessageContaining("more than 100000 events");
  }

  /** Files that say much in little: read, or refused, before time or memory is taken for them. */
  @Test
  void manyTimesLinesAndMovesAreBounded() {
    StringBuilder times = new StringBuilder();
    for (int i = 0; i < 16_000; i++) {
      times.append("01 FF 51 03 %06X 00 FF 58 04 %02X 02 18 08 ".formatted(300_000 + i, 2 + i % 3));
    }
    assertThat(MidiSong.read(track(times + NOTE + "90 00 90 3C 40 00 80 3C 00" + END)).times())
        .hasSizeLessThanOrEqualTo(12);
    StringBuilder sounds = new StringBuilder();
    for (int channel = 0; channel < 3; channel++) {
      for (int program = 0; program < 100; program++) {
        sounds.append(
            "00 C%X %02X 00 9%X 3C 40 01 8%X 3C 00 ".formatted(channel, program, channel, channel));
      }
    }
    assertThatThrownBy(() -> MidiSong.read(track(sounds + END))).hasMessageContaining("256 lines");
    String moves = "01 B0 01 40".repeat(50_000);
    String few = sounds.substring(0, sounds.length() / 3);
    assertThatThrownBy(() -> MidiSong.read(track(few + moves + END)))
        .hasMessageContaining("too often");
  }

  @Test
  void aSongOfDaysIsRefused() {
    assertThatThrownBy(() -> MidiSong.read(track("00 90 3C 40 FF FF FF 7F 80 3C 00" + END)))
        .hasMessageContaining("longer than 16384 bars");
  }

  @Test
  void notesWithoutEndLastToTheEndOfTheTrack() {
    MidiSong song = MidiSong.read(track("00 90 3C 40 83 00 FF 2F 00"));
    assertThat(notes(song, 1)).containsExactly("60 0 3840 64");
  }

  /** The standard ends running status there; many a file goes on. */
  @Test
  void runningStatusGoesOnOverWhatIsNoChannelMessage() {
    MidiSong meta = MidiSong.read(track("00 90 3C 40 60 FF 01 01 41 00 3C 00" + END));
    assertThat(notes(meta, 1)).containsExactly("60 0 960 64");
    MidiSong exclusive = MidiSong.read(track("00 90 3C 40 60 F0 02 01 F7 00 3C 00" + END));
    assertThat(notes(exclusive, 1)).containsExactly("60 0 960 64");
    assertThat(exclusive.leftOut()).containsExactly("1 message for one maker's devices alone.");
  }

  @Test
  void emptyTracksAndChunksOfOtherKindsArePassedOver() {
    MidiSong song =
        MidiSong.read(
            bytes(
                "4D546864 00000006 0001 0003 0060 4D54726B 00000000"
                    + " 58464948 00000002 0102 4D54726B 00000004 00FF2F00"
                    + " 4D54726B 0000000C "
                    + NOTE
                    + END));
    assertThat(song.lines()).hasSize(1);
    assertThat(song.lines().get(0).track()).isEqualTo(3);
  }

  /** 25 frames a second of 40 ticks each are milliseconds; half a second is a quarter at 120. */
  @Test
  void framesAreReadAsTime() {
    MidiSong song = MidiSong.read(file("E7 28", "00 90 3C 40 83 74 80 3C 00" + END));
    assertThat(notes(song, 1)).containsExactly("60 0 960 64");
    assertThat(song.leftOut()).singleElement().asString().contains("counts frames");
    // 30 frames, drop frame: 30000/1001 a second
    MidiSong drop = MidiSong.read(file("E3 50", "00 90 3C 40 93 5E 80 3C 00" + END));
    assertThat(drop.lines().get(0).notes().get(0).length()).isBetween(1990L, 2060L);
  }

  @Test
  void namesAreReadInUtf8AndLatin1() {
    // "Blåse", in UTF-8 and in Latin-1; and a name with a line end and a null in it
    assertThat(name("42 6C C3 A5 73 65")).isEqualTo("Blåse");
    assertThat(name("42 6C E5 73 65")).isEqualTo("Blåse");
    assertThat(name("41 0A 00 42")).isEqualTo("AB");
    assertThat(name("20 20")).isEmpty();
    assertThat(name("41".repeat(120))).hasSize(60);
  }

  private static String name(String hex) {
    String length = "%02X".formatted(bytes(hex).length);
    return MidiSong.read(track("00 FF 03 " + length + hex + NOTE + END)).title();
  }

  @Test
  void whatIsLeftOutIsSaidWithCounts() {
    MidiSong song =
        MidiSong.read(
            track(
                "00 FF 51 03 07 A1 20 60 FF 51 03 06 1A 80 00 FF 58 04 03 02 18 08"
                    + " 60 FF 58 04 04 02 18 08 00 C0 05 00 C0 06 00 A0 3C 40 00 B0 62 00"
                    + NOTE
                    + END));
    assertThat(song.meter()).as("that of the first note").isEqualTo(Meter.COMMON);
    assertThat(song.tempo()).isEqualTo(Tempo.of(150));
    assertThat(song.leftOut())
        .containsExactly("1 pressure on single keys.", "1 control change that no clip keeps.");
  }

  /** Channel volume 64 is 40 log(64/127) dB, as General MIDI Level 2 has it; pan 0 is left. */
  @Test
  void volumePanPedalAndControllersAreTakenOver() {
    MidiSong song =
        MidiSong.read(
            track(
                "00 B0 07 40 00 B0 0A 00 00 B0 01 21 00 E0 00 50 00 B0 40 7F "
                    + NOTE
                    + "00 B0 40 00"
                    + END));
    MidiSong.Line line = song.lines().get(0);
    assertThat(line.balance().level()).isEqualTo(-11.9);
    assertThat(line.balance().pan()).isEqualTo(-100);
    assertThat(line.moves())
        .extracting(ControllerMove::controller, ControllerMove::value)
        .containsExactly(tuple(Controller.change(1), 0x21), tuple(Controller.BEND, 0x50 << 7));
    assertThat(line.notes()).extracting(RunNote::pitch).containsExactly(60, Note.PEDAL);
  }

  /** Two tracks of a type 1 file, 96 ticks to the quarter note. */
  private static byte[] tracks(String one, String two) {
    return bytes(
        "4D546864 00000006 0001 0002 0060 4D54726B %08X %s 4D54726B %08X %s"
            .formatted(bytes(one).length, one, bytes(two).length, two));
  }

  private static final String C_AND_D = "00 90 3C 40 60 80 3C 00 00 90 3E 40 60 80 3E 00 ";

  @Test
  void tempoAndMeterHoldThatDoAtTheFirstNoteTheLastOfThoseOnATick() {
    // a bar of set-up at 60 in 4/4; at the first note 100, then 140 on the same tick; later 150 for
    // long
    MidiSong song =
        MidiSong.read(
            track(
                "00 FF 51 03 0F 42 40 83 00 FF 51 03 09 27 C0 00 FF 51 03 06 8A 1B "
                    + C_AND_D
                    + "81 40 FF 51 03 06 1A 80 00 90 3C 40 8C 00 80 3C 00 "
                    + END));
    assertThat(song.tempo().bpm()).isCloseTo(140, within(0.01));
    assertThat(song.first()).isEqualTo(3840);
    assertThat(song.times())
        .as("the one that lasts longest first; the bar of set-up is none")
        .extracting(time -> Math.round(time.tempo().bpm()) + " " + time.bar())
        .containsExactly("150 3", "140 2");
  }

  @Test
  void anUpbeatIsMadeABarByARestBeforeIt() {
    // 1/8 for the upbeat, then 4/4, as engravers write it
    MidiSong song =
        MidiSong.read(
            track(
                "00 FF 58 04 01 03 18 08 00 90 3C 40 30 80 3C 00 00 FF 58 04 04 02 18 08 "
                    + C_AND_D
                    + END));
    assertThat(song.meter()).isEqualTo(Meter.COMMON);
    assertThat(notes(song, 1))
        .containsExactly("60 3360 480 64", "60 3840 960 64", "62 4800 960 64");
    assertThat(song.barCount()).isEqualTo(2);
  }

  @Test
  void barLinesGoAlongTheMeters() {
    MidiSong song =
        MidiSong.read(
            track(
                "00 FF 58 04 03 02 18 08 82 20 FF 58 04 02 02 18 08 81 40 FF 58 04 04 02 18 08 "
                    + C_AND_D
                    + END));
    SongBars bars = song.bars();
    assertThat(bars.lineAfter(0)).isEqualTo(2880);
    assertThat(bars.lineAfter(2880)).isEqualTo(4800);
    assertThat(bars.lineAfter(4800)).isEqualTo(8640);
    assertThat(bars.barAt(4799)).isEqualTo(2);
    assertThat(bars.barAt(4800)).isEqualTo(3);
    assertThat(bars.lineBy(8000)).isEqualTo(4800);
    assertThat(bars.nearest(4000)).isEqualTo(4800);
  }

  /** Track 1 says program, volume and pedal of channel 1; track 2 plays on it. */
  @Test
  void aChannelIsInOneStateWhicheverTrackSaysIt() {
    MidiSong song =
        MidiSong.read(
            tracks("00 C0 10 00 B0 07 40 00 B0 40 7F 81 40 B0 40 00 " + END, C_AND_D + END));
    MidiSong.Line line = song.lines().get(0);
    assertThat(line.sound()).isEqualTo(Sound.of(0x10));
    assertThat(line.balance().level()).isEqualTo(-11.9);
    assertThat(notes(song, 1)).contains("128 0 1920 127");
    assertThat(line.moves()).as("a volume said once is the level, and no move").isEmpty();
    assertThat(song.lines()).as("no line without notes").hasSize(1);
  }

  @Test
  void aLineOfSeveralSoundsIsALineOfEach() {
    MidiSong song =
        MidiSong.read(track("00 C0 04 " + NOTE + "00 C0 30 " + NOTE + "00 C0 04 " + NOTE + END));
    assertThat(song.lines())
        .extracting(line -> line.called() + " " + line.notes().size())
        .containsExactly(Sound.of(4).name() + " 2", Sound.of(0x30).name() + " 1");
    assertThat(song.joined().lines())
        .extracting(line -> line.called() + " " + line.notes().size())
        .containsExactly(Sound.of(4).name() + " 3");
  }

  /** Drums 40 and 38 on one beat, 36 on the next; what is played on channel 1 is no drum. */
  @Test
  void drumsOfAnotherKitAreNamedAnew() {
    String kit = "00 99 28 40 00 99 26 50 60 89 28 00 00 89 26 00 00 99 24 40 60 89 24 00 ";
    MidiSong song = MidiSong.read(tracks(kit + END, "00 90 28 40 60 80 28 00 " + END));
    MidiSong struck = song.struckBy(Map.of(40, 38, 36, 35));
    assertThat(notes(struck, 10)).containsExactly("38 0 960 80", "35 960 960 64");
    assertThat(notes(struck, 1)).isEqualTo(notes(song, 1));
    assertThatThrownBy(() -> song.struckBy(Map.of(40, 128)))
        .isInstanceOf(Refusal.class)
        .hasMessage("A drum has a number from 0 to 127.");
  }

  /** A note in bar 1, and one in bar 3 of the other channel, which is heard from there. */
  @Test
  void aLineIsHeardFromWhereItSetsIn() {
    MidiSong song = MidiSong.read(tracks(NOTE + END, "86 00 91 40 40 60 81 40 00 " + END));
    Run heard = SongRun.heard(song, 1);
    assertThat(heard.parts()).hasSize(1);
    assertThat(heard.parts().get(0).allNotes()).extracting(RunNote::pitch).containsExactly(64);
    assertThat(heard.parts().get(0).allNotes()).extracting(RunNote::place).containsExactly(0L);
    assertThat(heard.until()).isEqualTo(3840);
    assertThatThrownBy(() -> SongRun.heard(song, 2)).hasMessageContaining("no such line");
  }

  /** 127 at the first note, half of it (in value) before the second. */
  @Test
  void aVolumeThatMovesIsAMoveAgainstTheLevel() {
    MidiSong song = MidiSong.read(track("00 B0 07 3C " + NOTE + "00 B0 07 1E " + NOTE + END));
    MidiSong.Line line = song.lines().get(0);
    assertThat(line.balance().level()).isEqualTo(-13.0);
    assertThat(line.moves())
        .extracting(ControllerMove::place, ControllerMove::value)
        .containsExactly(tuple(0L, 127), tuple(960L, 64));
  }

  /** Channel mode messages (MIDI 1.0): 120 and 123 end what sounds on their channel. */
  @ParameterizedTest
  @CsvSource({"78", "7B", "7C", "7F"})
  void allNotesOffEndsNotes(String mode) {
    MidiSong song =
        MidiSong.read(track("00 90 3C 40 60 B0 " + mode + " 00 60 91 3E 40 60 81 3E 00" + END));
    assertThat(notes(song, 1)).containsExactly("60 0 960 64");
    assertThat(notes(song, 2)).containsExactly("62 1920 960 64");
    assertThat(song.leftOut()).isEmpty();
  }

  @Test
  void anOnsetOnTheLastBarLineHasABar() {
    MidiSong song = MidiSong.read(track(NOTE + "82 20 99 31 40 06 89 31 00" + END));
    assertThat(notes(song, 10)).containsExactly("49 3840 60 64");
    assertThat(song.barCount()).isEqualTo(2);
    assertThat(MidiSong.read(track("00 90 3C 40 83 06 80 3C 00" + END)).barCount())
        .as("a loop that reaches over its line by a thirty-second ends on it")
        .isEqualTo(1);
  }

  @Test
  void aTempoPastTheBoundsIsSaid() {
    MidiSong song = MidiSong.read(track("00 FF 51 03 01 00 00 " + NOTE + END));
    assertThat(song.tempo()).isEqualTo(Tempo.of(400));
    assertThat(song.leftOut())
        .containsExactly("1 tempo slower than 20 or faster than 400: the nearest holds.");
  }

  /** What is sung, as songs for singing have it: "@T" is the title, a slash begins a line. */
  @Test
  void songsForSinging() {
    MidiSong song =
        MidiSong.read(
            track(
                "00 FF 01 06 40 54 4C 61 6D 70 00 FF 01 04 2F 47 6F 20 "
                    + NOTE
                    + "00 FF 01 02 69 6E 00 FF 01 05 2F 4F 75 74 20 "
                    + NOTE
                    + END));
    assertThat(song.title()).isEqualTo("Lamp");
    assertThat(song.words()).extracting(MidiSong.Marker::name).contains("/Go ", "in", "/Out ");
    Arranging arranging = Arranging.of(song, Choice.all(1).withWords(true), Show.named("Song"));
    assertThat(arranging.arrival().parts().get(0).shelf()).hasSize(1);
  }

  /** RP-29 (from memory): the same file in a RIFF of form RMID; and gzip, RFC 1952. */
  @Test
  void wrappedAndPackedFilesAreTheSame() throws IOException {
    byte[] plain = bytes(TYPE_0);
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (GZIPOutputStream out = new GZIPOutputStream(packed)) {
      out.write(plain);
    }
    assertThat(MidiSong.read(packed.toByteArray())).isEqualTo(MidiSong.read(plain));
    String data = "%02X000000".formatted(plain.length);
    byte[] riff =
        bytes("52494646 00000000 524D4944 4C495354 03000000 41424300 64617461" + data + TYPE_0);
    assertThat(MidiSong.read(riff)).isEqualTo(MidiSong.read(plain));
    assertThatThrownBy(() -> MidiSong.read(Arrays.copyOf(packed.toByteArray(), 20)))
        .hasMessageContaining("packed file is broken");
    byte[] bomb = new byte[64 << 20];
    ByteArrayOutputStream small = new ByteArrayOutputStream();
    try (GZIPOutputStream out = new GZIPOutputStream(small)) {
      out.write(bomb);
    }
    assertThatThrownBy(() -> MidiSong.read(small.toByteArray())).hasMessageContaining("4 MB");
  }

  /** Quarters at 90, written without a tempo into a file at 120: bar lines are found in it. */
  @Test
  void whatWasPlayedFreelyIsBroughtInByBarLinesThatAreFound() {
    StringBuilder events = new StringBuilder();
    for (int beat = 0; beat < 32; beat++) {
      // 128 of 192 ticks a second are a beat of 666.7 ms; the first of four is lower and louder
      String key = beat % 4 == 0 ? "24 7F" : "2A 40";
      events.append(
          "00 99 %s 40 89 %s 00 40 99 2A 01 00 89 2A 00 ".formatted(key, key.substring(0, 2)));
    }
    String plain = events.toString().replace("40 99 2A 01 00 89 2A 00", "40 B9 01 00");
    MidiSong song = MidiSong.found(track(plain + END));
    assertThat(song.tempo().bpm()).isCloseTo(90, within(0.5));
    assertThat(song.lines().get(0).notes())
        .filteredOn(note -> note.pitch() == 0x24)
        .allMatch(note -> Math.floorMod(note.place() + 60, 3840L) <= 120);
    assertThatThrownBy(() -> MidiSong.found(track(NOTE + END))).hasMessageContaining("Too little");
  }

  /** The JDK writes, and reads beside: all events of both are the same. */
  @Property(tries = 60)
  void theJdksReaderReadsTheSame(@ForAll long seed) throws Exception {
    Random random = new Random(seed);
    Sequence sequence = new Sequence(Sequence.PPQ, 1 + random.nextInt(2000));
    int tracks = 1 + random.nextInt(4);
    for (int i = 0; i < tracks; i++) {
      Track track = sequence.createTrack();
      for (int n = 0; n < random.nextInt(60); n++) {
        track.add(new MidiEvent(message(random), random.nextInt(20_000)));
      }
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    MidiSystem.write(sequence, tracks == 1 ? 0 : 1, out);
    MidiReader.Read own = MidiReader.read(out.toByteArray());
    Sequence jdks = MidiSystem.getSequence(new ByteArrayInputStream(out.toByteArray()));
    assertThat(own.ticksAQuarter()).isEqualTo(jdks.getResolution());
    for (int i = 0; i < tracks; i++) {
      List<String> read = new ArrayList<>();
      Track track = jdks.getTracks()[i];
      for (int n = 0; n < track.size(); n++) {
        read.add(track.get(n).getTick() + " " + words(track.get(n).getMessage()));
      }
      assertThat(own.tracks().get(i).stream().map(MidiSongTest::words).toList()).isEqualTo(read);
    }
  }

  private static MidiMessage message(Random random) throws InvalidMidiDataException {
    if (random.nextInt(8) == 0) {
      byte[] text = "lamp".repeat(random.nextInt(60)).getBytes(StandardCharsets.US_ASCII);
      return new MetaMessage(1 + random.nextInt(7), text, text.length);
    }
    int command = 0x80 + 0x10 * random.nextInt(7);
    return new ShortMessage(command, random.nextInt(16), random.nextInt(128), random.nextInt(128));
  }

  private static String words(MidiMessage message) {
    if (message instanceof MetaMessage meta) {
      return "meta " + meta.getType() + Arrays.toString(meta.getData());
    }
    ShortMessage s = (ShortMessage) message;
    boolean one = s.getCommand() == 0xc0 || s.getCommand() == 0xd0;
    return s.getStatus() + " " + s.getData1() + " " + (one ? 0 : s.getData2());
  }

  private static String words(MidiReader.Event event) {
    return event.tick()
        + " "
        + (event.isMeta()
            ? "meta " + event.data1() + Arrays.toString(event.meta())
            : event.status() + " " + event.data1() + " " + event.data2());
  }

  /** Bytes changed, left out and added anywhere: read, or refused in a sentence; never else. */
  @Property(tries = 3000)
  void brokenFilesAreReadOrRefused(@ForAll long seed) throws IOException {
    Random random = new Random(seed);
    byte[] whole = bytes(random.nextBoolean() ? TYPE_0 : TYPE_1);
    ByteArrayOutputStream broken = new ByteArrayOutputStream();
    for (byte b : whole) {
      switch (random.nextInt(40)) {
        case 0 -> broken.write(random.nextInt(256));
        case 1 -> broken.writeBytes(new byte[] {b, (byte) random.nextInt(256)});
        case 2 -> {}
        default -> broken.write(b);
      }
    }
    try {
      MidiSong song = MidiSong.read(broken.toByteArray());
      assertThat(song.lines()).allMatch(line -> !line.notes().isEmpty());
    } catch (Refusal refusal) {
      assertThat(refusal.getMessage()).hasSizeBetween(10, 240).endsWith(".");
    }
  }
}
