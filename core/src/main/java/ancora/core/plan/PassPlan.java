package ancora.core.plan;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Move;
import ancora.core.note.Note;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What one pass of a clip sounds like. Here, and only here, notes of one pitch on one tick become
 * one (the louder velocity, the longer length), a note is cut by the next onset of its pitch, and
 * what sounds across the line is tied.
 */
public final class PassPlan {

  /** A pedal held for a pass lifts this long before it goes down again, in ticks. */
  private static final long PEDAL_GAP = 120;

  private static final Comparator<PlannedNote> ORDER =
      Comparator.comparingLong(PlannedNote::place)
          .thenComparingInt(PlannedNote::pitch)
          .thenComparingLong(PlannedNote::id);

  private PassPlan() {}

  /**
   * The notes of one pass, by rising place. A note whose key is still down is among them: the loop
   * takes its voice over when its place comes round, and holds it for as long as the key does.
   *
   * @param beat ticks of a beat: a note longer than the loop by less than that sounds as long as
   *     the loop, a longer one is a drone
   * @param silences for notes that are silent for a while, when
   */
  public static List<PlannedNote> of(Clip clip, long beat, Map<Long, Silence> silences) {
    LoopWindow window = clip.window();
    List<PlannedNote> notes = new ArrayList<>();
    clip.notes()
        .filter(note -> window.contains(note.meant()))
        .forEach(note -> notes.add(planned(note, note.meant(), note.length(), silences)));
    notes.sort(ORDER);
    mergeSamePlace(notes);
    List<PlannedNote> carried = clip.manner().ring() ? carriedIn(clip, notes, silences) : List.of();
    notes.addAll(carried);
    notes.sort(ORDER);
    return fitted(notes, carried, clip.manner().ring(), window, beat);
  }

  /** What controllers do in one pass, by rising place. */
  public static List<Move> moves(Clip clip) {
    return clip.moves()
        .filter(move -> clip.window().contains(move.place()))
        .sorted(Comparator.comparingLong(Move::place))
        .toList();
  }

  /**
   * What sounds before a clip enters: its material before the window. Places are those of the
   * material.
   *
   * @param ticks how far back it goes, at least one
   */
  public static List<PlannedNote> pickup(Clip clip, long ticks) {
    LoopWindow before = new LoopWindow(clip.window().start() - ticks, ticks);
    List<PlannedNote> notes = new ArrayList<>();
    clip.notes()
        .filter(note -> before.contains(note.meant()))
        .forEach(note -> notes.add(planned(note, note.meant(), note.length(), Map.of())));
    notes.sort(ORDER);
    mergeSamePlace(notes);
    Map<Integer, Long> nextOfPitch = new HashMap<>();
    for (int i = notes.size() - 1; i >= 0; i--) {
      PlannedNote note = notes.get(i);
      Long next = nextOfPitch.put(note.pitch(), note.place());
      long room = next == null ? Ticks.OPEN : next - note.place();
      long length = Math.min(note.length(), room);
      notes.set(i, note.withLength(length == Ticks.OPEN ? PlannedNote.DRONE : length));
    }
    return List.copyOf(notes);
  }

  private static PlannedNote planned(
      Note note, long place, long length, Map<Long, Silence> silences) {
    return new PlannedNote(
        note.id(),
        place,
        note.held() ? Ticks.OPEN : length,
        note.pitch(),
        note.velocity(),
        silences.getOrDefault(note.id(), Silence.NONE),
        note.held());
  }

  private static void mergeSamePlace(List<PlannedNote> sorted) {
    for (int i = sorted.size() - 1; i > 0; i--) {
      PlannedNote first = sorted.get(i - 1);
      PlannedNote second = sorted.get(i);
      if (first.place() == second.place() && first.pitch() == second.pitch()) {
        sorted.remove(i);
        sorted.set(
            i - 1,
            new PlannedNote(
                first.id(),
                first.place(),
                Math.max(first.length(), second.length()),
                first.pitch(),
                Math.max(first.velocity(), second.velocity()),
                first.silence().and(second.silence()),
                first.tied() && second.tied()));
      }
    }
  }

