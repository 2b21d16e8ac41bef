package ancora.core.vamp;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * A clip sounding, or about to.
 *
 * @param clip the clip
 * @param phase a tick at which the window's start falls
 * @param from the tick at which it enters
 * @param entry how it enters there
 * @param heard by note, the tick of the meant onset at which it was heard live: the loop sounds it
 *     only later
 * @param homes windows that were on before, oldest first
 * @param breather how it rests after each pass, if it does
 */
@RecordBuilder
public record Vamp(
    ClipId clip,
    long phase,
    long from,
    Entry entry,
    HeardLive heard,
    List<Home> homes,
    Optional<Breather> breather)
    implements VampBuilder.With {

  /** More windows that were on are not remembered. */
  private static final int MOST_HOMES = 32;

  public Vamp {
    homes = List.copyOf(homes);
  }

  /**
   * How a clip enters.
   *
   * @param pickup ticks of pickup that sound before
   * @param underWay whether notes that have begun before are attacked
   * @param forgiven whether the press came late and was forgiven
   */
  public record Entry(long pickup, boolean underWay, boolean forgiven) {
    /** On its boundary, without pickup. */
    public static final Entry PLAIN = new Entry(0, true, false);
  }

  /**
   * A window that was on.
   *
   * @param window the window
   * @param phase a tick at which its start fell
   */
  public record Home(LoopWindow window, long phase) {}

  /** A clip that enters on its boundary with nothing recorded in it yet. */
  public static Vamp of(ClipId clip, long phase, long from) {
    return new Vamp(clip, phase, from, Entry.PLAIN, HeardLive.NONE, List.of(), Optional.empty());
  }

  /** A note was heard live; those heard before a tick are forgotten, the loop has sounded them. */
  public Vamp hearing(long noteId, long tick, long forget) {
    return withHeard(heard.with(noteId, tick, forget));
  }

  public Vamp withFrom(long tick, Entry newEntry) {
    return new Vamp(clip, phase, tick, newEntry, heard, homes, breather);
  }

  /** This, with the window that is on now remembered. */
  Vamp with(LoopWindow window) {
    List<Home> next = new ArrayList<>(homes);
    next.removeIf(home -> home.window().equals(window));
    next.add(new Home(window, phase));
    return new Vamp(
        clip,
        phase,
        from,
        entry,
        heard,
        next.subList(Math.max(0, next.size() - MOST_HOMES), next.size()),
        breather);
  }

  /**
   * The phase of a window that was on before, the newest first, or of one from the same start that
   * was a multiple as long.
   */
  OptionalLong phaseOf(LoopWindow window) {
    for (int i = homes.size() - 1; i >= 0; i--) {
      if (homes.get(i).window().equals(window)) {
        return OptionalLong.of(homes.get(i).phase());
      }
    }
    for (int i = homes.size() - 1; i >= 0; i--) {
      LoopWindow home = homes.get(i).window();
      if (home.start() == window.start() && home.length() % window.length() == 0) {
        return OptionalLong.of(homes.get(i).phase());
      }
    }
    return OptionalLong.empty();
  }

  /** This, as it stands at a tick, resting no more. */
  Vamp restless(long tick, LoopWindow window) {
    return withPhase(lineBy(tick, window)).withBreather(Optional.empty());
  }

  /** Whether it rests at a tick, after a pass. */
  public boolean restsAt(long tick, LoopWindow window) {
    return breatherOn(tick).isPresent() && tick - lineBy(tick, window) >= window.length();
  }

  private Optional<Breather> breatherOn(long tick) {
    return breather.flatMap(b -> b.at(tick)).filter(b -> b.isOn(tick));
  }

  /** The place in the window that sounds at a tick. */
  public long placeAt(long tick, LoopWindow window) {
    return window.wrap(window.start() + tick - lineBy(tick, window));
  }

  /** The first line at a tick or after it. */
  public long lineFrom(long tick, LoopWindow window) {
    long line = lineBy(tick, window);
    return line == tick ? line : lineAfter(line, window);
  }

  /** The line that comes after a line. */
  public long lineAfter(long line, LoopWindow window) {
    return line + window.length() + breatherOn(line).map(Breather::ticks).orElse(0L);
  }

  /** The last line at a tick or before it: that of the pass which a tick is in, or comes after. */
  public long lineBy(long tick, LoopWindow window) {
    long length = window.length();
    Optional<Breather> rests = breather.flatMap(b -> b.at(tick));
    if (rests.isEmpty()) {
      return tick - Math.floorMod(tick - phase, length);
    }
    return rests.get().isOn(tick)
        ? tick - Math.floorMod(tick - rests.get().from(), length + rests.get().ticks())
        : tick - Math.floorMod(tick - rests.get().until(), length);
  }

  /** The first tick from one on at which a place of the window sounds. */
  public long tickOf(long place, long from, LoopWindow window) {
    long offset = Math.floorMod(place - window.start(), window.length());
    for (long line = lineBy(from, window); ; line = lineAfter(line, window)) {
      long end = breather.isPresent() ? soundsUntil(line, window) : line + window.length();
      for (long tick = line + offset; tick < end; tick += window.length()) {
        if (tick >= from) {
          return tick;
        }
      }
    }
  }

  /** The first tick from one on at which a place of the window is passed, and not in a rest. */
  public long passed(long place, long from, LoopWindow window) {
    long offset = Math.floorMod(place - window.start(), window.length());
    long line = lineBy(from, window);
    return line + offset >= from ? line + offset : lineAfter(line, window) + offset;
  }

  /** The last tick before one at which a place of the window sounded. */
  public long tickBefore(long place, long before, LoopWindow window) {
    long offset = Math.floorMod(place - window.start(), window.length());
    for (long line = lineBy(before, window); ; line = lineBy(line - 1, window)) {
      long last = Math.min(before, breather.isPresent() ? soundsUntil(line, window) : before);
      long rounds = Math.floorDiv(last - 1 - line - offset, window.length());
      if (rounds >= 0) {
        return line + offset + rounds * window.length();
      }
    }
  }

  /** Where a loop that sounds through its rests comes to the next line, and others to their end. */
  private long soundsUntil(long line, LoopWindow window) {
    boolean through = breatherOn(line).filter(b -> b.soundsThrough(window.length())).isPresent();
    return through ? lineAfter(line, window) : line + window.length();
  }
}
