package ancora.core.engine;

import ancora.core.clip.ClipId;
import java.util.Optional;

/**
 * What comes next in a part.
 *
 * @param at the tick at which it takes effect
 * @param clip the clip that enters there; empty if the part goes tacet
 * @param phase a tick at which the window's start falls
 * @param entry how the clip enters
 */
public record Cue(long at, Optional<ClipId> clip, long phase, Vamp.Entry entry) {

  static Cue tacet(long at) {
    return new Cue(at, Optional.empty(), at, Vamp.Entry.PLAIN);
  }
}
