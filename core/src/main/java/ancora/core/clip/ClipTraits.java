package ancora.core.clip;

import java.util.Objects;
import java.util.Optional;

/**
 * What a clip is called and how it goes, apart from its music.
 *
 * @param letter its letter
 * @param name its name
 * @param window the stretch that loops
 * @param halvedFrom the longest window that it was halved from
 * @param manner how it comes in and goes round
 */
public record ClipTraits(
    String letter, String name, LoopWindow window, Optional<LoopWindow> halvedFrom, Manner manner) {

  public static ClipTraits of(Clip clip) {
    return new ClipTraits(
        clip.letter(), clip.name(), clip.window(), clip.halvedFrom(), clip.manner());
  }

  /** A clip with what differs between some traits and others made so; all else stays. */
  public static Clip changed(Clip clip, ClipTraits before, ClipTraits after) {
    return clip.withLetter(pick(clip.letter(), before.letter, after.letter))
        .withName(pick(clip.name(), before.name, after.name))
        .withWindow(pick(clip.window(), before.window, after.window))
        .withHalvedFrom(pick(clip.halvedFrom(), before.halvedFrom, after.halvedFrom))
        .withManner(pick(clip.manner(), before.manner, after.manner));
  }

  private static <T> T pick(T now, T before, T after) {
    return Objects.equals(before, after) ? now : after;
  }
}
