package ancora.core.stage;

import ancora.core.clip.ClipId;
import ancora.core.record.Lap.Brought;
import ancora.core.show.PartId;
import ancora.core.time.Ticks;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Notes being taken out of a loop as they pass. The whole hold makes one layer.
 *
 * @param part the part
 * @param clip the clip
 * @param take the take that was heard when erasing began
 * @param layer the number of its layer; 0 while it has none
 * @param from the tick at which it began
 * @param until the first tick after it; {@link Ticks#OPEN} while it goes on
 * @param outFrom the first tick from which notes are taken out as they are passed
 * @param strokes which pitches, and for how long
 * @param out what has been taken out, in the order in which it was passed
 */
@RecordBuilder
public record Erase(
    PartId part,
    ClipId clip,
    int take,
    int layer,
    long from,
    long until,
    long outFrom,
    List<Stroke> strokes,
    List<Brought> out)
    implements EraseBuilder.With {

  public Erase {
    strokes = List.copyOf(strokes);
    out = List.copyOf(out);
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

    public boolean holds(int other, long tick) {
      return pitch == other && tick >= from && tick < until;
    }
  }

  /** Nothing is held yet. */
  public static Erase begun(PartId part, ClipId clip, int take, long tick) {
    return new Erase(part, clip, take, 0, tick, Ticks.OPEN, tick, List.of(), List.of());
  }

  public boolean isOpen() {
    return until == Ticks.OPEN;
  }

  /** Whether a key that goes down at a tick erases. */
  public boolean covers(long tick) {
    return tick >= from && tick < until;
  }

  /** A key of a pitch goes down; one that was down before erases from the beginning. */
  public Erase down(int pitch, long tick) {
    List<Stroke> next = new ArrayList<>(strokes);
    next.add(new Stroke(pitch, Math.max(tick, from), until));
    return withStrokes(next);
  }

  /** A key of a pitch came up, however late that is known. */
  public Erase up(int pitch, long tick) {
    return withStrokes(
        strokes.stream()
            .map(s -> s.until() == until && s.pitch() == pitch ? ended(s, tick) : s)
            .toList());
  }

  /** It ends at a tick, however late that is known. */
  public Erase ended(long tick) {
    return withUntil(Math.max(tick, from))
        .withStrokes(strokes.stream().map(s -> s.until() > tick ? ended(s, tick) : s).toList());
  }

  /** What is taken out from a tick on makes another layer. */
  public Erase cut(long tick) {
    return withLayer(0).withOutFrom(tick).withOut(List.of());
  }

  public Stream<Stroke> open() {
    return strokes.stream().filter(Stroke::isOpen);
  }

  private static Stroke ended(Stroke stroke, long tick) {
    long until = Math.min(stroke.until(), Math.max(tick, stroke.from()));
    return new Stroke(stroke.pitch(), stroke.from(), until);
  }
}
