package ancora.core.engine;

import ancora.core.clip.ClipId;
import ancora.core.clip.LoopWindow;
import ancora.core.record.PassLog;

/**
 * A clip sounding, or about to.
 *
 * @param clip the clip; while a first recording is closing it is not on the shelf yet
 * @param phase a tick at which the window's start falls
 * @param from the tick at which it enters
 * @param passes what its passes have brought
 */
public record Vamp(ClipId clip, long phase, long from, PassLog passes) {

  public Vamp withPasses(PassLog log) {
    return new Vamp(clip, phase, from, log);
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
