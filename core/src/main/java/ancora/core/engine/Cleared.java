package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.show.PartId;
import java.util.Optional;

/**
 * A clip that was cleared and can be brought back.
 *
 * @param part the part whose clip it was
 * @param clip the clip, with all its layers
 * @param vamp what it sounded as, as long as the transport has not stopped since
 */
public record Cleared(PartId part, Clip clip, Optional<Vamp> vamp) {}
