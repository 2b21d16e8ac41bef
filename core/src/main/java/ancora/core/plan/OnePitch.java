package ancora.core.plan;

import ancora.core.clip.LoopWindow;
import ancora.core.note.Note;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.LongStream;

/**
 * What one pitch does in a pass. Here, and only here, notes on one tick become one (the louder
 * velocity, the longer length), a note is cut by the next onset, and what sounds across the line is
 * tied. Pitches know nothing of one another.
 *
 * @param window what goes round
 * @param ring whether notes ring over the line
 * @param beat ticks of a beat: a note longer than the loop by less than that sounds as long as the
 *     loop, a longer one is a drone
 */
record OnePitch(LoopWindow window, boolean ring, long beat) {

  /** A pedal held for a pass lifts this long before it goes down again, in ticks. */
  private static final long PEDAL_GAP = 120;

  private static final Comparator<PlannedNote> ORDER =
      Comparator.comparingLong(PlannedNote::place).thenComparingLong(PlannedNote::id);

  /**
   * A note of the pitch.
   *
   * @param note the note, wherever it lies in the material
   * @param silence when it is silent
   */
  record SilencedNote(Note note, Silence silence) {
    PlannedNote planned(long place, long length, boolean tied) {
      return new PlannedNote(
          note.id(),
          place,
          note.held() ? Ticks.OPEN : length,
          note.pitch(),
          note.velocity(),
          silence,
          tied);
    }
  }

  /**
   * The notes of one pass, by rising place. A note whose key is still down is among them: the loop
   * takes its voice over when its place comes round, and holds it for as long as the key does.
   */
  PitchPass pass(List<SilencedNote> all) {
    List<PlannedNote> notes = at(all, window);
    boolean isLocal =
        !isOfPedal(notes) && all.stream().allMatch(s -> window.contains(s.note().meant()));
    joinPedals(notes);
    Optional<PlannedNote> carried = ring ? carriedIn(all, notes) : Optional.empty();
    if (carried.isPresent()) {
      notes.add(carried.get());
      notes.sort(ORDER);
    }
    return new PitchPass(notes, fitted(notes, carried), isLocal);
  }

  /**
   * A pass that has become another at a few places: only they, and what they follow, are looked at.
   *
   * @param places of the material, at which notes were others, or are
   * @param there the notes that begin at them by now
   * @return empty where more may have changed
   */
  Optional<PitchPass> next(PitchPass before, long[] places, List<SilencedNote> there) {
    boolean within = LongStream.of(places).allMatch(window::contains);
    if (!before.isLocal() || !within || there.stream().anyMatch(s -> s.note().isPedal())) {
      return Optional.empty();
    }
    List<PlannedNote> begin = new ArrayList<>(before.begin());
    List<PlannedNote> notes = new ArrayList<>(before.notes());
    for (long place : places) {
      int was = indexOf(begin, place);
      if (was >= 0) {
        begin.remove(was);
        notes.remove(was);
      }
    }
    for (PlannedNote note : at(there, window)) {
      int where = -1 - indexOf(begin, note.place());
      begin.add(where, note);
      notes.add(where, note);
    }
    for (long place : places) {
      int is = indexOf(begin, place);
      fit(begin, notes, is < 0 ? -2 - is : is);
      fit(begin, notes, is < 0 ? -2 - is : is - 1);
    }
    return Optional.of(new PitchPass(begin, notes, true));
  }

  /** The note on a place; −1 less where it would be, if there is none. */
  private static int indexOf(List<PlannedNote> notes, long place) {
    int low = 0;
    int high = notes.size() - 1;
    while (low <= high) {
      int middle = (low + high) >>> 1;
      long there = notes.get(middle).place();
      if (there == place) {
        return middle;
      }
      low = there < place ? middle + 1 : low;
      high = there < place ? high : middle - 1;
    }
    return -1 - low;
  }

  /** One of the notes has the length that it has beside the others. */
  private void fit(List<PlannedNote> begin, List<PlannedNote> notes, int i) {
    if (!begin.isEmpty()) {
      int place = Math.floorMod(i, begin.size());
      PlannedNote note = begin.get(place);
      notes.set(place, note.withLength(length(note, room(note, next(begin, place)))));
    }
  }

  private static boolean isOfPedal(List<PlannedNote> notes) {
    return !notes.isEmpty() && notes.get(0).pitch() == Note.PEDAL;
  }

  /**
   * Spans of the pedal that overlap, since one was added to another, are one: it is down where any
   * of them has it down. One that reaches over the line takes in what lies wholly under it there;
   * else it is pressed anew.
   */
  private void joinPedals(List<PlannedNote> spans) {
    if (!isOfPedal(spans)) {
      return;
    }
    for (int i = 1; i < spans.size(); ) {
      i = join(spans, i - 1, i, spans.get(i).place()) ? i : i + 1;
    }
    while (spans.size() > 1) {
      PlannedNote first = spans.get(0);
      PlannedNote last = spans.get(spans.size() - 1);
      long round = first.place() + window.length();
      boolean under = round + first.length() <= last.place() + last.length();
      if (!under || !join(spans, spans.size() - 1, 0, round)) {
        return;
      }
    }
  }

