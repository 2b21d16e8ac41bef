package ancora.core.vamp;

import ancora.core.Refusal;
import ancora.core.clip.Clip;
import ancora.core.clip.ClipId;
import ancora.core.clip.Ids;
import ancora.core.clip.LoopWindow;
import ancora.core.clip.Reshaping;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.OptionalLong;

/**
 * Another window that a sounding clip is to have.
 *
 * @param at the tick at which it takes effect
 * @param reshapings what leads to it, in order
 * @param asked the instant at which the last of them was asked for
 * @param beside clips of the part that do not sound, and get another window in the same step
 */
public record WindowChange(long at, List<Reshaping> reshapings, long asked, List<Beside> beside) {

  public WindowChange {
    reshapings = List.copyOf(reshapings);
    beside = List.copyOf(beside);
  }

  /** What a clip on the shelf is to have besides. */
  public record Beside(ClipId clip, Reshaping reshaping) {}

  /** A change of one clip. */
  public WindowChange(long at, List<Reshaping> reshapings, long asked) {
    this(at, reshapings, asked, List.of());
  }

  public WindowChange and(Reshaping reshaping, long stamp) {
    List<Reshaping> next = new ArrayList<>(reshapings);
    next.add(reshaping);
    return new WindowChange(at, next, stamp, beside);
  }

  /** This change, and the same of clips that do not sound. */
  public WindowChange with(Collection<ClipId> others, Reshaping reshaping) {
    List<Beside> all = new ArrayList<>(beside);
    others.forEach(other -> all.add(new Beside(other, reshaping)));
    return new WindowChange(at, reshapings, asked, all);
  }

  /**
   * The clip after it. What cannot be by the time it comes, since more was recorded meanwhile, is
   * left out.
   */
  public Clip of(Clip clip, long nextId) {
    Clip next = clip;
    for (Reshaping reshaping : reshapings) {
      next = changed(next, reshaping, nextId);
    }
    return next;
  }

  /** A clip beside it after it, likewise. */
  public static Clip of(Beside beside, Clip clip, long nextId) {
    return changed(clip, beside.reshaping(), nextId);
  }

  private static Clip changed(Clip clip, Reshaping reshaping, long nextId) {
    try {
      return reshaping.apply(clip, Ids.after(clip, nextId));
    } catch (Refusal tooMuch) {
      return clip;
    }
  }

  /**
   * Where the changed clip then stands. A window that was on before, or that begins where a longer
   * one began, is in step with that. Else a position inside the new window goes on; one outside
   * goes on where it falls when the new window is counted round.
   */
  public Vamp of(Vamp vamp, Clip clip, Clip changed) {
    return standing(vamp, clip, changed, at);
  }

  /** Where a clip stands that has another window from a tick on. */
  public static Vamp standing(Vamp stood, Clip clip, Clip changed, long at) {
    Vamp vamp = stood.in(clip.window()).restless(at);
    LoopWindow window = changed.window();
    OptionalLong before = vamp.with(clip.window()).phaseOf(window);
    long place = vamp.in(clip.window()).placeAt(at);
    long phase = before.orElse(at - (window.wrap(place) - window.start()));
    return vamp.with(clip.window())
        .withFrom(at, Vamp.Entry.inStep(false))
        .withPhase(window.equals(clip.window()) ? vamp.phase() : phase);
  }
}
