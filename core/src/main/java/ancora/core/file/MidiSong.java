package ancora.core.file;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.analysis.FoundTempo;
import ancora.core.analysis.TempoFinder;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import ancora.core.run.RunNote;
import ancora.core.show.Balance;
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
import java.util.OptionalInt;
import java.util.TreeSet;

/**
 * What a Standard MIDI File holds, in ticks of {@value Ticks#PER_QUARTER} to the quarter note.
 * Where it begins with an upbeat, a rest before it makes that a whole bar.
 *
 * @param title what its first track is called; empty if nothing
 * @param tempos what tempo holds from where, by rising tick; the first at 0
 * @param bars its bar lines
 * @param lines what sounds alike on each channel of each track, in order
 * @param markers by rising tick
 * @param words that are sung, or written, by rising tick; a slash begins a line
 * @param first the tick of its first note
 * @param until the first tick at which all is over
 * @param leftOut what is in the file and not here, in sentences
 */
public record MidiSong(
    String title,
    List<TempoFrom> tempos,
    SongBars bars,
    List<Line> lines,
    List<Marker> markers,
    List<Marker> words,
    long first,
    long until,
    List<String> leftOut) {

  /** A song is no longer, in bars. */
  public static final int MOST_BARS = 16_384;

  /** Of a song whose time changes often, no more times are told apart. */
  private static final int MOST_TIMES = 12;

  private static final long OVER = Ticks.PER_WHOLE / 32;

  public MidiSong {
    tempos = List.copyOf(tempos);
    lines = List.copyOf(lines);
    markers = List.copyOf(markers);
    words = List.copyOf(words);
    leftOut = List.copyOf(leftOut);
  }

  /** From here on a tempo holds. */
  public record TempoFrom(long tick, Tempo tempo) {}

  /**
   * A tempo and a meter that hold together for a while, or several times.
   *
   * @param bar the bar in which they first do, from 1
   * @param ticks how long they do, all in all, while there is music
   */
  public record Time(Tempo tempo, Meter meter, int bar, long ticks) {}

  /**
   * What sounds alike on one channel of one track.
   *
   * @param track from 1
   * @param channel from 1
   * @param name the track's; empty if it has none, or several lines
   * @param sound what it sounds with; on channel 10 a kit
   * @param balance how it stands in the whole
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

    /** What it is called: by its name, or its sound. */
    public String called() {
      return name.isEmpty() ? sound.name() : name;
    }

    Line later(long ticks) {
      return ticks == 0
          ? this
          : new Line(
              track,
              channel,
              name,
              sound,
              balance,
              notes.stream().map(note -> note.later(ticks)).toList(),
              moves.stream().map(move -> move.withPlace(move.place() + ticks)).toList());
    }

    /** Both as one, as this one sounds. */
    private Line with(Line other) {
      List<RunNote> all = new ArrayList<>(notes);
      other.notes.stream()
          .filter(note -> note.pitch() != Note.PEDAL || !notes.contains(note))
          .forEach(all::add);
      all.sort(Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch));
      return new Line(track, channel, name, sound, balance, all, moves);
    }

    /** A kit's strokes by other drums; what is one stroke then has the louder's velocity. */
    private Line struckBy(Map<Integer, Integer> drums) {
      if (!sound.drums()) {
        return this;
      }
      Map<List<Long>, RunNote> struck = new LinkedHashMap<>();
      for (RunNote note : notes) {
        int pitch = drums.getOrDefault(note.pitch(), note.pitch());
        RunNote other = new RunNote(note.place(), pitch, note.velocity(), note.length());
        struck.merge(
            List.of(note.place(), (long) pitch),
            other,
            (a, b) -> a.velocity() >= b.velocity() ? a : b);
      }
      List<RunNote> all = new ArrayList<>(struck.values());
      all.sort(Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch));
      return new Line(track, channel, name, sound, balance, all, moves);
    }

    /** The tick of its first note. */
    long firstOnset() {
      return notes.stream()
          .filter(note -> note.pitch() != Note.PEDAL)
          .mapToLong(RunNote::place)
          .min()
          .orElse(0);
    }

    private long played() {
      return notes.stream().filter(note -> note.pitch() != Note.PEDAL).count();
    }
  }

  /** A word at a place: of a marker, as notation programs write them at sections, or sung. */
  public record Marker(long tick, String name) {}

  /** Reads a file; refuses, in a sentence, what is none. */
  public static MidiSong read(byte[] bytes) {
    return SongReader.read(MidiReader.read(bytes));
  }

  /**
   * Reads a file that was played freely, by bar lines that are found in it. Refuses one with too
   * few notes for that.
   */
  public static MidiSong found(byte[] bytes) {
    MidiReader.Read read = MidiReader.read(bytes);
    FoundTempo found =
        TempoFinder.find(MidiOnsets.of(read), OptionalInt.empty())
            .orElseThrow(
                () ->
                    new Refusal(
                        "Too little is played in it to find bar lines: bring it in as it is."));
    return SongReader.read(read, found, MidiOnsets.micros(read));
  }

  /** What a song for singing says that it is called; empty if nothing. */
  static String titleOf(List<Marker> words) {
    return words.stream()
        .map(Marker::name)
        .filter(word -> word.startsWith("@T"))
        .map(word -> Names.cut(word.substring(2).strip(), Names.LONGEST).strip())
        .findFirst()
        .orElse("");
  }

  /** Times that hold while there is music, those that do longest first. */
  public List<Time> times() {
    TreeSet<Long> edges = new TreeSet<>(List.of(first, Math.max(first + 1, until)));
    tempos.forEach(from -> edges.add(from.tick()));
    bars.changes().forEach(change -> edges.add(change.tick()));
    Map<List<Object>, Long> lasts = new LinkedHashMap<>();
    Map<List<Object>, Long> begins = new HashMap<>();
    int at = 0;
    for (long tick : edges.subSet(first, Math.max(first + 1, until))) {
      while (at + 1 < tempos.size() && tempos.get(at + 1).tick() <= tick) {
        at++;
      }
      List<Object> time = List.of(tempos.get(at).tempo(), bars.meterAt(tick));
      lasts.merge(time, edges.higher(tick) - tick, Long::sum);
      begins.putIfAbsent(time, tick);
    }
    return lasts.entrySet().stream()
        .sorted(Map.Entry.<List<Object>, Long>comparingByValue().reversed())
        .limit(MOST_TIMES)
        .map(
            e ->
                new Time(
                    (Tempo) e.getKey().get(0),
                    (Meter) e.getKey().get(1),
                    bars.barAt(begins.get(e.getKey())),
                    e.getValue()))
        .toList();
  }

  /** The tempo that holds at its first note. */
  public Tempo tempo() {
    return tempos.stream()
        .filter(from -> from.tick() <= first)
        .reduce(tempos.get(0), (a, b) -> b)
        .tempo();
  }

  /** The meter that holds at its first note. */
  public Meter meter() {
    return bars.meterAt(first);
  }

  /** Which tick is heard when, from 0 on. */
  TempoMap map() {
    List<TempoMap.Anchor> anchors = new ArrayList<>();
    double micros = 0;
    for (TempoFrom from : tempos) {
      if (!anchors.isEmpty()) {
        TempoMap.Anchor last = anchors.get(anchors.size() - 1);
        micros += (from.tick() - last.tick()) * last.tempo().microsPerTick();
      }
      anchors.add(new TempoMap.Anchor(from.tick(), micros, from.tempo()));
    }
    return new TempoMap(anchors);
  }

  /** How many notes are in it; the pedal is none. */
  public int notes() {
    return (int) lines.stream().mapToLong(Line::played).sum();
  }

  /** How many bars it has; the last may be begun only. */
  public int barCount() {
    return bars.barAt(end() - 1);
  }

  /**
   * The bar line on which it ends: that before its end, where it reaches over it by no more than a
   * thirty-second, as some programs write; but one after its last onset.
   */
  public long end() {
    long onset =
        lines.stream()
            .flatMap(line -> line.notes().stream())
            .filter(note -> note.pitch() != Note.PEDAL)
            .mapToLong(RunNote::place)
            .max()
            .orElse(0);
    return bars.lineAfter(Math.max(onset, until - OVER - 1));
  }

  /** The lines of one channel as one: those that sound alike, or all of it as most of it does. */
  public MidiSong joined() {
    Map<Integer, Line> byChannel = new LinkedHashMap<>();
    lines.stream()
        .sorted(Comparator.comparingLong(Line::played).reversed())
        .forEach(line -> byChannel.merge(line.channel(), line, Line::with));
    List<Line> joined =
        byChannel.values().stream()
            .sorted(Comparator.comparingInt(Line::track).thenComparingInt(Line::channel))
            .toList();
    return new MidiSong(title, tempos, bars, joined, markers, words, first, until, leftOut);
  }

  /**
   * The song with the drums of another kit: where a file's kit has a drum under a number of its
   * own.
   *
   * @param drums by the number that the file has, 0 to 127, the number of the drum that is meant;
   *     others stay. Refuses numbers that no drum has.
   */
  public MidiSong struckBy(Map<Integer, Integer> drums) {
    drums.forEach(
        (from, to) ->
            Refusal.unless(
                from >= 0 && from < Note.PEDAL && to >= 0 && to < Note.PEDAL,
                "A drum has a number from 0 to 127."));
    if (drums.isEmpty()) {
      return this;
    }
    List<Line> struck = lines.stream().map(line -> line.struckBy(drums)).toList();
    return new MidiSong(title, tempos, bars, struck, markers, words, first, until, leftOut);
  }
}
