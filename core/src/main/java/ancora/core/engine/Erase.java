package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Notes being taken out of a loop as they pass.
 *
 * @param part the part
 * @param before the clip as it was when erasing began
 * @param strokes which pitches, and for how long
 */
public record Erase(PartId part, Clip before, List<Stroke> strokes) {

  public Erase {
    strokes = List.copyOf(strokes);
  }

  /**
   * A pitch held down.
   *
   * @param pitch 0 to 127
   * @param from the tick at which it went down
   * @param until the tick at which it came up; {@link Ticks#OPEN} while it is down
   */
  public record Stroke(int pitch, long from, long until) {
    boolean isOpen() {
      return until == Ticks.OPEN;
    }
  }

  Erase down(int pitch, long tick) {
    List<Stroke> next = new ArrayList<>(strokes);
    next.add(new Stroke(pitch, tick, Ticks.OPEN));
    return new Erase(part, before, next);
  }

  Erase up(int pitch, long tick) {
    return new Erase(
        part,
        before,
        strokes.stream().map(s -> s.isOpen() && s.pitch() == pitch ? ended(s, tick) : s).toList());
  }

  Erase allUp(long tick) {
    return new Erase(
        part, before, strokes.stream().map(s -> s.isOpen() ? ended(s, tick) : s).toList());
  }

  Stream<Stroke> open() {
    return strokes.stream().filter(Stroke::isOpen);
  }

  private static Stroke ended(Stroke stroke, long tick) {
    return new Stroke(stroke.pitch(), stroke.from(), Math.max(tick, stroke.from()));
  }
}
