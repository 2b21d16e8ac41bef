package ancora.core.edit;

import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What edits have done to the notes of takes, counted.
 *
 * @param all notes that there were
 * @param came how many came
 * @param went how many went
 * @param moved how many are meant elsewhere, or have another pitch
 * @param farthest by how many ticks at most
 * @param louder how many are louder or softer
 * @param longer how many are longer or shorter
 */
public record Difference(
    int all, int came, int went, int moved, long farthest, int louder, int longer) {

  /** No difference yet. */
  public static final Difference NONE = new Difference(0, 0, 0, 0, 0, 0, 0);

  /** This, and what is different between a take and what it has become. */
  public Difference and(Take before, Take after, LoopWindow window) {
    Map<Long, Note> old = notes(before);
    int cameNow = 0;
    int movedNow = 0;
    long far = farthest;
    int louderNow = 0;
    int longerNow = 0;
    for (Note note : notes(after).values()) {
      Note was = old.remove(note.id());
      if (was == null) {
        cameNow++;
        continue;
      }
      if (was.meant() != note.meant() || was.pitch() != note.pitch()) {
        movedNow++;
        far = Math.max(far, apart(was.meant(), note.meant(), window));
      }
      louderNow += was.velocity() == note.velocity() ? 0 : 1;
      longerNow += was.length() == note.length() ? 0 : 1;
    }
    return new Difference(
        all + notes(before).size(),
        came + cameNow,
        went + old.size(),
        moved + movedNow,
        far,
        louder + louderNow,
        longer + longerNow);
  }

  private static Map<Long, Note> notes(Take take) {
    Map<Long, Note> notes = new HashMap<>();
    take.allLayers().forEach(layer -> layer.notes().forEach(note -> notes.put(note.id(), note)));
    return notes;
  }

  /** Round the circle, the shorter way. */
  private static long apart(long one, long other, LoopWindow window) {
    if (!window.contains(one) || !window.contains(other)) {
      return Math.abs(one - other);
    }
    long on = Math.floorMod(other - one, window.length());
    return Math.min(on, window.length() - on);
  }

  /** Such as "moves 14 of 41 notes by up to 38 ticks"; "changes nothing" if it does nothing. */
  public String words() {
    List<String> said = new ArrayList<>();
    add(said, went, "takes out %s of %s");
    add(said, came, "adds %s to %s");
    if (moved > 0) {
      String by = farthest == 0 ? " in pitch" : " by up to " + farthest + " ticks";
      said.add("moves " + moved + " of " + all + " notes" + by);
    }
    add(said, louder, "changes the velocity of %s of %s");
    add(said, longer, "changes the length of %s of %s");
    return said.isEmpty() ? "changes no notes" : String.join(", ", said);
  }

  private void add(List<String> said, int count, String words) {
    if (count > 0) {
      said.add(words.formatted(count, all) + (said.isEmpty() ? " notes" : ""));
    }
  }
}
