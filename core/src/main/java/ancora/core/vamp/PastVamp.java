package ancora.core.vamp;

import ancora.core.clip.Clip;
import java.util.Optional;

/**
 * What a part sounded before, and left.
 *
 * @param vamp what it was
 * @param clip the clip as it was then
 * @param until the first tick at which it is gone
 * @param letRing whether its notes sound on to their natural end
 * @param stutter the stutter that it was in, or had been in
 */
public record PastVamp(
    Vamp vamp, Clip clip, long until, boolean letRing, Optional<ShortLoop> stutter) {}
