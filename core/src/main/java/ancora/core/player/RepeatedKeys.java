package ancora.core.player;

import ancora.core.note.NoteRepeat;
import ancora.core.show.PartId;
import ancora.core.time.Meter;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Held keys that sound again on every line of a grid (rule 10). */
final class RepeatedKeys {

  /**
   * A key.
   *
   * @param line the next tick at which it sounds; {@link Long#MAX_VALUE} for never again
   */
  private record Key(PartId part, int pitch, int velocity, long line) {}

  /**
   * Something that such a key does.
   *
   * @param tick when
   * @param velocity 0 for its end
   */
  record Stroke(long tick, PartId part, int pitch, int velocity) {}

  private final List<Key> keys = new ArrayList<>();
  private final List<Stroke> ends = new ArrayList<>();

  /** A key goes down, and counts from a line on. */
  void down(PartId part, int pitch, int velocity, long firstLine) {
    up(part, pitch);
    keys.add(new Key(part, pitch, velocity, firstLine));
  }

  /** A key comes up. */
  boolean up(PartId part, int pitch) {
    ends.removeIf(end -> end.part().equals(part) && end.pitch() == pitch);
    return keys.removeIf(key -> key.part().equals(part) && key.pitch() == pitch);
  }

  void pressure(PartId part, int pitch, int velocity) {
    keys.replaceAll(
        key ->
            key.part().equals(part) && key.pitch() == pitch
                ? new Key(part, pitch, velocity, key.line())
                : key);
  }

  /** A new grid counts from its own next line; without one the keys are silent. */
  void follow(Optional<NoteRepeat> repeat, Meter meter, long from) {
    keys.replaceAll(
        key ->
            new Key(
                key.part(),
                key.pitch(),
                key.velocity(),
                repeat.map(r -> r.lineFrom(from, meter)).orElse(Long.MAX_VALUE)));
  }

  void clear() {
    keys.clear();
    ends.clear();
  }

  /** The strokes, and their ends, up to a tick, by rising tick; what is overdue is due at once. */
  List<Stroke> upTo(long last, long now, Optional<NoteRepeat> repeat, Meter meter) {
    List<Stroke> strokes = new ArrayList<>();
    for (int i = 0; i < keys.size(); i++) {
      Key key = keys.get(i);
      while (repeat.isPresent() && key.line() <= last) {
        strokes.add(new Stroke(Math.max(now, key.line()), key.part(), key.pitch(), key.velocity()));
        ends.add(new Stroke(key.line() + repeat.get().length(), key.part(), key.pitch(), 0));
        long next = repeat.get().lineFrom(key.line() + 1, meter);
        key = new Key(key.part(), key.pitch(), key.velocity(), next);
      }
      keys.set(i, key);
    }
    for (Stroke end : List.copyOf(ends)) {
      if (end.tick() <= last) {
        strokes.add(new Stroke(Math.max(now, end.tick()), end.part(), end.pitch(), 0));
        ends.remove(end);
      }
    }
    return strokes;
  }
}
