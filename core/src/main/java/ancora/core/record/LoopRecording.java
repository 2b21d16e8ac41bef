package ancora.core.record;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Take;
import ancora.core.note.Note;
import ancora.core.time.Ticks;
import ancora.core.vamp.Loop;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * A stretch in which what is played is recorded onto a loop that sounds.
 *
 * @param clip the clip
 * @param way what becomes of what was there
 * @param take the take that was heard when it was switched on
 * @param old layers of that take with a lower number were there before
 * @param from the first tick whose notes are taken in
 * @param since the tick from which it counts: the line, if the press was forgiven for it
 * @param line L: the first line at or after {@code since}
 * @param until the first tick after it; {@link Ticks#OPEN} while it goes on
 * @param range of a punch: its places on the material's axis
 * @param edge in replace and punch, so many ticks before a line a note counts for it that lies as
 *     it was played
 * @param closed C: the tick at which the first recording closed that it follows
 * @param fromNothing whether the first recording too is one of its takes
 * @param outFrom the first tick from which old notes are taken out as they are passed: {@code
 *     since} or later
 * @param laps what it has brought, by rising begin
 * @param asked the instant at which it was asked for, as long as it is still to begin at the end of
 *     a run-up
 * @param dropped takes that were dropped, the last at the end: they can be brought back
 */
@RecordBuilder
public record LoopRecording(
    ClipId clip,
    Way way,
    int take,
    int old,
    long from,
    long since,
    long line,
    long until,
    Optional<Range> range,
    long edge,
    OptionalLong closed,
    boolean fromNothing,
    long outFrom,
    List<Lap> laps,
    OptionalLong asked,
    List<Dropped> dropped)
    implements LoopRecordingBuilder.With {

  public LoopRecording {
    outFrom = Math.max(outFrom, since);
    laps = List.copyOf(laps);
    dropped = List.copyOf(dropped);
  }

  /** A take that was dropped while takes go on, and the pass in which it was played. */
  public record Dropped(Lap lap, Take take) {}

  /**
   * A range of places.
   *
   * @param from the first
   * @param to the first after it
   */
  public record Range(long from, long to) {
    public boolean contains(long place) {
      return place >= from && place < to;
    }
  }

  public boolean isOpen() {
    return until == Ticks.OPEN;
  }

  /** Whether it is open, and of a way. */
  public boolean isOpen(Way which) {
    return isOpen() && way == which;
  }

  /** Whether it was on at a tick, in a way; what is still to begin is on. */
  public boolean wasOn(Way which, long tick) {
    return way == which && (tick >= since || asked.isPresent()) && tick < until;
  }

  /** Whether what is played at a tick is recorded. */
  public boolean covers(long played) {
    return played >= from && played < until;
  }

  /** Whether what happens at a place of the material is recorded. */
  public boolean takesAt(long place) {
    return range.isEmpty() || range.get().contains(place);
  }

  /** How much before a line a note counts for it. */
  public long edgeOf(Note note) {
    return note.isAsPlayed() ? edge : 0;
  }

  /** Whether a note of the material is in the stretch that is replaced. */
  public boolean takes(Note note, LoopWindow window) {
    return takesAt(window.wrap(note.meant() + edgeOf(note)));
  }

  /** Whether nothing is recorded at a tick, so as to get ready. */
  public boolean rests(long tick, Loop loop) {
    return closed.isPresent() && tick >= closed.getAsLong() && tick < since || loop.restsAt(tick);
  }

  /**
   * The first tick of the pass that a tick belongs to.
   *
   * @param loop the loop that is recorded onto, as it went round then
   */
  public long passBegin(long tick, Loop loop) {
    if (closed.isPresent() && tick < closed.getAsLong()) {
      return from;
    }
    long first = closed.isPresent() ? since : from;
    return Math.max(loop.lineBy(tick), first);
  }

  /** The first tick after the pass that a tick belongs to. */
  public long passEnd(long tick, Loop loop) {
    return closed.isPresent() && tick < closed.getAsLong()
        ? closed.getAsLong()
        : loop.lineBy(tick) + loop.length();
  }

  /** The first tick of the pass that begins next after a tick. */
  public long nextBegin(long tick, Loop loop) {
    return closed.isPresent() && tick < since ? since : loop.lineAfter(loop.lineBy(tick));
  }

  /** The lap of a tick, which may not have begun yet. */
  public Lap lapAt(long tick, Loop loop) {
    long begin = passBegin(tick, loop);
    // what is early for the first line belongs to the lap that begins there
    long by = Math.max(tick, begin);
    for (int i = laps.size() - 1; i >= 0; i--) {
      Lap lap = laps.get(i);
      if (lap.begin() <= by) {
        return lap.begin() >= begin ? lap : Lap.at(begin);
      }
    }
    return Lap.at(begin);
  }

  /** This recording with a lap in it, or in the place of the one that begins there. */
  public LoopRecording with(Lap lap) {
    List<Lap> next = new ArrayList<>(laps);
    int place = next.size();
    while (place > 0 && next.get(place - 1).begin() > lap.begin()) {
      place--;
    }
    if (place > 0 && next.get(place - 1).begin() == lap.begin()) {
      next.set(place - 1, lap);
    } else {
      next.add(place, lap);
    }
    return withLaps(next);
  }

  public boolean hasLapAt(long begin) {
    return lapOf(begin).isPresent();
  }

  /** The lap that begins at a tick. */
  public Optional<Lap> lapOf(long begin) {
    for (int i = laps.size() - 1; i >= 0 && laps.get(i).begin() >= begin; i--) {
      if (laps.get(i).begin() == begin) {
        return Optional.of(laps.get(i));
      }
    }
    return Optional.empty();
  }

  /** The laps that are under way: those with a layer that is no step yet. */
  public List<Lap> underWay() {
    List<Lap> found = new ArrayList<>();
    for (Lap lap : laps) {
      if (lap.hasLayer() && !lap.ended()) {
        found.add(lap);
      }
    }
    return found;
  }

  /** Whether a layer of a clip is that of a lap under way. */
  public boolean isUnderWay(ClipId of, int number, int layer) {
    return clip.equals(of)
        && underWay().stream().anyMatch(lap -> lap.take() == number && lap.layer() == layer);
  }

  /** Whether a lap is the first recording that it follows. */
  public boolean isFirst(Lap lap) {
    return closed.isPresent() && lap.begin() == from;
  }

  /** The laps in which something may have been played in some ticks before another, or since. */
  public List<Lap> lapsNear(long tick, long ticks) {
    int first = laps.size();
    while (first > 0 && (first == laps.size() || laps.get(first).begin() > tick - ticks)) {
      first--;
    }
    return laps.subList(first, laps.size());
  }

  /** This recording without laps that were over before a tick: nothing comes to them any more. */
  public LoopRecording withoutLapsBefore(long tick) {
    int gone = 0;
    while (gone + 1 < laps.size() && laps.get(gone).ended() && laps.get(gone + 1).begin() <= tick) {
      gone++;
    }
    return gone == 0 ? this : withLaps(laps.subList(gone, laps.size()));
  }

  /** What comes at a tick or later makes another layer. */
  public LoopRecording cut(long tick) {
    return lapOf(tick).filter(lap -> !lap.hasLayer()).isPresent() ? this : with(Lap.at(tick));
  }

  /** It ends at a tick, be it begun or not. */
  @Override
  public LoopRecording withUntil(long tick) {
    return with(next -> next.until(tick).asked(OptionalLong.empty()));
  }

  /** It was asked for at an instant, and is still to begin. */
  public LoopRecording toCome(long askedAt) {
    return withAsked(OptionalLong.of(askedAt));
  }

  /** It is no longer to come. */
  public LoopRecording begun() {
    return withAsked(OptionalLong.empty());
  }

  /** This recording without a take that it has brought; it is remembered while it goes on. */
  public LoopRecording dropping(Lap lap, Take takes) {
    List<Dropped> all = new ArrayList<>(dropped);
    all.add(new Dropped(lap, takes));
    return with(Lap.at(lap.begin())).withDropped(all);
  }

  /** This recording with the take that was dropped last again, in its pass if that is free. */
  public LoopRecording restored() {
    Dropped last = dropped.get(dropped.size() - 1);
    LoopRecording next = withDropped(dropped.subList(0, dropped.size() - 1));
    List<Lap> free =
        laps.stream().filter(lap -> lap.hasLayer() || lap.begin() <= last.lap().begin()).toList();
    boolean taken = lapOf(last.lap().begin()).filter(Lap::hasLayer).isPresent();
    return taken ? next : next.withLaps(free).with(last.lap());
  }

  /** The first tick after a lap, as far as is known. */
  public long lapEnd(Lap lap, Loop loop) {
    long end = passEnd(lap.begin(), loop);
    for (int i = laps.size() - 1; i >= 0 && laps.get(i).begin() > lap.begin(); i--) {
      end = Math.min(end, laps.get(i).begin());
    }
    return end;
  }

  /** Whether a lap is a whole pass, with nothing of it before, after or between mends. */
  public boolean isWhole(Lap lap, Loop loop) {
    return lap.begin() == loop.lineBy(lap.begin())
        && lap.begin() == passBegin(lap.begin(), loop)
        && Math.min(lapEnd(lap, loop), until) - lap.begin() >= loop.length();
  }
}
