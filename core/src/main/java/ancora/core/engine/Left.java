package ancora.core.engine;

import ancora.core.clip.Clip;

/**
 * What a part sounded before, and left.
 *
 * @param vamp what it was
 * @param clip the clip as it was then
 * @param until the first tick at which it is gone
 * @param letRing whether its notes sound on to their natural end
 */
public record Left(Vamp vamp, Clip clip, long until, boolean letRing) {}
