package ancora.app.files;

import static java.util.stream.Collectors.counting;
import static java.util.stream.Collectors.groupingBy;

import ancora.core.clip.Clip;
import ancora.core.file.Arranging;
import ancora.core.file.MidiSong;
import ancora.core.note.Note;
import ancora.core.run.RunNote;
import ancora.core.show.Part;
import ancora.core.show.Show;
import ancora.core.sound.GeneralMidi;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.IntStream;

/**
 * What there is to bring in, said before anything is done.
 *
 * @param kind "midi", "show" or "journal"
 * @param title what it is called
 * @param bpm its tempo, in quarter notes a minute; of a MIDI file that at its first note
 * @param meter its meter, likewise
 * @param bars how long it is; 0 where that means nothing
 * @param times of a MIDI file, those that hold longest first
 * @param lines of a MIDI file, each of which may become a part
 * @param markers how many a MIDI file has
 * @param words whether something is sung, or written, in a MIDI file
 * @param parts of a show
 * @param sections how many a show has
 * @param runs how many come with it
 * @param leftOut what will not come in, in sentences
 * @param asks what has to be chosen before it can come in; empty if nothing
 */
public record Contents(
    String kind,
    String title,
    double bpm,
    String meter,
    long bars,
    List<Time> times,
    List<Line> lines,
    int markers,
    boolean words,
    List<PartThere> parts,
    int sections,
    int runs,
    List<String> leftOut,
    String asks) {

  /**
   * A tempo and a meter of a MIDI file.
   *
   * @param bar where they first hold, from 1
   * @param bars for how many bars of that meter, all in all
   */
  public record Time(double bpm, String meter, int bar, double bars) {}

  /**
   * A line of a MIDI file.
   *
   * @param place from 0
   * @param name its own, or that of its sound
   * @param drums of a kit, by rising pitch
   */
  public record Line(int place, String name, String sound, long notes, List<Drum> drums) {}

  /**
   * What is struck of a kit.
   *
   * @param pitch as the file has it
   * @param name what General MIDI has there; empty if nothing
   * @param strokes how many
   */
  public record Drum(int pitch, String name, long strokes) {}

  /** A part of a show. */
  public record PartThere(int id, String name, String sound, List<ClipThere> clips) {}

  /** A clip of a part. */
  public record ClipThere(int id, String letter, String name, double bars) {}

  /** What is in a MIDI file. */
  static Contents of(MidiSong song, String title) {
    return new Contents(
        "midi",
        title,
        song.tempo().bpm(),
        song.meter().toString(),
        song.barCount(),
        song.times().stream().map(Contents::time).toList(),
        IntStream.range(0, song.lines().size())
            .mapToObj(i -> line(i, song.lines().get(i)))
            .toList(),
        song.markers().size(),
        !song.words().isEmpty(),
        List.of(),
        0,
        0,
        song.leftOut(),
        song.lines().size() <= Show.MOST_PARTS ? "" : Arranging.tooMany(song.lines().size()));
  }

  /** What is in a show. */
  static Contents of(String kind, Show show, int runs, List<String> leftOut) {
    return new Contents(
        kind,
        show.title(),
        show.tempo().bpm(),
        show.meter().toString(),
        0,
        List.of(),
        List.of(),
        0,
        false,
        show.parts().stream().map(part -> part(part, show)).toList(),
        show.form().size(),
        runs,
        leftOut,
        "");
  }

  private static Time time(MidiSong.Time time) {
    double bars = (double) time.ticks() / time.meter().barTicks();
    return new Time(time.tempo().bpm(), time.meter().toString(), time.bar(), bars);
  }

  private static Line line(int place, MidiSong.Line line) {
    Map<Integer, Long> struck =
        line.notes().stream()
            .filter(note -> note.pitch() < Note.PEDAL)
            .collect(groupingBy(RunNote::pitch, TreeMap::new, counting()));
    long notes = struck.values().stream().mapToLong(Long::longValue).sum();
    List<Drum> drums =
        struck.entrySet().stream()
            .filter(one -> line.sound().drums())
            .map(one -> drum(one.getKey(), one.getValue()))
            .toList();
    return new Line(place, line.called(), line.sound().name(), notes, drums);
  }

  private static Drum drum(int pitch, long strokes) {
    return new Drum(pitch, GeneralMidi.DRUMS.getOrDefault(pitch, ""), strokes);
  }

  private static PartThere part(Part part, Show show) {
    List<ClipThere> clips = part.shelf().stream().map(clip -> clip(clip, show)).toList();
    return new PartThere(part.id().value(), part.name(), part.sound().name(), clips);
  }

  private static ClipThere clip(Clip clip, Show show) {
    double bars = clip.window().length() / (double) show.meter().barTicks();
    return new ClipThere(clip.id().value(), clip.letter(), clip.name(), bars);
  }
}
