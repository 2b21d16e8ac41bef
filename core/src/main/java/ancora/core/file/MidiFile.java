package ancora.core.file;

import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.run.From;
import ancora.core.run.Run;
import ancora.core.run.RunNote;
import ancora.core.run.RunPart;
import ancora.core.show.PartId;
import ancora.core.show.PartOutput;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.sound.midi.InvalidMidiDataException;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiMessage;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;

/**
 * Runs as a Standard MIDI File (Standard MIDI Files 1.0) at {@value Ticks#PER_QUARTER} ticks to the
 * quarter note: a track with tempo, meter and the sections as markers, then one for each part with
 * its name, sound, volume and pan; or all in one track. Programs, volume and pan are those of
 * General MIDI.
 *
 * @param bytes the file
 * @param said what is otherwise in it than it sounded, in sentences; mostly nothing
 */
public record MidiFile(byte[] bytes, List<String> said) {

  private static final int TRACK_NAME = 0x03;
  private static final int MARKER = 0x06;
  private static final int END_OF_TRACK = 0x2f;
  private static final int SET_TEMPO = 0x51;
  private static final int TIME_SIGNATURE = 0x58;

  private static final int FULL = 127;
  private static final Controller LEVEL = Controller.change(Controller.VOLUME);

  /** MIDI clocks in a quarter note, which a time signature event counts in. */
  private static final int MIDI_CLOCKS = 24;

  private static final int THIRTY_SECONDS_A_QUARTER = 8;

  /** How events on one tick follow one another. */
  private enum Rank {
    HEAD,
    SOUND,
    OFF,
    MOVE,
    ON
  }

  /** How the tracks of a file are laid. */
  public enum Type {
    /** All in one. */
    ONE_TRACK,
    /** One for each part. */
    TRACKS
  }

  private record Event(long tick, Rank rank, MidiMessage message) {}

  private static final Comparator<Event> ORDER =
      Comparator.comparingLong(Event::tick).thenComparing(Event::rank);

  /** A run as a file. */
  public static MidiFile of(String title, Run run, Type type) {
    return of(title, List.of(run), type);
  }

