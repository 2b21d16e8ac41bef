package ancora.core.vamp;

import ancora.core.clip.LoopWindow;
import java.util.Optional;

/**
 * A clip that goes round: which place of its window sounds at which tick of the transport.
 *
 * @param vamp where it stands
 * @param window the stretch that loops
 */
public record Loop(Vamp vamp, LoopWindow window) {

  /** Ticks from a line to the end of its pass; a rest may follow. */
  public long length() {
    return window.length();
  }

  /** This, as it stands at a tick, resting no more. */
  Vamp restless(long tick) {
    return vamp.withPhase(lineBy(tick)).withBreather(Optional.empty());
  }

  /** Whether it rests at a tick, after a pass. */
  public boolean restsAt(long tick) {
    return breatherOn(tick).isPresent() && tick - lineBy(tick) >= window.length();
  }

  private Optional<Breather> breatherOn(long tick) {
    return vamp.breather().flatMap(b -> b.at(tick)).filter(b -> b.isOn(tick));
  }

  /** The place in the window that sounds at a tick. */
  public long placeAt(long tick) {
    return window.wrap(window.start() + tick - lineBy(tick));
  }

  /** The first line at a tick or after it. */
  public long lineFrom(long tick) {
    long line = lineBy(tick);
    return line == tick ? line : lineAfter(line);
  }

  /** The line that comes after a line. */
  public long lineAfter(long line) {
    return line + window.length() + breatherOn(line).map(Breather::ticks).orElse(0L);
  }

  /** The last line at a tick or before it: that of the pass which a tick is in, or comes after. */
  public long lineBy(long tick) {
    long length = window.length();
    Optional<Breather> rests = vamp.breather().flatMap(b -> b.at(tick));
    if (rests.isEmpty()) {
      return tick - Math.floorMod(tick - vamp.phase(), length);
    }
    return rests.get().isOn(tick)
        ? tick - Math.floorMod(tick - rests.get().from(), length + rests.get().ticks())
        : tick - Math.floorMod(tick - rests.get().until(), length);
  }

  /** The first tick from one on at which a place of the window sounds. */
  public long tickOf(long place, long from) {
    long offset = Math.floorMod(place - window.start(), window.length());
    for (long line = lineBy(from); ; line = lineAfter(line)) {
      long end = vamp.breather().isPresent() ? soundsUntil(line) : line + window.length();
      for (long tick = line + offset; tick < end; tick += window.length()) {
        if (tick >= from) {
          return tick;
        }
      }
    }
  }

  /** The first tick from one on at which a place of the window is passed, and not in a rest. */
  public long passed(long place, long from) {
    long offset = Math.floorMod(place - window.start(), window.length());
    long line = lineBy(from);
    return line + offset >= from ? line + offset : lineAfter(line) + offset;
  }

  /** The last tick before one at which a place of the window sounded. */
  public long tickBefore(long place, long before) {
    long offset = Math.floorMod(place - window.start(), window.length());
    for (long line = lineBy(before); ; line = lineBy(line - 1)) {
      long last = Math.min(before, vamp.breather().isPresent() ? soundsUntil(line) : before);
      long rounds = Math.floorDiv(last - 1 - line - offset, window.length());
      if (rounds >= 0) {
        return line + offset + rounds * window.length();
      }
    }
  }

  /** Where a loop that sounds through its rests comes to the next line, and others to their end. */
  private long soundsUntil(long line) {
    boolean through = breatherOn(line).filter(b -> b.soundsThrough(window.length())).isPresent();
    return through ? lineAfter(line) : line + window.length();
  }
}
