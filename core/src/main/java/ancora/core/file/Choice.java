package ancora.core.file;

import ancora.core.Refusal;
import ancora.core.show.PartId;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * How a file's music is taken in.
 *
 * @param lines places of the song's lines, from 0, that are; all, if empty
 * @param onto by such a place, the part of the show whose shelf its clips go to; a part of its own
 *     for others
 * @param cut how many bars each clip has, 1 to 64; 0 for where markers stand, as sections
 */
public record Choice(List<Integer> lines, Map<Integer, PartId> onto, int cut) {

  /** A clip is no longer, in bars. */
  public static final int MOST_BARS = 64;

  public Choice {
    lines = List.copyOf(lines);
    onto = Collections.unmodifiableMap(new TreeMap<>(onto));
    Refusal.unless(cut >= 0 && cut <= MOST_BARS, "A clip has 1 to %s bars.", MOST_BARS);
  }

  /** All of it: cut at markers if there are any, else every eight bars. */
  public static Choice of(MidiSong song) {
    return new Choice(List.of(), Map.of(), song.markers().isEmpty() ? 8 : 0);
  }

  Optional<PartId> ontoOf(int line) {
    return Optional.ofNullable(onto.get(line));
  }
}
