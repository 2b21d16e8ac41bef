package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.show.PartId;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.TreeMap;

/**
 * How a file's music is taken in.
 *
 * @param lines places of the song's lines, from 0, that are; all, if empty
 * @param onto by such a place, the part of the show whose shelf its clips go to; a part of its own
 *     for others
 * @param cut how many bars each clip has, 1 to 64; 0 for where markers stand
 * @param time which of the song's times holds in a show without music, from 0; empty for that at
 *     its first note
 * @param words whether sections have the names of what is sung in them
 */
@RecordBuilder
public record Choice(
    List<Integer> lines, Map<Integer, PartId> onto, int cut, OptionalInt time, boolean words)
    implements ChoiceBuilder.With {

  /** A clip is no longer, in bars. */
  public static final int MOST_BARS = 64;

  public Choice {
    lines = List.copyOf(lines);
    onto = Collections.unmodifiableMap(new TreeMap<>(onto));
    Refusal.unless(cut >= 0 && cut <= MOST_BARS, "A clip has 1 to %s bars.", MOST_BARS);
  }

  /** All of it, in clips of so many bars; 0 to cut it at its markers. */
  public static Choice all(int cut) {
    return new Choice(List.of(), Map.of(), cut, OptionalInt.empty(), false);
  }

  /** All of it: cut at markers if there are any, else every eight bars. */
  public static Choice of(MidiSong song) {
    return all(song.markers().isEmpty() ? 8 : 0);
  }

  Optional<PartId> ontoOf(int line) {
    return Optional.ofNullable(onto.get(line));
  }

  /** The time that holds; refuses one that the song has not. */
  MidiSong.Time timeOf(MidiSong song) {
    List<MidiSong.Time> times = song.times();
    Refusal.unless(
        time.isEmpty() || time.getAsInt() >= 0 && time.getAsInt() < times.size(),
        "That song has no such tempo: look at it again.");
    return time.isPresent()
        ? times.get(time.getAsInt())
        : new MidiSong.Time(song.tempo(), song.meter(), 1, song.until());
  }
}
