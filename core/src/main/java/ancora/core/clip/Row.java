package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.note.ControllerMove;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.List;

/** Takes laid one after another in one longer loop. */
public final class Row {

  private Row() {}

  /**
   * The layer that some takes of a clip make, one after another, each as long as the window; what
   * lies outside the window is left out. Refuses a take that is not there, and what would be too
   * much for a clip.
   *
   * @param numbers of the takes, in the order in which they are laid
   * @param nextId its notes get ids from here on
   */
  public static Layer of(Clip clip, List<Integer> numbers, long nextId) {
    LoopWindow window = clip.window();
    List<Note> notes = new ArrayList<>();
    List<ControllerMove> moves = new ArrayList<>();
    List<Take> takes = numbers.stream().map(clip::take).toList();
    long id = nextId;
    for (int i = 0; i < takes.size(); i++) {
      long later = i * window.length();
      for (Note note : takes.get(i).sounding().toList()) {
        if (window.contains(note.meant())) {
          Note played = note.held() ? note.released(note.length()) : note;
          notes.add(played.withId(id++).meantAt(note.meant() + later));
        }
      }
      takes
          .get(i)
          .soundingMoves()
          .filter(move -> window.contains(move.place()))
          .forEach(m -> moves.add(m.withId(moves.size() + 1L).withPlace(m.place() + later)));
    }
    Refusal.unless(
        notes.size() <= Clip.MOST_NOTES && moves.size() <= Clip.MOST_MOVES,
        "In a row these takes have too many notes: thin them, or delete one.");
    return new Layer(1, notes, moves, List.of(), List.of());
  }
}
