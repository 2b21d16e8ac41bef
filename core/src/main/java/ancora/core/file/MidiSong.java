package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.note.Controller;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.run.RunNote;
import ancora.core.show.Balance;
import ancora.core.show.PartOutput;
import ancora.core.sound.GeneralMidi;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a Standard MIDI File holds, in ticks of {@value Ticks#PER_QUARTER} to the quarter note.
 *
 * @param title what its first track is called; empty if nothing
 * @param tempo the first that it says; 120 if none
 * @param meter the first that it says; 4/4 if none
 * @param lines what each channel of each track plays, in order; those that play nothing are left
 *     out
 * @param markers by rising tick
 * @param until the first tick at which all is over
 * @param leftOut what is in the file and not here, in sentences
 */
public record MidiSong(
    String title,
    Tempo tempo,
    Meter meter,
    List<Line> lines,
    List<Marker> markers,
    long until,
    List<String> leftOut) {

  /** A song is no longer, in bars. */
  public static final int MOST_BARS = 16_384;

  private static final long OVER = Ticks.PER_WHOLE / 32;

  private static final int TRACK_NAME = 0x03;
  private static final int MARKER = 0x06;
  private static final int SET_TEMPO = 0x51;
  private static final int TIME_SIGNATURE = 0x58;

  private static final int NOTE_OFF = 0x80;
  private static final int NOTE_ON = 0x90;
  private static final int KEY_PRESSURE = 0xa0;
  private static final int CONTROL_CHANGE = 0xb0;
  private static final int PROGRAM_CHANGE = 0xc0;
  private static final int CHANNEL_PRESSURE = 0xd0;
  private static final int BEND = 0xe0;

  private static final int VOLUME = 7;
  private static final int PAN = 10;
  private static final int DOWN = 64;

  public MidiSong {
    lines = List.copyOf(lines);
    markers = List.copyOf(markers);
    leftOut = List.copyOf(leftOut);
  }

  /**
   * What one channel of one track plays.
   *
   * @param track from 1
   * @param channel from 1
   * @param name the track's; empty if it has none
   * @param sound the first that it asks for; on channel 10 a kit
   * @param balance the first volume and pan that it asks for
   * @param notes by rising place
   * @param moves of controllers, by rising place
   */
  public record Line(
      int track,
      int channel,
      String name,
      Sound sound,
      Balance balance,
      List<RunNote> notes,
      List<ControllerMove> moves) {
    public Line {
      notes = List.copyOf(notes);
      moves = List.copyOf(moves);
    }
  }

  /** A marker, as notation programs write them at the beginnings of sections. */
  public record Marker(long tick, String name) {}

  /** Reads a file; refuses, in a sentence, what is none. */
  public static MidiSong read(byte[] bytes) {
    return new SongReader(MidiReader.read(bytes)).song();
  }

  /** How many notes are in it; the pedal is none. */
  public int notes() {
    return lines.stream()
        .mapToInt(line -> (int) line.notes().stream().filter(n -> n.pitch() < Note.PEDAL).count())
        .sum();
  }

  /** How many bars it has; the last may be begun only. */
  public int bars() {
    return (int) (end(meter.barTicks()) / meter.barTicks());
  }

  /**
   * The bar line on which it ends: that before its end, where it reaches over it by no more than a
   * thirty-second, as some programs write.
   */
  public long end(long bar) {
    return Math.max(bar, Ticks.ceil(until - OVER, bar));
  }

  /** A file that is being read. */
  private static final class SongReader {
    private final MidiReader.Read read;
    private final List<MidiReader.Event> tempos = new ArrayList<>();
    private final List<MidiReader.Event> meters = new ArrayList<>();
    private final List<Marker> markers = new ArrayList<>();
    private final List<Line> lines = new ArrayList<>();
    private int keyPressures;
    private int programs;
    private int others;
    private long until;

    SongReader(MidiReader.Read read) {
      this.read = read;
    }

    MidiSong song() {
      String title = "";
      for (int i = 0; i < read.tracks().size(); i++) {
        String name = track(i + 1, read.tracks().get(i));
        title = i == 0 ? name : title;
      }
      tempos.sort(Comparator.comparingLong(MidiReader.Event::tick));
      meters.sort(Comparator.comparingLong(MidiReader.Event::tick));
      markers.sort(Comparator.comparingLong(Marker::tick));
      Meter meter = meters.isEmpty() ? Meter.COMMON : meter(meters.get(0));
      Refusal.unless(
          until <= MOST_BARS * meter.barTicks(),
          "That MIDI file is longer than %s bars: send a part of it.",
          MOST_BARS);
      Tempo tempo = tempos.isEmpty() ? Tempo.of(120) : tempo(tempos.get(0));
      return new MidiSong(title, tempo, meter, lines, markers, until, leftOut(tempo, meter));
    }

    /** Ticks of 960 a quarter note; frames are counted as if at 120. */
    private long tick(long own) {
      double quarters =
          read.ticksAQuarter() > 0
              ? (double) own / read.ticksAQuarter()
              : own / read.ticksASecond() * 2;
      return Ticks.round(quarters * Ticks.PER_QUARTER);
    }

    private String track(int number, List<MidiReader.Event> events) {
      String name = "";
      Map<Integer, Channel> channels = new LinkedHashMap<>();
      for (MidiReader.Event event : events) {
        long tick = tick(event.tick());
        until = Math.max(until, tick);
        if (event.isMeta()) {
          name =
              event.data1() == TRACK_NAME && name.isEmpty() ? MidiReader.text(event.meta()) : name;
          meta(event, tick);
        } else {
          channels.computeIfAbsent(event.channel(), c -> new Channel(c, this)).take(event, tick);
        }
      }
      for (Channel channel : channels.values()) {
        channel.end(until);
        if (!channel.notes.isEmpty()) {
          lines.add(channel.line(number, name));
        }
      }
      return name;
    }

    private void meta(MidiReader.Event event, long tick) {
      switch (event.data1()) {
        case SET_TEMPO -> {
          // where frames are counted there is no tempo
          if (event.meta().length == 3 && read.ticksAQuarter() > 0 && micros(event) > 0) {
            tempos.add(event);
          }
        }
        case TIME_SIGNATURE -> {
          if (event.meta().length >= 2 && isMeter(event)) {
            meters.add(event);
          }
        }
        case MARKER -> {
          String name = MidiReader.text(event.meta());
          if (!name.isEmpty()) {
            markers.add(new Marker(tick, name));
          }
        }
        default -> {}
      }
    }

    private static boolean isMeter(MidiReader.Event event) {
      int beats = event.meta()[0];
      int power = event.meta()[1];
      return beats >= 1 && beats <= 32 && power >= 0 && power <= 5;
    }

    private static Meter meter(MidiReader.Event event) {
      return Meter.of(event.meta()[0], 1 << event.meta()[1]);
    }

    private static int micros(MidiReader.Event event) {
      byte[] data = event.meta();
      return (data[0] & 0xff) << 16 | (data[1] & 0xff) << 8 | data[2] & 0xff;
    }

    private static Tempo tempo(MidiReader.Event event) {
      return Tempo.nearest(60e6 / micros(event));
    }

    private List<String> leftOut(Tempo tempo, Meter meter) {
      List<String> said = new ArrayList<>();
      long otherTempi = tempos.stream().filter(e -> !tempo(e).equals(tempo)).count();
      if (otherTempi > 0) {
        said.add(many(otherTempi, "change") + " of tempo: the first tempo holds.");
      }
      long otherMeters = meters.stream().filter(e -> !meter(e).equals(meter)).count();
      if (otherMeters > 0) {
        said.add(many(otherMeters, "change") + " of meter: the first meter holds.");
      }
      if (read.ticksAQuarter() == 0) {
        said.add("It counts frames and has no tempo: it is read as if at 120.");
      }
      if (programs > 0) {
        said.add(many(programs, "change") + " of sound: the first of each line holds.");
      }
      if (keyPressures > 0) {
        said.add(many(keyPressures, "pressure") + " on single keys.");
      }
      if (read.exclusive() > 0) {
        said.add(many(read.exclusive(), "message") + " for one maker's devices alone.");
      }
      if (others > 0) {
        said.add(many(others, "control change") + " that no clip keeps.");
      }
      return said;
    }

    private static String many(long count, String what) {
      return count + " " + what + (count == 1 ? "" : "s");
    }
  }

  /** One channel of a track that is being read. */
  private static final class Channel {
    private final int number;
    private final SongReader reading;
    private final Map<Integer, RunNote> sounding = new HashMap<>();
    private final List<RunNote> notes = new ArrayList<>();
    private final List<ControllerMove> moves = new ArrayList<>();
    private Optional<Integer> program = Optional.empty();
    private Optional<Integer> volume = Optional.empty();
    private Optional<Integer> pan = Optional.empty();

    Channel(int number, SongReader reading) {
      this.number = number;
      this.reading = reading;
    }

    void take(MidiReader.Event event, long tick) {
      switch (event.command()) {
        case NOTE_ON -> note(event.data1(), event.data2(), tick);
        case NOTE_OFF -> note(event.data1(), 0, tick);
        case CONTROL_CHANGE -> change(event.data1(), event.data2(), tick);
        case PROGRAM_CHANGE -> {
          if (program.filter(p -> p != event.data1()).isPresent()) {
            reading.programs++;
          }
          program = program.or(() -> Optional.of(event.data1()));
        }
        case CHANNEL_PRESSURE ->
            moves.add(new ControllerMove(Controller.PRESSURE, tick, event.data1()));
        case BEND ->
            moves.add(
                new ControllerMove(Controller.BEND, tick, event.data2() << 7 | event.data1()));
        case KEY_PRESSURE -> reading.keyPressures++;
        default -> throw new IllegalStateException();
      }
    }

    /** A pitch that sounds is attacked anew: one voice for each, as everywhere here. */
    private void note(int pitch, int velocity, long tick) {
      RunNote before = sounding.remove(pitch);
      if (before != null) {
        notes.add(new RunNote(before.place(), pitch, before.velocity(), tick - before.place()));
      }
      if (velocity > 0) {
        sounding.put(pitch, new RunNote(tick, pitch, velocity, 0));
      }
    }

    private void change(int controller, int value, long tick) {
      if (controller == Controller.SUSTAIN) {
        boolean down = value >= DOWN;
        if (down != sounding.containsKey(Note.PEDAL)) {
          note(Note.PEDAL, down ? value : 0, tick);
        }
      } else if (controller == VOLUME && volume.isEmpty()) {
        volume = Optional.of(value);
      } else if (controller == PAN && pan.isEmpty()) {
        pan = Optional.of(value);
      } else if (Controller.isOne(controller)) {
        moves.add(new ControllerMove(Controller.change(controller), tick, value));
      } else if (controller != 0 && controller != 32) {
        reading.others++;
      }
    }

    /** Notes without an end last to the end of the track. */
    void end(long tick) {
      List.copyOf(sounding.keySet()).forEach(pitch -> note(pitch, 0, tick));
      notes.sort(Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch));
    }

    Line line(int track, String name) {
      boolean drums = number == Channels.DRUMS;
      int asked = program.orElse(0);
      Sound sound =
          !drums
              ? Sound.of(asked)
              : GeneralMidi.kit(asked).isPresent() ? Sound.kit(asked) : Sound.STANDARD_KIT;
      Balance balance =
          Balance.DEFAULT
              .withLevel(volume.map(PartOutput::levelOf).orElse(0.0))
              .withPan(pan.map(PartOutput::panOf).orElse(0));
      return new Line(track, number + 1, name, sound, balance, notes, moves);
    }
  }
}
