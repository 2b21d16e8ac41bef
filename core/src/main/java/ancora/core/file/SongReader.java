package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.analysis.FoundTempo;
import ancora.core.run.RunNote;
import ancora.core.sound.Sound;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.LongToDoubleFunction;
import java.util.function.LongUnaryOperator;

/** A Standard MIDI File that is being read as a song: all its tracks in the order of time. */
final class SongReader {

  private static final int TEXT = 0x01;
  private static final int TRACK_NAME = 0x03;
  private static final int INSTRUMENT_NAME = 0x04;
  private static final int LYRIC = 0x05;
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

  /** Channel mode messages (MIDI 1.0): from here on they end notes, but local control, 122. */
  private static final int ALL_SOUND_OFF = 120;

  private static final int RESET_CONTROLLERS = 121;
  private static final int ALL_NOTES_OFF = 123;

  /** The volume of a channel that says none, where others do (General MIDI 2, from memory). */
  private static final int USUAL_VOLUME = 100;

  private static final int FULL_VOLUME = 127;

  private static final double MICROS_A_MINUTE = 60e6;

  /** What is moved on a channel is of each line of it: of all together no more is held. */
  private static final int MOST_LINES = 256;

  private static final long MOST_MOVES = 1_000_000;

  /** Until a file says otherwise (Standard MIDI Files 1.0). */
  private static final Tempo UNSAID = Tempo.of(120);

  /** An event of a track, at its tick of 960 to the quarter note. */
  private record Placed(long tick, int track, MidiReader.Event event) {
    /** Sounds and controllers of a tick hold for the notes on it, whichever track says them. */
    boolean isNote() {
      return !event.isMeta() && (event.command() == NOTE_ON || event.command() == NOTE_OFF);
    }
  }

  /** Of what a line is: what sounds alike on one channel of one track. */
  private record Source(int track, int channel, Sound sound) {}

  private record Key(int track, int channel, int pitch) {}

  private record Sounding(Source source, RunNote note) {}

  private record TempoSaid(long tick, double bpm) {}

  private final MidiReader.Read read;
  private final LongUnaryOperator axis;
  private final Map<Integer, String> names = new HashMap<>();
  private final Map<Integer, String> instruments = new HashMap<>();
  private final List<TempoSaid> tempos = new ArrayList<>();
  private final List<SongBars.Change> meters = new ArrayList<>();
  private final List<MidiSong.Marker> markers = new ArrayList<>();
  private final List<MidiSong.Marker> words = new ArrayList<>();
  private final Map<Integer, ChannelState> channels = new HashMap<>();
  private final Map<Key, Sounding> sounding = new LinkedHashMap<>();
  private final Map<Source, List<RunNote>> lines = new LinkedHashMap<>();
  private long first = Long.MAX_VALUE;
  private long until;
  private int keyPressures;
  private int others;

  private SongReader(MidiReader.Read read, LongUnaryOperator axis) {
    this.read = read;
    this.axis = axis;
  }

  /** Reads a song as it is written. */
  static MidiSong read(MidiReader.Read read) {
    SongReader reader = new SongReader(read, own -> asWritten(read, own));
    reader.take();
    return reader.song(SongBars.along(reader.meters), reader.tempos);
  }

  /**
   * Reads what was played freely, by bar lines that were found in it: all goes along with them.
   *
   * @param micros of a tick of the file, from its beginning
   */
  static MidiSong read(MidiReader.Read read, FoundTempo found, LongToDoubleFunction micros) {
    Meter meter = Meter.of(found.beatsInBar(), 4);
    List<TempoMap.Anchor> anchors = new ArrayList<>();
    for (int bar = 0; bar + 1 < found.lines().size(); bar++) {
      double from = found.lines().get(bar);
      double beat = (found.lines().get(bar + 1) - from) / found.beatsInBar();
      anchors.add(
          new TempoMap.Anchor(bar * meter.barTicks(), from, Tempo.nearest(MICROS_A_MINUTE / beat)));
    }
    TempoMap map = new TempoMap(anchors);
    SongReader reader =
        new SongReader(read, own -> Math.max(0, map.tickAt(micros.applyAsDouble(own))));
    reader.take();
    return reader.song(SongBars.of(meter), List.of(new TempoSaid(0, found.bpm())));
  }

  /** Ticks of 960 a quarter note; frames are counted as if at 120. */
  private static long asWritten(MidiReader.Read read, long own) {
    double quarters =
        read.ticksAQuarter() > 0
            ? (double) own / read.ticksAQuarter()
            : own / read.ticksASecond() * 2;
    return Ticks.round(quarters * Ticks.PER_QUARTER);
  }