  /** Runs that follow one another, each from a bar line on. */
  public static MidiFile of(String title, List<Run> runs, Type type) {
    try {
      return new Writing(title, runs).file(type);
    } catch (InvalidMidiDataException impossible) {
      throw new IllegalStateException(impossible);
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
  }

  /** A file that is being written. */
  private static final class Writing {
    private final List<Event> conductor = new ArrayList<>();
    private final Map<PartId, List<Event>> tracks = new LinkedHashMap<>();
    private final Channels channels;
    private final List<RunPart> parts;
    private long end;

    Writing(String title, List<Run> runs) throws InvalidMidiDataException {
      Map<PartId, RunPart> byId = new LinkedHashMap<>();
      runs.forEach(run -> run.parts().forEach(part -> byId.putIfAbsent(part.id(), part)));
      parts = List.copyOf(byId.values());
      channels = Channels.of(parts);
      add(conductor, 0, Rank.HEAD, text(TRACK_NAME, title));
      for (RunPart part : parts) {
        List<Event> track = new ArrayList<>();
        add(track, 0, Rank.HEAD, text(TRACK_NAME, part.name()));
        tracks.put(part.id(), track);
      }
      for (Run run : runs) {
        write(run);
      }
    }

    private void write(Run run) throws InvalidMidiDataException {
      long later = end - run.from();
      meter(run.meter(), end);
      tempos(run, later);
      for (From.OfSection section : run.sections()) {
        String words = (section.letter() + " " + section.name()).strip();
        add(conductor, section.tick() + later, Rank.HEAD, text(MARKER, words));
      }
      for (RunPart part : run.parts()) {
        write(part, later);
      }
      end = later + Ticks.ceil(run.until(), run.meter().barTicks());
    }

    private void write(RunPart part, long later) throws InvalidMidiDataException {
      List<Event> track = tracks.get(part.id());
      int channel = channels.of().get(part.id());
      if (!channels.sharing().containsKey(part.id())) {
        for (From.OfSound sound : part.sounds()) {
          sound(track, sound.tick() + later, channel, sound.sound());
        }
        for (From.OfBalance balance : part.balances()) {
          balance(track, balance.tick() + later, channel, balance, moved(part, balance.tick()));
        }
      }
      List<RunNote> notes = part.allNotes();
      Set<List<Long>> attacks = new HashSet<>();
      notes.stream()
          .filter(note -> note.length() > 0)
          .forEach(note -> attacks.add(List.of(note.place(), (long) note.pitch())));
      for (RunNote note : notes) {
        // one that another follows at once could not be told from it
        if (note.length() > 0 || !attacks.contains(List.of(note.place(), (long) note.pitch()))) {
          note(track, note.later(later), channel);
        }
      }
      for (ControllerMove move : part.allMoves()) {
        ControllerMove told =
            move.controller().equals(LEVEL)
                ? new ControllerMove(
                    LEVEL, move.place(), volume(standing(part, move.place()), move.value()))
                : move;
        add(track, told.place() + later, Rank.MOVE, message(told, channel));
      }
    }

    /** What a clip says of the volume at a tick, against how its part stands in the whole. */
    private static int moved(RunPart part, long tick) {
      return part.allMoves().stream()
          .filter(move -> move.controller().equals(LEVEL) && move.place() <= tick)
          .reduce((a, b) -> b)
          .map(ControllerMove::value)
          .orElse(FULL);
    }

    private static From.OfBalance standing(RunPart part, long tick) {
      return part.balances().stream()
          .filter(from -> from.tick() <= tick)
          .reduce((a, b) -> b)
          .orElse(part.balances().get(0));
    }

    private void meter(Meter meter, long tick) throws InvalidMidiDataException {
      int power = Integer.numberOfTrailingZeros(meter.unit());
      int clocks = (int) (MIDI_CLOCKS * meter.beatTicks() / Ticks.PER_QUARTER);
      add(
          conductor,
          tick,
          Rank.HEAD,
          meta(
              TIME_SIGNATURE, meter.beats(), power, Math.max(1, clocks), THIRTY_SECONDS_A_QUARTER));
    }

    /** Whole microseconds a quarter note: at 300 a minute that is within 0.001 of it. */
    private void tempos(Run run, long later) throws InvalidMidiDataException {
      tempo(run.from() + later, run.map().tempoAt(run.from()));
      for (TempoMap.Anchor anchor : run.map().anchors()) {
        if (anchor.tick() > run.from()) {
          tempo(anchor.tick() + later, anchor.tempo());
        }
      }
    }

    private void tempo(long tick, Tempo tempo) throws InvalidMidiDataException {
      int micros = (int) Ticks.round(tempo.microsPerTick() * Ticks.PER_QUARTER);
      add(
          conductor,
          tick,
          Rank.HEAD,
          meta(SET_TEMPO, micros >> 16 & 0xff, micros >> 8 & 0xff, micros & 0xff));
    }

    private static void sound(List<Event> track, long tick, int channel, Sound sound)
        throws InvalidMidiDataException {
      // General MIDI has one bank, which need not be selected: some readers take what comes before
      // the program for another track
      add(
          track,
          tick,
          Rank.SOUND,
          new ShortMessage(ShortMessage.PROGRAM_CHANGE, channel, sound.program(), 0));
    }

    /** One volume for both: a device answers to each with its square, so they are multiplied. */
    private static int volume(From.OfBalance standing, int moved) {
      return Math.round(PartOutput.volume(standing.gain()) * moved / (float) FULL);
    }

    private static void balance(
        List<Event> track, long tick, int channel, From.OfBalance from, int moved)
        throws InvalidMidiDataException {
      change(track, tick, channel, Controller.VOLUME, volume(from, moved));
      change(track, tick, channel, Controller.PAN, PartOutput.pan(from.balance().pan()));
    }

    private static void change(List<Event> track, long tick, int channel, int number, int value)
        throws InvalidMidiDataException {
      add(
          track,
          tick,
          Rank.SOUND,
          new ShortMessage(ShortMessage.CONTROL_CHANGE, channel, number, value));
    }

    /** A note that ended on the tick of its attack lasts one tick, so that it can be read. */
    private static void note(List<Event> track, RunNote note, int channel)
        throws InvalidMidiDataException {
      long off = note.place() + Math.max(1, note.length());
      if (note.pitch() == Note.PEDAL) {
        int down = ShortMessage.CONTROL_CHANGE;
        add(
            track,
            note.place(),
            Rank.ON,
            new ShortMessage(down, channel, Controller.SUSTAIN, note.velocity()));
        add(track, off, Rank.OFF, new ShortMessage(down, channel, Controller.SUSTAIN, 0));
        return;
      }
      add(
          track,
          note.place(),
          Rank.ON,
          new ShortMessage(ShortMessage.NOTE_ON, channel, note.pitch(), note.velocity()));
      add(track, off, Rank.OFF, new ShortMessage(ShortMessage.NOTE_OFF, channel, note.pitch(), 0));
    }

    MidiFile file(Type type) throws InvalidMidiDataException, IOException {
      Sequence sequence = new Sequence(Sequence.PPQ, (int) Ticks.PER_QUARTER);
      if (type == Type.ONE_TRACK) {
        List<Event> all = new ArrayList<>(conductor);
        tracks.values().forEach(track -> track.stream().filter(e -> !isName(e)).forEach(all::add));
        fill(sequence.createTrack(), all);
      } else {
        fill(sequence.createTrack(), conductor);
        for (List<Event> track : tracks.values()) {
          fill(sequence.createTrack(), track);
        }
      }
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      MidiSystem.write(sequence, type == Type.ONE_TRACK ? 0 : 1, out);
      List<String> said = new ArrayList<>(channels.said(parts));
      parts.stream()
          .filter(part -> part.balances().stream().anyMatch(b -> b.balance().level() > 0))
          .map(part -> part.name() + " is louder than a file can say: it is as loud as at 0 dB.")
          .forEach(said::add);
      return new MidiFile(out.toByteArray(), said);
    }

    private static boolean isName(Event event) {
      return event.message() instanceof MetaMessage meta && meta.getType() == TRACK_NAME;
    }

    private void fill(Track track, List<Event> events) throws InvalidMidiDataException {
      events.sort(ORDER);
      long last = Math.max(end, events.isEmpty() ? 0 : events.get(events.size() - 1).tick());
      track.add(new MidiEvent(new MetaMessage(END_OF_TRACK, new byte[0], 0), last));
      for (Event event : events) {
        track.add(new MidiEvent(event.message(), event.tick()));
      }
    }
  }

  /** MIDI 1.0, channel voice messages; of the 14 bits of a bend the lower seven come first. */
  private static ShortMessage message(ControllerMove move, int channel)
      throws InvalidMidiDataException {
    int value = move.value();
    return switch (move.controller().kind()) {
      case CONTROL_CHANGE ->
          new ShortMessage(ShortMessage.CONTROL_CHANGE, channel, move.controller().number(), value);
      case PITCH_BEND ->
          new ShortMessage(ShortMessage.PITCH_BEND, channel, value & 0x7f, value >> 7);
      case CHANNEL_PRESSURE -> new ShortMessage(ShortMessage.CHANNEL_PRESSURE, channel, value, 0);
    };
  }

  private static void add(List<Event> track, long tick, Rank rank, MidiMessage message) {
    track.add(new Event(tick, rank, message));
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
