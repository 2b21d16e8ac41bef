package ancora.core.record;

import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.show.Part;
import ancora.core.time.Ticks;
import java.util.Optional;

/**
 * A stretch in which what is played is recorded into a clip that sounds.
 *
 * @param clip the clip
 * @param from the first tick of the stretch; before {@link #pressed} by the forgiveness
 * @param until the first tick after it; {@link Ticks#OPEN} while it goes on
 * @param pressed the tick at which it was switched on
 * @param layersBefore how many layers the clip had when it was switched on
 * @param mode what becomes of what was there
 * @param before the clip as it was when it was switched on, where what was there is changed
 * @param breather ticks after each recorded pass in which nothing is recorded; 0 for none
 */
public record Overdub(
    ClipId clip,
    long from,
    long until,
    long pressed,
    int layersBefore,
    Mode mode,
    Optional<Clip> before,
    long breather) {

  /** What becomes of what was there. */
  public sealed interface Mode {}

  /** It stays. */
  public record Adding() implements Mode {}

  /** It is taken out as it is passed. */
  public record Replacing() implements Mode {}

  /**
   * It is taken out in a range as that is passed, and only what is played there is recorded.
   *
   * @param from first place of the range, on the material's axis
   * @param to first place after it
   */
  public record Punching(long from, long to) implements Mode {}

  /** It is a take, silent meanwhile; each pass makes another. */
  public record Taking() implements Mode {}

  /** A stretch in which is added to what is there. */
  public static Overdub adding(ClipId clip, long from, long until, long pressed, int layersBefore) {
    return new Overdub(clip, from, until, pressed, layersBefore, new Adding(), Optional.empty(), 0);
  }

  /** The clip on the shelf of its part, if it is still there. */
  public Optional<Clip> clipOn(Part part) {
    return part.clip(clip);
  }

  public boolean covers(long tick) {
    return tick >= from && tick < until;
  }

  /**
   * Whether what is played at a place of the material is recorded: in a punch, only in its range.
   */
  public boolean takesAt(long place) {
    return !(mode instanceof Punching punch) || place >= punch.from() && place < punch.to();
  }

  public boolean isOpen() {
    return until == Ticks.OPEN;
  }

  public boolean isAdding() {
    return mode instanceof Adding;
  }

  public Overdub withUntil(long tick) {
    return new Overdub(clip, from, tick, pressed, layersBefore, mode, before, breather);
  }

  /** This stretch with a breather after each pass; one of takes lasts on to the next line. */
  public Overdub withBreather(long ticks, long loop) {
    long rest = ticks > 0 && mode instanceof Taking ? Ticks.ceil(ticks, loop) : ticks;
    return new Overdub(clip, from, until, pressed, layersBefore, mode, before, rest);
  }

  /**
   * Whether a tick lies in a breather: after each recorded pass, which lasts as long as the loop,
   * nothing is recorded for a while.
   *
   * @param loop ticks of the loop
   */
  public boolean rests(long tick, long loop) {
    return breather > 0
        && tick >= pressed
        && Math.floorMod(tick - pressed, loop + breather) >= loop;
  }

  /**
   * The pass that a tick belongs to: counted from the phase; with breathers from where recording
   * was switched on, since a pass begins where a breather ends.
   */
  public long passOf(long tick, long phase, long loop) {
    return breather > 0
        ? Math.floorDiv(tick - pressed, loop + breather)
        : Math.floorDiv(tick - phase, loop);
  }
}
