package ancora.core.file;

import ancora.core.time.Meter;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;

/**
 * The bar lines of a song, along its changes of meter. Each change is a bar line, also where it
 * cuts a bar short.
 *
 * @param changes by rising tick, at least one; the first is at tick 0
 */
public record SongBars(List<Change> changes) {

  /** From here on a meter holds. */
  public record Change(long tick, Meter meter) {}

  public SongBars {
    changes = List.copyOf(changes);
  }

  /** A song in one meter. */
  public static SongBars of(Meter meter) {
    return new SongBars(List.of(new Change(0, meter)));
  }

  /** With changes of which the last holds where several stand on a tick; 4/4 until the first. */
  static SongBars along(List<Change> said) {
    List<Change> changes = new ArrayList<>(List.of(new Change(0, Meter.COMMON)));
    for (Change change : said) {
      Change last = changes.get(changes.size() - 1);
      if (change.tick() == last.tick()) {
        changes.set(changes.size() - 1, change);
      } else if (!change.meter().equals(last.meter())) {
        changes.add(change);
      }
    }
    return new SongBars(changes);
  }

  /** The meter at a tick. */
  public Meter meterAt(long tick) {
    return changes.get(at(tick)).meter();
  }

  /** The last bar line at or before a tick, from 0. */
  public long lineBy(long tick) {
    Change change = changes.get(at(tick));
    return change.tick() + Ticks.floor(tick - change.tick(), change.meter().barTicks());
  }

  /** The first bar line after a tick. */
  public long lineAfter(long tick) {
    int at = at(tick);
    long next = lineBy(tick) + changes.get(at).meter().barTicks();
    return at + 1 < changes.size() ? Math.min(next, changes.get(at + 1).tick()) : next;
  }

  /** The bar line nearest to a tick; halfway it is the later one. */
  public long nearest(long tick) {
    long before = lineBy(tick);
    long after = lineAfter(tick);
    return tick - before < after - tick ? before : after;
  }

  /** How many bar lines lie before a tick or on it: the number of its bar, from 1. */
  public int barAt(long tick) {
    long bars = 0;
    int last = at(tick);
    for (int i = 0; i <= last; i++) {
      Change change = changes.get(i);
      long bar = change.meter().barTicks();
      bars +=
          i < last
              ? Ticks.ceil(changes.get(i + 1).tick() - change.tick(), bar) / bar
              : Math.floorDiv(tick - change.tick(), bar) + 1;
    }
    return (int) bars;
  }

  /**
   * How much later all begins where the song begins with an upbeat: a bar of its own meter that is
   * shorter than those after it, which is made whole by a rest before it.
   */
  long upbeatRest() {
    if (changes.size() < 2) {
      return 0;
    }
    long upbeat = changes.get(1).tick();
    long bar = changes.get(1).meter().barTicks();
    return upbeat <= changes.get(0).meter().barTicks() && upbeat < bar ? bar - upbeat : 0;
  }

  /** All so many ticks later, the first bar in the meter of the second. */
  SongBars afterUpbeat(long rest) {
    List<Change> later = new ArrayList<>(List.of(new Change(0, changes.get(1).meter())));
    changes.stream().skip(2).forEach(c -> later.add(new Change(c.tick() + rest, c.meter())));
    return new SongBars(later);
  }

  private int at(long tick) {
    int low = 0;
    int high = changes.size() - 1;
    while (low < high) {
      int middle = (low + high + 1) >>> 1;
      if (changes.get(middle).tick() <= tick) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    return low;
  }
}