  /** Makes one span of one and the next, if that begins while the first still lasts. */
  private static boolean join(List<PlannedNote> spans, int one, int next, long place) {
    PlannedNote first = spans.get(one);
    PlannedNote second = spans.get(next);
    boolean held = first.length() == Ticks.OPEN || second.length() == Ticks.OPEN;
    if (held || place >= first.place() + first.length()) {
      return false;
    }
    long length = Math.max(first.length(), place + second.length() - first.place());
    spans.set(one, together(first, second).withLength(length));
    spans.remove(next);
    return true;
  }

  /** What sounds once in a stretch of the material; nothing follows the last. */
  static List<PlannedNote> once(List<SilencedNote> all, LoopWindow stretch) {
    List<PlannedNote> notes = at(all, stretch);
    for (int i = 0; i < notes.size(); i++) {
      PlannedNote note = notes.get(i);
      long room = i + 1 < notes.size() ? notes.get(i + 1).place() - note.place() : Ticks.OPEN;
      long length = Math.min(note.length(), room);
      notes.set(i, note.withLength(length == Ticks.OPEN ? PlannedNote.DRONE : length));
    }
    return notes;
  }

  /** What begins in a stretch: on each place one note. */
  private static List<PlannedNote> at(List<SilencedNote> all, LoopWindow stretch) {
    List<PlannedNote> notes = new ArrayList<>(all.size());
    for (SilencedNote sounding : all) {
      Note note = sounding.note();
      if (stretch.contains(note.meant())) {
        notes.add(sounding.planned(note.meant(), note.length(), note.held()));
      }
    }
    notes.sort(ORDER);
    for (int i = notes.size() - 1; i > 0; i--) {
      PlannedNote first = notes.get(i - 1);
      PlannedNote second = notes.get(i);
      if (first.place() == second.place()) {
        notes.remove(i);
        notes.set(i - 1, together(first, second));
      }
    }
    return notes;
  }

  private static PlannedNote together(PlannedNote first, PlannedNote second) {
    return new PlannedNote(
        first.id(),
        first.place(),
        Math.max(first.length(), second.length()),
        first.pitch(),
        Math.max(first.velocity(), second.velocity()),
        first.silence().and(second.silence()),
        first.tied() && second.tied());
  }

  /**
   * A note that begins before the window and sounds into it: at its start it is a loop note that is
   * not attacked where its pitch sounds on across the line. A note is one if more of it lies in the
   * window than before it, or if another reaches the line: the two are one gesture. Of several the
   * longest is.
   */
  private Optional<PlannedNote> carriedIn(List<SilencedNote> all, List<PlannedNote> loop) {
    long start = window.start();
    if (!loop.isEmpty() && loop.get(0).place() == start) {
      return Optional.empty();
    }
    boolean reached = loop.stream().anyMatch(this::reachesLine);
    PlannedNote carried = null;
    for (SilencedNote sounding : all) {
      Note note = sounding.note();
      boolean sounds = note.meant() < start && (note.held() || endOf(note) > start);
      if (sounds && (isMostlyIn(note) || reached)) {
        boolean round = note.held() || endOf(note) >= window.end();
        PlannedNote tied = sounding.planned(start, round ? Ticks.OPEN : endOf(note) - start, true);
        carried = carried == null || tied.length() > carried.length() ? tied : carried;
      }
    }
    return Optional.ofNullable(carried);
  }

  private boolean isMostlyIn(Note note) {
    return note.held() || endOf(note) - window.start() > window.start() - note.meant();
  }

  private boolean reachesLine(PlannedNote note) {
    return note.length() == Ticks.OPEN || note.place() + note.length() >= window.end();
  }

  private static long endOf(Note note) {
    return note.meant() + note.length();
  }

  /** Lengths as far as the next onset (a note's own, if there is no other). */
  private List<PlannedNote> fitted(List<PlannedNote> notes, Optional<PlannedNote> carried) {
    List<PlannedNote> fitted = new ArrayList<>(notes.size());
    for (int i = 0; i < notes.size(); i++) {
      PlannedNote note = notes.get(i);
      PlannedNote next = next(notes, i);
      long room = room(note, next);
      boolean goesOn = carried.equals(Optional.of(next)) && next != note && note.length() >= room;
      if (goesOn) {
        int place = notes.indexOf(next);
        long tail = length(next, room(next, next(notes, place)));
        fitted.add(note.withLength(tail == PlannedNote.DRONE ? tail : room + tail));
      } else {
        fitted.add(note.withLength(length(note, room)));
      }
    }
    return fitted;
  }

  private static PlannedNote next(List<PlannedNote> notes, int i) {
    return notes.get((i + 1) % notes.size());
  }

  /** Ticks from a note to the next, round the circle. */
  private long room(PlannedNote note, PlannedNote next) {
    return Math.floorMod(next.place() - note.place() - 1, window.length()) + 1;
  }

  private long length(PlannedNote note, long room) {
    long loop = window.length();
    if (!ring) {
      return Math.min(Math.min(note.length(), room), window.end() - note.place());
    }
    if (note.length() < loop || room < loop) {
      return Math.min(note.length(), room);
    }
    if (note.length() >= (loop < beat ? loop : loop + beat)) {
      return PlannedNote.DRONE;
    }
    return note.pitch() == Note.PEDAL ? Math.max(1, loop - PEDAL_GAP) : loop;
  }
}
