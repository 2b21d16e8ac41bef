package ancora.core.plan;

import ancora.core.clip.Clip;
import ancora.core.clip.LoopWindow;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What one pass of a clip sounds like. Here, and only here, notes of one pitch on one tick become
 * one (the louder velocity, the longer length), and a note is cut by the next onset of its pitch.
 */
public final class PassPlan {

  private PassPlan() {}

  /**
   * The notes of one pass, by rising place. Notes still held are not among them.
   *
   * @param beat ticks of a beat: a note longer than the loop by less than that sounds as long as
   *     the loop, a longer one is a drone
   * @param heardLive for notes played by hand just now, the tick of their meant onset
   */
  public static List<PlannedNote> of(Clip clip, long beat, Map<Long, Long> heardLive) {
    LoopWindow window = clip.window();
    List<PlannedNote> notes =
        new ArrayList<>(
            clip.notes()
                .filter(note -> !note.held() && window.contains(note.meant()))
                .map(note -> planned(note, heardLive))
                .sorted(
                    Comparator.comparingLong(PlannedNote::place)
                        .thenComparingInt(PlannedNote::pitch)
                        .thenComparingLong(PlannedNote::id))
                .toList());
    mergeSamePlace(notes);
    Map<Integer, PlannedNote> nextOfPitch = new HashMap<>();
    for (PlannedNote note : notes) {
      nextOfPitch.putIfAbsent(note.pitch(), note);
    }
    for (int i = notes.size() - 1; i >= 0; i--) {
      PlannedNote note = notes.get(i);
      PlannedNote next = nextOfPitch.put(note.pitch(), note);
      long room = Math.floorMod(next.place() - note.place() - 1, window.length()) + 1;
      notes.set(i, fitted(note, room, clip.ring(), window, beat));
    }
    return List.copyOf(notes);
  }

  private static PlannedNote planned(Note note, Map<Long, Long> heardLive) {
    return new PlannedNote(
        note.id(),
        note.meant(),
        note.length(),
        note.pitch(),
        note.velocity(),
        heardLive.getOrDefault(note.id(), PlannedNote.ANY_TIME));
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
                Math.min(first.after(), second.after())));
      }
    }
  }

  /** A note's length, as far as the next onset of its pitch (its own, if there is no other). */
  private static PlannedNote fitted(
      PlannedNote note, long room, boolean ring, LoopWindow window, long beat) {
    long loop = window.length();
    long length;
    if (!ring) {
      length = Math.min(Math.min(note.length(), room), window.end() - note.place());
    } else if (note.length() < loop || room < loop) {
      length = Math.min(note.length(), room);
    } else {
      length = note.length() < loop + beat ? loop : PlannedNote.DRONE;
    }
    return new PlannedNote(
        note.id(), note.place(), length, note.pitch(), note.velocity(), note.after());
  }
}
