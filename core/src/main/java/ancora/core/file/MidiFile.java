package ancora.core.file;

import ancora.core.run.Roll;
import ancora.core.run.Sounded;
import ancora.core.show.Part;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;

/**
 * A Standard MIDI File of type 1 (Standard MIDI Files 1.0) of what sounded: a track with tempo and
 * meter, then one for each part, at {@value Ticks#PER_QUARTER} ticks to the quarter note.
 */
public final class MidiFile {

  private static final int TRACK_NAME = 0x03;
  private static final int SET_TEMPO = 0x51;
  private static final int TIME_SIGNATURE = 0x58;
  private static final int DRUM_CHANNEL = 9;
  private static final int CHANNELS = 16;

  /** MIDI clocks in a quarter note, which a time signature event counts in. */
  private static final int MIDI_CLOCKS = 24;

  private MidiFile() {}

  /**
   * The channel that each part has in the file: drums on channel 10 as General MIDI has it, the
   * others on those that are free, in order; from the 16th on they share.
   *
   * @return channels from 0
   */
  public static Map<PartId, Integer> channels(Show show) {
    Map<PartId, Integer> channels = new HashMap<>();
    int next = 0;
    for (Part part : show.parts()) {
      if (part.sound().drums()) {
        channels.put(part.id(), DRUM_CHANNEL);
      } else {
        next = next == DRUM_CHANNEL ? next + 1 : next;
        channels.put(part.id(), next % CHANNELS);
        next++;
      }
    }
    return channels;
  }

  /**
   * Writes a file. Rolls follow one another, each from a bar line on; where something sounded
   * before tick 0, its roll begins whole bars before that. Clicks are left out.
   *
   * @param show gives names, sounds and meter
   * @param rolls what sounded
   */
  public static void write(Show show, List<Roll> rolls, OutputStream out) throws IOException {
    try {
      Sequence sequence = new Sequence(Sequence.PPQ, (int) Ticks.PER_QUARTER);
      Track conductor = sequence.createTrack();
      writeHead(conductor, show);
      Map<PartId, Integer> channels = channels(show);
      Map<PartId, Track> tracks = new HashMap<>();
      for (Part part : show.parts()) {
        Track track = sequence.createTrack();
        tracks.put(part.id(), track);
        int channel = channels.get(part.id());
        add(track, 0, text(TRACK_NAME, part.name()));
        add(
            track,
            0,
            new ShortMessage(ShortMessage.PROGRAM_CHANGE, channel, part.sound().program(), 0));
      }
      long begin = 0;
      for (Roll roll : rolls) {
        begin = writeRoll(roll, begin, show, conductor, tracks, channels);
      }
      MidiSystem.write(sequence, 1, out);
    } catch (InvalidMidiDataException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /** Writes a roll from a tick on, and gives the bar line after its end. */
  private static long writeRoll(
      Roll roll,
      long begin,
      Show show,
      Track conductor,
      Map<PartId, Track> tracks,
      Map<PartId, Integer> channels)
      throws InvalidMidiDataException {
    long bar = show.meter().barTicks();
    List<Sounded> notes =
        roll.sounded().stream().filter(s -> tracks.containsKey(s.part())).toList();
    long earliest = notes.stream().mapToLong(Sounded::tick).min().orElse(0);
    long shift = begin - Ticks.floor(Math.min(0, earliest), bar);
    writeTempos(conductor, roll.map(), begin, shift);
    long last = begin;
    for (Sounded s : notes) {
      add(tracks.get(s.part()), s.tick() + shift, message(s, channels.get(s.part())));
      last = Math.max(last, s.tick() + shift);
    }
    return Ticks.ceil(last + 1, bar);
  }

  /** MIDI 1.0, channel voice messages; of the 14 bits of a bend the lower seven come first. */
  private static ShortMessage message(Sounded s, int channel) throws InvalidMidiDataException {
    return switch (s.kind()) {
      case ON -> new ShortMessage(ShortMessage.NOTE_ON, channel, s.pitch(), s.velocity());
      case OFF -> new ShortMessage(ShortMessage.NOTE_OFF, channel, s.pitch(), s.velocity());
      case CONTROL_CHANGE ->
          new ShortMessage(ShortMessage.CONTROL_CHANGE, channel, s.pitch(), s.velocity());
      case PITCH_BEND ->
          new ShortMessage(
              ShortMessage.PITCH_BEND, channel, s.velocity() & 0x7f, s.velocity() >> 7);
      case CHANNEL_PRESSURE ->
          new ShortMessage(ShortMessage.CHANNEL_PRESSURE, channel, s.velocity(), 0);
    };
  }

  private static void writeHead(Track track, Show show) throws InvalidMidiDataException {
    add(track, 0, text(TRACK_NAME, show.title()));
    Meter meter = show.meter();
    int power = Integer.numberOfTrailingZeros(meter.unit());
    int clocks = (int) (MIDI_CLOCKS * meter.beatTicks() / Ticks.PER_QUARTER);
    add(track, 0, meta(TIME_SIGNATURE, meter.beats(), power, Math.max(1, clocks), 8));
  }

  private static void writeTempos(Track track, TempoMap map, long begin, long shift)
      throws InvalidMidiDataException {
    for (TempoMap.Anchor anchor : map.anchors()) {
      long perQuarter = Ticks.round(anchor.tempo().microsPerTick() * Ticks.PER_QUARTER);
      add(
          track,
          Math.max(begin, anchor.tick() + shift),
          meta(
              SET_TEMPO,
              (int) (perQuarter >> 16 & 0xff),
              (int) (perQuarter >> 8 & 0xff),
              (int) (perQuarter & 0xff)));
    }
  }

  private static void add(Track track, long tick, MidiMessage message) {
    track.add(new MidiEvent(message, tick));
  }

  private static MetaMessage text(int type, String text) throws InvalidMidiDataException {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    return new MetaMessage(type, bytes, bytes.length);
  }

  private static MetaMessage meta(int type, int... values) throws InvalidMidiDataException {
    byte[] bytes = new byte[values.length];
    for (int i = 0; i < values.length; i++) {
      bytes[i] = (byte) values[i];
    }
    return new MetaMessage(type, bytes, bytes.length);
  }
}
