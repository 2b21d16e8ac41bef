package ancora.core.engine;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.record.PassLog;

/**
 * A clip sounding, or about to.
 *
 * @param clip the clip
 * @param phase a tick at which the window's start falls
 * @param from the tick at which it enters
 * @param entry how it enters there
 * @param passes what its passes have brought
 */
public record Vamp(ClipId clip, long phase, long from, Entry entry, PassLog passes) {

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

  /** A clip that enters on its boundary with nothing recorded in it yet. */
  public static Vamp of(ClipId clip, long phase, long from) {
    return new Vamp(clip, phase, from, Entry.PLAIN, PassLog.EMPTY);
  }

  public Vamp withPasses(PassLog log) {
    return new Vamp(clip, phase, from, entry, log);
  }

  public Vamp withEntry(Entry newEntry) {
    return new Vamp(clip, phase, from, newEntry, passes);
  }

  /** The pass that a tick falls in; the one that begins at the phase is 0. */
  public long passAt(long tick, LoopWindow window) {
    return Math.floorDiv(tick - phase, window.length());
  }

  /** The place in the window that sounds at a tick. */
  public long placeAt(long tick, LoopWindow window) {
    return window.wrap(window.start() + tick - phase);
  }
}
