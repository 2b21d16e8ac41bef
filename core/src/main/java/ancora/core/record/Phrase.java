package ancora.core.record;

import ancora.core.Refusal;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * A stretch of what was played, as hindsight remembers it (rule 15).
 *
 * @param from the bar line at which it begins; an early note counts for the one after it
 * @param until the bar line at which it ends
 * @param notes in the order of their onsets, and with them the pedal that was down
 * @param moves of controllers in it
 */
public record Phrase(long from, long until, List<Played> notes, List<PlayedMove> moves) {

  /** No more bars than these are kept, the newest. */
  public static final int MOST_BARS = 64;

  public Phrase {
    notes = List.copyOf(notes);
    moves = List.copyOf(moves);
  }

  /** The instant of the last key that went down. */
  public long lastOnset() {
    return notes.stream()
        .filter(note -> !note.isPedal())
        .mapToLong(Played::onMicros)
        .max()
        .orElse(Long.MIN_VALUE);
  }

  /**
   * The newest phrase of a run; empty if nothing was played.
   *
   * @param more how many phrases before it are taken as well, or, negative, let go of; refused
   *     where there are not so many, or where that is more than a clip can be
   */
  public static Optional<Phrase> newest(Hindsight memory, Timing timing, int more) {
    long bar = timing.meter().barTicks();
    Phrasing phrasing = Phrasing.ofRun(timing.map(), bar, timing.now());
    List<Played> keys = played(memory, timing).stream().filter(p -> !p.isPedal()).toList();
    List<Played> newest = phrasing.newest(keys, more);
    Optional<Phrase> phrase = of(newest, memory, timing);
    boolean isCut =
        phrase.filter(p -> lineOf(timing.tick(newest.get(0)), timing) < p.from()).isPresent();
    Refusal.unless(more <= 0 || !isCut, "A clip has %s bars at most.", MOST_BARS);
    return phrase;
  }

  /**
   * A phrase of some keys, on the bars around it; empty where there are none.
   *
   * @param keys in the order of their onsets
   */
  public static Optional<Phrase> of(List<Played> keys, Hindsight memory, Timing timing) {
    if (keys.isEmpty()) {
      return Optional.empty();
    }
    long bar = timing.meter().barTicks();
    List<Played> phrase = new ArrayList<>(keys);
    long from = lineOf(timing.tick(phrase.get(0)), timing);
    Played landing = phrase.get(phrase.size() - 1);
    long line = Ticks.floor(timing.tick(landing), bar);
    boolean landed =
        line > from && timing.forgiveness().covers(line, landing.onMicros(), bar, timing.map());
    if (landed) {
      phrase.removeIf(p -> timing.tick(p) >= line);
    }
    long until = landed ? line : Math.max(line, from) + bar;
    // the foot neither begins a phrase nor ends one; what it held of this one goes with it
    played(memory, timing).stream()
        .filter(p -> p.isPedal() && reaches(p, from, until, timing))
        .forEach(phrase::add);
    phrase.sort(Comparator.comparingLong(Played::onMicros));
    return Optional.of(of(Math.max(from, until - MOST_BARS * bar), until, phrase, memory, timing));
  }

  /**
   * So many bars, the last that have gone by: a line that is to come within the forgiveness counts.
   * Empty if nothing was played in them.
   *
   * @param bars 1 to {@link #MOST_BARS}
   */
  public static Optional<Phrase> bars(Hindsight memory, Timing timing, int bars) {
    long bar = timing.meter().barTicks();
    long soon = timing.map().tickAt(timing.map().microsOf(timing.now()) + forgiven(timing));
    long until = Math.max(bar, Ticks.floor(soon, bar));
    return between(Math.max(0, until - bars * bar), until, memory, timing);
  }

  /** The bars in which a stretch lies; empty if nothing was played in it. */
  public static Optional<Phrase> stretch(
      Hindsight memory, Timing timing, long fromMicros, long untilMicros) {
    long bar = timing.meter().barTicks();
    long from = lineOf(timing.map().tickAt(fromMicros), timing);
    long until = Math.max(from + bar, Ticks.ceil(timing.map().tickAt(untilMicros), bar));
    return between(Math.max(from, until - MOST_BARS * bar), until, memory, timing);
  }

  private static double forgiven(Timing timing) {
    double bar =
        timing.map().microsOf(timing.now() + timing.meter().barTicks())
            - timing.map().microsOf(timing.now());
    return Math.min(timing.forgiveness().micros(), bar / 4);
  }

  private static Optional<Phrase> between(long from, long until, Hindsight memory, Timing timing) {
    List<Played> found =
        played(memory, timing).stream().filter(p -> reaches(p, from, until, timing)).toList();
    return found.stream().allMatch(Played::isPedal)
        ? Optional.empty()
        : Optional.of(of(from, until, found, memory, timing));
  }

  private static Phrase of(
      long from, long until, List<Played> notes, Hindsight memory, Timing timing) {
    double begins = timing.map().microsOf(from);
    double ends = timing.map().microsOf(until);
    List<PlayedMove> moves =
        memory.movesSince(begins).stream()
            .filter(move -> move.micros() < ends && move.micros() < timing.until())
            .toList();
    return new Phrase(from, until, notes, moves);
  }

  /** What counts, in the order of onsets; what lies too far back to be kept is not looked for. */
  private static List<Played> played(Hindsight memory, Timing timing) {
    long bar = timing.meter().barTicks();
    double farthest = timing.map().microsOf(timing.now() - (MOST_BARS + 2) * bar);
    long early = timing.early(0);
    double since = Math.max(farthest, timing.since());
    return memory.since(since).stream()
        .filter(p -> p.plain() && p.onMicros() < timing.until() && timing.tick(p) >= -early)
        .sorted(Comparator.comparingLong(Played::onMicros))
        .toList();
  }

  /** The bar line at or before a tick; one that it is early for comes after it. */
  private static long lineOf(long tick, Timing timing) {
    long bar = timing.meter().barTicks();
    return Ticks.floor(tick + timing.early(Ticks.ceil(tick, bar)), bar);
  }

  private static boolean reaches(Played note, long from, long until, Timing timing) {
    long on = timing.tick(note);
    long early = note.isPedal() ? 0 : timing.early(from);
    boolean sounds = note.isHeld() || timing.map().tickAt(note.offMicros()) > from;
    return on < until && (on >= from - early || sounds);
  }
}
