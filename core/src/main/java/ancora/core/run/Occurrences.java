package ancora.core.run;

import ancora.core.plan.PlannedNote;
import ancora.core.plan.Span;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** When the notes of a span come round. */
final class Occurrences {

  private Occurrences() {}

  record UnderWay(PlannedNote note, long tick, long end) {}

  static long naturalEnd(PlannedNote note, long attack) {
    return note.length() == PlannedNote.DRONE ? Ticks.OPEN : attack + note.length();
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
