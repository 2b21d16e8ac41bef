package ancora.core.clip;

/**
 * The stretch of a clip's material that loops.
 *
 * @param start W: its first tick on the material's axis, whose tick 0 is a bar line
 * @param length N: ticks, at least one
 */
public record LoopWindow(long start, long length) {

  public LoopWindow {
    if (length < 1) {
      throw new IllegalArgumentException("a window of " + length + " ticks");
    }
  }

  /** The first tick after the window. */
  public long end() {
    return start + length;
  }

  public boolean contains(long tick) {
    return tick >= start && tick < end();
  }

  /** The place in the window that a tick falls on when the material goes round. */
  public long wrap(long tick) {
    return start + Math.floorMod(tick - start, length);
  }
}
