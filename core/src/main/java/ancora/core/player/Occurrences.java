package ancora.core.player;

import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** When the notes of a span come round. */
final class Occurrences {

  private Occurrences() {}

  /** Is given a note with the tick at which it is due. */
  @FunctionalInterface
  interface Taking {
    void take(PlannedNote note, long tick);
  }

  /**
   * What of a span comes round in (after, last]: found by place, so that it costs what sounds, not
   * what there is.
   *
   * @param span its notes are by rising place
   */
  static void comingRound(Span span, long after, long last, Taking taking) {
    long first = Math.max(after + 1, span.from());
    long end = Math.min(last, span.until() - 1);
    if (end < first || span.notes().isEmpty()) {
      return;
    }
    long length = span.window().length();
    long start = span.window().start();
    long begin = span.phase() + Ticks.floor(first - span.phase(), length);
    for (long lap = begin; lap <= end; lap += length) {
      long high = start + Math.min(length - 1, end - lap);
      int next = firstFrom(span.notes(), start + Math.max(0, first - lap));
      for (; next < span.notes().size() && span.notes().get(next).place() <= high; next++) {
        PlannedNote note = span.notes().get(next);
        long tick = lap + note.place() - start;
        if (note.soundsAt(tick)) {
          taking.take(note, tick);
        }
      }
    }
  }

  /** Where the first note lies, of notes by rising place, that lies at a place or after it. */
  private static int firstFrom(List<PlannedNote> notes, long place) {
    int low = 0;
    int high = notes.size();
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (notes.get(middle).place() < place) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  record UnderWay(PlannedNote note, long tick, long end) {}

  static long naturalEnd(PlannedNote note, long attack) {
    return note.length() == PlannedNote.DRONE ? Ticks.OPEN : attack + note.length();
  }

  /** The note that a pitch which sounds goes on with at a tick, without an attack. */
  static Optional<PlannedNote> tied(Span span, int pitch, long at) {
    return span.notes().stream()
        .filter(note -> note.tied() && note.pitch() == pitch)
        .filter(note -> !of(span, note, at - 1, at).isEmpty())
        .findFirst();
  }

  static List<Long> of(Span span, PlannedNote note, long after, long last) {
    return ticksOf(span, note.place(), after, last).stream().filter(note::soundsAt).toList();
  }

  static List<Long> ticksOf(Span span, long place, long after, long last) {
    long base = span.phase() + place - span.window().start();
    long end = Math.min(last, span.until() - 1);
    long length = span.window().length();
    List<Long> ticks = new ArrayList<>();
    for (long tick = base + Ticks.ceil(after + 1 - base, length); tick <= end; tick += length) {
      if (tick >= span.from()) {
        ticks.add(tick);
      }
    }
    return ticks;
  }

  static List<UnderWay> underWay(Span span, long at) {
    List<UnderWay> found = new ArrayList<>();
    for (PlannedNote note : span.notes()) {
      long base = span.phase() + note.place() - span.window().start();
      long tick = base + Ticks.floor(at - 1 - base, span.window().length());
      long end = naturalEnd(note, tick);
      if (end > at && note.soundsAt(tick)) {
        found.add(new UnderWay(note, tick, end));
      }
    }
    found.sort(Comparator.comparingLong(UnderWay::tick));
    return found;
  }
}
