package ancora.core.run;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;

/**
 * A pass of a loop that went round the same way some times: so a passage of an hour is as short as
 * what was different in it.
 *
 * @param from the tick at which the first begins; it may lie before the passage
 * @param length ticks of each
 * @param times how many there are, at least one
 * @param notes of each, by rising place, which counts from where it begins
 */
public record Round(long from, long length, int times, List<RunNote> notes) {

  public Round {
    notes = List.copyOf(notes);
    if (length < 1 || times < 1) {
      throw new IllegalArgumentException(times + " passes of " + length + " ticks");
    }
  }

  /** The passes of a passage in which something was attacked, by rising tick. */
  public static List<Round> fold(Passage passage) {
    long length = passage.window().length();
    TreeMap<Long, List<RunNote>> passes = new TreeMap<>();
    for (RunNote note : passage.notes()) {
      long tick = passage.from() + note.place();
      long pass = Math.floorDiv(tick - passage.phase(), length);
      long begins = passage.phase() + pass * length;
      passes.computeIfAbsent(pass, p -> new ArrayList<>()).add(note.later(passage.from() - begins));
    }
    List<Round> rounds = new ArrayList<>();
    passes.forEach(
        (pass, notes) -> {
          long begins = passage.phase() + pass * length;
          Round last = rounds.isEmpty() ? null : rounds.get(rounds.size() - 1);
          if (last != null
              && last.from + last.times * length == begins
              && last.notes.equals(notes)) {
            rounds.set(rounds.size() - 1, new Round(last.from, length, last.times + 1, notes));
          } else {
            rounds.add(new Round(begins, length, 1, notes));
          }
        });
    return rounds;
  }

  /** The notes of a passage, by rising place; the inverse of {@link #fold}. */
  public static List<RunNote> unfold(List<Round> rounds, long passageFrom) {
    List<RunNote> notes = new ArrayList<>();
    for (Round round : rounds) {
      for (int pass = 0; pass < round.times; pass++) {
        long later = round.from + pass * round.length - passageFrom;
        round.notes.forEach(note -> notes.add(note.later(later)));
      }
    }
    return notes;
  }
}