  /**
   * Notes that begin before the window and sound into it: at its start they are loop notes that are
   * not attacked where their pitch sounds on across the line. A note is one if more of it lies in
   * the window than before it, or if a note of its pitch reaches the line: the two are one gesture.
   */
  private static List<PlannedNote> carriedIn(
      Clip clip, List<PlannedNote> loop, Map<Long, Silence> silences) {
    long start = clip.window().start();
    Map<Integer, PlannedNote> carried = new HashMap<>();
    clip.notes()
        .filter(note -> note.meant() < start && (note.held() || endOf(note) > start))
        .filter(note -> isMostlyIn(note, start) || reachesLine(loop, note.pitch(), clip.window()))
        .filter(note -> loop.stream().noneMatch(n -> isAt(n, note.pitch(), start)))
        .forEach(
            note -> {
              boolean round = note.held() || endOf(note) >= clip.window().end();
              long length = round ? Ticks.OPEN : endOf(note) - start;
              PlannedNote tied = planned(note, start, length, silences);
              carried.merge(
                  note.pitch(),
                  new PlannedNote(
                      tied.id(),
                      start,
                      tied.length(),
                      tied.pitch(),
                      tied.velocity(),
                      tied.silence(),
                      true),
                  (a, b) -> a.length() >= b.length() ? a : b);
            });
    return carried.values().stream().sorted(ORDER).toList();
  }

  private static boolean isAt(PlannedNote note, int pitch, long place) {
    return note.pitch() == pitch && note.place() == place;
  }

  private static boolean isMostlyIn(Note note, long start) {
    return note.held() || endOf(note) - start > start - note.meant();
  }

  private static boolean reachesLine(List<PlannedNote> loop, int pitch, LoopWindow window) {
    return loop.stream()
        .anyMatch(
            n ->
                n.pitch() == pitch
                    && (n.length() == Ticks.OPEN || n.place() + n.length() >= window.end()));
  }

  private static long endOf(Note note) {
    return note.meant() + note.length();
  }

  /** Lengths as far as the next onset of the pitch (a note's own, if there is no other). */
  private static List<PlannedNote> fitted(
      List<PlannedNote> notes,
      List<PlannedNote> carried,
      boolean ring,
      LoopWindow window,
      long beat) {
    Map<Integer, PlannedNote> nextOfPitch = new HashMap<>();
    for (PlannedNote note : notes) {
      nextOfPitch.putIfAbsent(note.pitch(), note);
    }
    List<PlannedNote> lengths = new ArrayList<>(notes);
    for (int i = notes.size() - 1; i >= 0; i--) {
      PlannedNote note = notes.get(i);
      PlannedNote next = nextOfPitch.put(note.pitch(), note);
      long room = Math.floorMod(next.place() - note.place() - 1, window.length()) + 1;
      Optional<PlannedNote> goesOn =
          carried.contains(next) && !next.equals(note) && note.length() >= room
              ? Optional.of(next)
              : Optional.empty();
      lengths.set(i, note.withLength(length(note, room, ring, window, beat)));
      if (goesOn.isPresent()) {
        long tail = length(next, roomAfter(next, notes, window), ring, window, beat);
        lengths.set(
            i, note.withLength(tail == PlannedNote.DRONE ? PlannedNote.DRONE : room + tail));
      }
    }
    return List.copyOf(lengths);
  }

  /** Ticks from a note to the next onset of its pitch. */
  private static long roomAfter(PlannedNote note, List<PlannedNote> notes, LoopWindow window) {
    return notes.stream()
        .filter(n -> n.pitch() == note.pitch())
        .mapToLong(n -> Math.floorMod(n.place() - note.place() - 1, window.length()) + 1)
        .min()
        .orElse(window.length());
  }

  private static long length(
      PlannedNote note, long room, boolean ring, LoopWindow window, long beat) {
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