  private void take() {
    List<Placed> all = new ArrayList<>();
    for (int track = 0; track < read.tracks().size(); track++) {
      for (MidiReader.Event event : read.tracks().get(track)) {
        all.add(new Placed(axis.applyAsLong(event.tick()), track + 1, event));
      }
    }
    all.sort(Comparator.comparingLong(Placed::tick).thenComparing(Placed::isNote));
    for (Placed placed : all) {
      if (placed.event().isMeta()) {
        meta(placed);
      } else {
        take(placed);
      }
    }
    long last = all.isEmpty() ? 0 : all.get(all.size() - 1).tick();
    List.copyOf(sounding.keySet()).forEach(key -> end(key, last));
    channels.values().forEach(channel -> channel.end(last));
  }

  private void meta(Placed placed) {
    byte[] data = placed.event().meta();
    String text = MidiReader.text(data);
    switch (placed.event().data1()) {
      case TRACK_NAME -> names.putIfAbsent(placed.track(), text);
      case INSTRUMENT_NAME -> instruments.putIfAbsent(placed.track(), text);
      case SET_TEMPO -> {
        int micros =
            data.length == 3 ? (data[0] & 0xff) << 16 | (data[1] & 0xff) << 8 | data[2] & 0xff : 0;
        // where frames are counted there is no tempo
        if (micros > 0 && read.ticksAQuarter() > 0) {
          tempos.add(new TempoSaid(placed.tick(), MICROS_A_MINUTE / micros));
        }
      }
      case TIME_SIGNATURE -> {
        if (data.length >= 2 && data[0] >= 1 && data[0] <= 32 && data[1] >= 0 && data[1] <= 5) {
          meters.add(new SongBars.Change(placed.tick(), Meter.of(data[0], 1 << data[1])));
        }
      }
      case MARKER -> {
        if (!text.isEmpty()) {
          markers.add(new MidiSong.Marker(placed.tick(), text));
        }
      }
      case TEXT, LYRIC -> {
        String written = MidiReader.written(data);
        if (!written.isEmpty()) {
          words.add(new MidiSong.Marker(placed.tick(), written));
        }
      }
      default -> {}
    }
  }

  private void take(Placed placed) {
    MidiReader.Event event = placed.event();
    long tick = placed.tick();
    ChannelState channel = channels.computeIfAbsent(event.channel(), ChannelState::new);
    switch (event.command()) {
      case NOTE_ON -> note(placed, channel, event.data2());
      case NOTE_OFF -> note(placed, channel, 0);
      case PROGRAM_CHANGE -> channel.program(event.data1());
      case CHANNEL_PRESSURE -> channel.pressure(tick, event.data1());
      case BEND -> channel.bend(tick, event.data2() << 7 | event.data1());
      case KEY_PRESSURE -> keyPressures++;
      case CONTROL_CHANGE -> {
        int number = event.data1();
        if (number == RESET_CONTROLLERS) {
          channel.reset(tick);
        } else if (number == ALL_SOUND_OFF || number >= ALL_NOTES_OFF) {
          List.copyOf(sounding.keySet()).stream()
              .filter(key -> key.channel() == event.channel())
              .forEach(key -> end(key, tick));
        } else if (!channel.change(tick, number, event.data2())) {
          others++;
        }
      }
      default -> throw new IllegalStateException();
    }
  }

  /** A pitch that sounds is attacked anew: one voice for each, as everywhere here. */
  private void note(Placed placed, ChannelState channel, int velocity) {
    MidiReader.Event event = placed.event();
    Key key = new Key(placed.track(), event.channel(), event.data1());
    end(key, placed.tick());
    if (velocity > 0) {
      RunNote note = new RunNote(placed.tick(), event.data1(), velocity, 0);
      Source source = new Source(placed.track(), event.channel(), channel.sound());
      sounding.put(key, new Sounding(source, note));
      first = Math.min(first, placed.tick());
      until = Math.max(until, placed.tick());
    }
  }

  private void end(Key key, long tick) {
    Sounding ends = sounding.remove(key);
    if (ends != null) {
      RunNote note = ends.note();
      RunNote whole = new RunNote(note.place(), note.pitch(), note.velocity(), tick - note.place());
      lines.computeIfAbsent(ends.source(), s -> new ArrayList<>()).add(whole);
      until = Math.max(until, tick);
    }
  }

  private MidiSong song(SongBars written, List<TempoSaid> said) {
    long rest = lines.isEmpty() ? 0 : written.upbeatRest();
    SongBars bars = rest > 0 ? written.afterUpbeat(rest) : written;
    long from = lines.isEmpty() ? 0 : first + rest;
    List<MidiSong.TempoFrom> along = tempos(said, rest);
    String title = names.getOrDefault(1, "");
    MidiSong song =
        new MidiSong(
            title.isEmpty() ? MidiSong.titleOf(words) : title,
            along,
            bars,
            lines(rest),
            later(markers, rest),
            later(words, rest),
            from,
            until + rest,
            leftOut(said));
    Refusal.unless(
        song.barCount() <= MidiSong.MOST_BARS,
        "That MIDI file is longer than %s bars: send a part of it.",
        MidiSong.MOST_BARS);
    return song;
  }

