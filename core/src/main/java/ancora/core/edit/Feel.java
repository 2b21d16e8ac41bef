package ancora.core.edit;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.note.Note;
import ancora.core.time.Meter;
import ancora.core.time.Ticks;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * How a clip is played: where its onsets lie in whole bars, and how loud they are.
 *
 * @param length ticks of those bars, after which it comes round
 * @param lines by rising place from the first bar line: the velocity of the loudest note there
 */
public record Feel(long length, TreeMap<Long, Integer> lines) {

  /** A clip's feel; refuses one in which nothing sounds. */
  static Feel of(Clip clip, Meter meter) {
    long begin = Ticks.floor(clip.window().start(), meter.barTicks());
    long length = Ticks.ceil(clip.window().end() - begin, meter.barTicks());
    TreeMap<Long, Integer> lines = new TreeMap<>();
    List<Note> notes = clip.notes().filter(note -> !note.isPedal()).toList();
    notes.stream()
        .filter(note -> clip.window().contains(note.meant()))
        .forEach(note -> lines.merge(note.meant() - begin, note.velocity(), Math::max));
    Refusal.unless(
        !lines.isEmpty(), "Clip %s has no notes: choose one with a feel.", clip.letter());
    return new Feel(length, lines);
  }

  /** The line nearest to a tick, halfway the later one: how far it is from there, and how loud. */
  Map.Entry<Long, Integer> nearest(long tick) {
    long place = Math.floorMod(tick, length);
    Map.Entry<Long, Integer> before = lines.floorEntry(place);
    Map.Entry<Long, Integer> after = lines.ceilingEntry(place);
    Map.Entry<Long, Integer> earlier = before == null ? lines.lastEntry() : before;
    Map.Entry<Long, Integer> later = after == null ? lines.firstEntry() : after;
    long back = Math.floorMod(place - earlier.getKey(), length);
    long on = Math.floorMod(later.getKey() - place, length);
    return on <= back ? Map.entry(on, later.getValue()) : Map.entry(-back, earlier.getValue());
  }
}
