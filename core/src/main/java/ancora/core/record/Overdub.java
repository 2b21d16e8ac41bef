package ancora.core.record;

import ancora.core.clip.ClipId;
import ancora.core.time.Ticks;

/**
 * A stretch in which what is played is added to a clip.
 *
 * @param clip the clip
 * @param from the first tick of the stretch; before {@link #pressed} by the forgiveness
 * @param until the first tick after it; {@link Ticks#OPEN} while it goes on
 * @param pressed the tick at which it was switched on
 * @param layersBefore how many layers the clip had when it was switched on
 */
public record Overdub(ClipId clip, long from, long until, long pressed, int layersBefore) {

  public boolean covers(long tick) {
    return tick >= from && tick < until;
  }

  public Overdub withUntil(long tick) {
    return new Overdub(clip, from, tick, pressed, layersBefore);
  }
}