  /** The last holds where several stand on a tick. */
  private static List<MidiSong.TempoFrom> tempos(List<TempoSaid> said, long rest) {
    List<MidiSong.TempoFrom> along = new ArrayList<>(List.of(new MidiSong.TempoFrom(0, UNSAID)));
    for (TempoSaid one : said) {
      long tick = one.tick() == 0 ? 0 : one.tick() + rest;
      MidiSong.TempoFrom next = new MidiSong.TempoFrom(tick, Tempo.nearest(one.bpm()));
      MidiSong.TempoFrom last = along.get(along.size() - 1);
      if (last.tick() == tick) {
        along.set(along.size() - 1, next);
      } else if (!last.tempo().equals(next.tempo())) {
        along.add(next);
      }
    }
    return along;
  }

  private static List<MidiSong.Marker> later(List<MidiSong.Marker> all, long ticks) {
    return all.stream().map(m -> new MidiSong.Marker(m.tick() + ticks, m.name())).toList();
  }

  private List<MidiSong.Line> lines(long rest) {
    boolean anyVolume = channels.values().stream().anyMatch(ChannelState::saysVolume);
    int unsaid = anyVolume ? USUAL_VOLUME : FULL_VOLUME;
    List<Source> sources = new ArrayList<>(lines.keySet());
    sources.sort(Comparator.comparingInt(Source::track).thenComparingInt(Source::channel));
    Refusal.unless(
        sources.size() <= MOST_LINES,
        "That MIDI file has more than %s lines that sound otherwise: send a part of it.",
        MOST_LINES);
    Map<Integer, Integer> ofTrack = new HashMap<>();
    sources.forEach(source -> ofTrack.merge(source.track(), 1, Integer::sum));
    List<MidiSong.Line> all = new ArrayList<>();
    long moves = 0;
    for (Source source : sources) {
      MidiSong.Line line = line(source, ofTrack.get(source.track()) == 1, unsaid).later(rest);
      moves += line.moves().size();
      Refusal.unless(
          moves <= MOST_MOVES,
          "That MIDI file moves its controllers too often: send a part of it.");
      all.add(line);
    }
    return all;
  }

  private MidiSong.Line line(Source source, boolean alone, int unsaid) {
    ChannelState channel = channels.get(source.channel());
    List<RunNote> notes = new ArrayList<>(lines.get(source));
    long from = notes.stream().mapToLong(RunNote::place).min().orElseThrow();
    long over = notes.stream().mapToLong(RunNote::end).max().orElseThrow();
    notes.addAll(channel.pedals(from, over));
    notes.sort(Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch));
    String name = names.getOrDefault(source.track(), "");
    String called = name.isEmpty() ? instruments.getOrDefault(source.track(), "") : name;
    return new MidiSong.Line(
        source.track(),
        source.channel() + 1,
        // a track of several sounds has each of them by its own name
        alone ? called : "",
        source.sound(),
        channel.balance(from, over, unsaid),
        notes,
        channel.moves(from, over, unsaid));
  }

  private List<String> leftOut(List<TempoSaid> tempi) {
    List<String> said = new ArrayList<>();
    long past =
        tempi.stream()
            .filter(t -> Ticks.round(t.bpm() * 1000) != Tempo.nearest(t.bpm()).milliBpm())
            .count();
    if (past > 0) {
      said.add(
          many(past, "tempo", "tempi")
              + " slower than %d or faster than %d: the nearest holds."
                  .formatted(Tempo.SLOWEST / 1000, Tempo.FASTEST / 1000));
    }
    if (read.ticksAQuarter() == 0) {
      said.add("It counts frames and has no tempo: it is read as if at 120.");
    }
    long banks = channels.values().stream().filter(ChannelState::asksForAnotherBank).count();
    if (banks > 0) {
      said.add(
          many(banks, "channel", "channels")
              + " with sounds of another bank: General MIDI's stand for them.");
    }
    if (keyPressures > 0) {
      said.add(many(keyPressures, "pressure", "pressures") + " on single keys.");
    }
    if (read.exclusive() > 0) {
      said.add(many(read.exclusive(), "message", "messages") + " for one maker's devices alone.");
    }
    if (others > 0) {
      said.add(many(others, "control change", "control changes") + " that no clip keeps.");
    }
    return said;
  }

  private static String many(long count, String one, String many) {
    return count + " " + (count == 1 ? one : many);
  }
}
