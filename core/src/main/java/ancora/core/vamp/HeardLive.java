package ancora.core.vamp;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;

/**
 * Notes that were heard as they were played, so that the loop sounds them only later. They are kept
 * in pages, so that one more copies a page, not the whole.
 *
 * @param pages full pages first, all by rising id of the note
 */
public record HeardLive(List<List<HeardLive.One>> pages) {

  /** None was. */
  static final HeardLive NONE = new HeardLive(List.of());

  private static final int PAGE = 32;

  public HeardLive {
    pages = List.copyOf(pages);
  }

  /**
   * A note heard live.
   *
   * @param note its id
   * @param tick the tick of its meant onset: it is silent up to there
   */
  public record One(long note, long tick) {}

  public static HeardLive of(Map<Long, Long> ticks) {
    HeardLive all = NONE;
    for (long note : ticks.keySet().stream().sorted().toList()) {
      all = all.with(note, ticks.get(note), Long.MIN_VALUE);
    }
    return all;
  }

  /** The tick at which a note was heard. */
  public OptionalLong at(long note) {
    int low = 0;
    int high = pages.size() - 1;
    while (low <= high) {
      int middle = (low + high) / 2;
      List<One> page = pages.get(middle);
      if (note < page.get(0).note) {
        high = middle - 1;
      } else if (note > page.get(page.size() - 1).note) {
        low = middle + 1;
      } else {
        return in(page, note);
      }
    }
    return OptionalLong.empty();
  }

  private static OptionalLong in(List<One> page, long note) {
    for (One one : page) {
      if (one.note == note) {
        return OptionalLong.of(one.tick);
      }
    }
    return OptionalLong.empty();
  }

  /**
   * One more note was heard.
   *
   * @param forget what was heard before this tick is not asked for any more
   */
  HeardLive with(long note, long tick, long forget) {
    List<List<One>> next = new ArrayList<>(pages);
    while (!next.isEmpty() && next.get(0).stream().allMatch(one -> one.tick < forget)) {
      next.remove(0);
    }
    int place = next.size() - 1;
    while (place > 0 && next.get(place).get(0).note > note) {
      place--;
    }
    if (place < 0 || isFull(next.get(place)) && last(next.get(place)) < note) {
      next.add(place + 1, List.of(new One(note, tick)));
    } else {
      next.set(place, with(next.get(place), new One(note, tick)));
    }
    return new HeardLive(next);
  }

  private static List<One> with(List<One> page, One heard) {
    List<One> next = new ArrayList<>(page);
    next.removeIf(one -> one.note == heard.note);
    int place = next.size();
    while (place > 0 && next.get(place - 1).note > heard.note) {
      place--;
    }
    next.add(place, heard);
    return List.copyOf(next);
  }

  private static boolean isFull(List<One> page) {
    return page.size() >= PAGE;
  }

  private static long last(List<One> page) {
    return page.get(page.size() - 1).note;
  }

  /** The notes of which something else is known than before. */
  public Set<Long> since(HeardLive before) {
    if (before == this) {
      return Set.of();
    }
    Set<Long> notes = new HashSet<>();
    Map<Long, Long> known = new HashMap<>();
    apart(before, this).forEach(one -> known.put(one.note, one.tick));
    for (One one : apart(this, before)) {
      Long tick = known.remove(one.note);
      if (tick == null || tick != one.tick) {
        notes.add(one.note);
      }
    }
    notes.addAll(known.keySet());
    return notes;
  }

  /** What is on pages that another does not share. */
  private static List<One> apart(HeardLive one, HeardLive other) {
    List<One> apart = new ArrayList<>();
    for (List<One> page : one.pages) {
      if (other.pages.stream().noneMatch(shared -> shared == page)) {
        apart.addAll(page);
      }
    }
    return apart;
  }
}
