package ancora.core.record;

import ancora.core.note.InputGrid;
import ancora.core.time.Forgiveness;
import ancora.core.time.Meter;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What was played last, as hindsight remembers it (rule 15): back to the last stretch of a bar or
 * more in which nothing sounded.
 *
 * @param from the bar line at or before its first note; an early note counts for the one after it
 * @param until the bar line after its last onset
 * @param notes in the order of their onsets, and with them the pedal that was down
 */
public record Phrase(long from, long until, List<Played> notes) {

  /** No more bars than these are kept, the newest. */
  public static final int MOST_BARS = 16;

  public Phrase {
    notes = List.copyOf(notes);
  }

  /**
   * The last phrase; empty if nothing was played since the transport started.
   *
   * @param memory what was played
   * @param now the present tick: keys that are down sound until then
   */
  public static Optional<Phrase> last(
      Hindsight memory,
      InputGrid grid,
      Forgiveness forgiveness,
      Meter meter,
      TempoMap map,
      long now) {
    long bar = meter.barTicks();
    long early = EarlyNotes.toleranceAtStart(grid, 0, meter, map);
    // what lies further back cannot be kept, whatever was played then
    double since = map.microsOf(now - (MOST_BARS + 2) * bar);
    List<Played> all =
        memory.since(since).stream()
            .filter(p -> p.plain() && map.tickAt(p.onMicros()) >= -early)
            .sorted(Comparator.comparingLong(Played::onMicros))
            .toList();
    List<Played> played = all.stream().filter(p -> !p.isPedal()).toList();
    List<Played> phrase =
        new ArrayList<>(played.subList(beginOfLast(played, bar, map, now), played.size()));
    if (phrase.isEmpty()) {
      return Optional.empty();
    }
    long first = map.tickAt(phrase.get(0).onMicros());
    long from =
        Ticks.floor(
            first + EarlyNotes.toleranceAtStart(grid, Ticks.ceil(first, bar), meter, map), bar);
    Played landing = phrase.get(phrase.size() - 1);
    long last = map.tickAt(landing.onMicros());
    long line = Ticks.floor(last, bar);
    boolean landed = line > from && forgiveness.covers(line, landing.onMicros(), bar, map);
    if (landed) {
      phrase.removeIf(p -> map.tickAt(p.onMicros()) >= line);
    }
    long until = landed ? line : Math.max(line, from) + bar;
    // the foot neither begins a phrase nor ends one; what it held of this one goes with it
    all.stream().filter(p -> p.isPedal() && reaches(p, from, until, map)).forEach(phrase::add);
    phrase.sort(Comparator.comparingLong(Played::onMicros));
    return Optional.of(new Phrase(Math.max(from, until - MOST_BARS * bar), until, phrase));
  }

  private static boolean reaches(Played pedal, long from, long until, TempoMap map) {
    return map.tickAt(pedal.onMicros()) < until
        && (pedal.isHeld() || map.tickAt(pedal.offMicros()) > from);
  }

  /** The place in the list at which the last phrase begins. */
  private static int beginOfLast(List<Played> played, long bar, TempoMap map, long now) {
    long soundsUntil = Long.MIN_VALUE / 2;
    int begin = 0;
    for (int i = 0; i < played.size(); i++) {
      Played note = played.get(i);
      if (map.tickAt(note.onMicros()) - soundsUntil >= bar) {
        begin = i;
      }
      long off = note.isHeld() ? now : map.tickAt(note.offMicros());
      soundsUntil = Math.max(soundsUntil, off);
    }
    return begin;
  }
}
