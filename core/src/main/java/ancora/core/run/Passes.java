package ancora.core.run;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * The notes of a span while it goes round: passes that were alike are kept once, so that an hour of
 * a loop costs what was different in it.
 */
final class Passes {

  /** A pass may still get notes that began in it for as long as the next one goes on. */
  private static final int OPEN = 2;

  static final Comparator<RunNote> BY_PLACE =
      Comparator.comparingLong(RunNote::place).thenComparingInt(RunNote::pitch);

  private final long phase;
  private final long length;
  private final List<Round> rounds = new ArrayList<>();
  private final TreeMap<Long, List<RunNote>> open = new TreeMap<>();
  private final List<RunNote> others = new ArrayList<>();

  /**
   * Of a span that goes round.
   *
   * @param phase a tick at which a pass begins
   * @param length ticks of each
   */
  Passes(long phase, long length) {
    this.phase = phase;
    this.length = length;
  }

  /** Of what does not go round. */
  Passes() {
    this(0, Long.MAX_VALUE);
  }

  /** A note has ended; it began at its place, a tick of the run. */
  void add(RunNote note) {
    long pass = Math.floorDiv(note.place() - phase, length);
    long folded = rounds.isEmpty() ? Long.MIN_VALUE : end(rounds.get(rounds.size() - 1));
    if (note.place() < folded) {
      others.add(note);
      return;
    }
    open.computeIfAbsent(pass, p -> new ArrayList<>()).add(note);
    while (open.size() > OPEN) {
      fold(open.pollFirstEntry());
    }
  }

  private static long end(Round round) {
    return round.from() + round.length() * round.times();
  }

  private void fold(Map.Entry<Long, List<RunNote>> pass) {
    long begins = phase + pass.getKey() * length;
    List<RunNote> notes =
        pass.getValue().stream().map(note -> note.later(-begins)).sorted(BY_PLACE).toList();
    Round last = rounds.isEmpty() ? null : rounds.get(rounds.size() - 1);
    if (last != null && end(last) == begins && last.notes().equals(notes)) {
      rounds.set(rounds.size() - 1, new Round(last.from(), length, last.times() + 1, notes));
    } else {
      rounds.add(new Round(begins, length, 1, notes));
    }
  }

  /** All notes that have ended, by rising place. */
  List<RunNote> notes() {
    List<RunNote> all = new ArrayList<>(Round.unfold(rounds, 0));
    open.values().forEach(all::addAll);
    all.addAll(others);
    all.sort(BY_PLACE);
    return all;
  }

  /** How many notes are kept for them. */
  int kept() {
    return rounds.stream().mapToInt(round -> round.notes().size()).sum()
        + open.values().stream().mapToInt(List::size).sum()
        + others.size();
  }

  boolean isEmpty() {
    return kept() == 0;
  }
}
