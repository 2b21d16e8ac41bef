package ancora.core.file;

import ancora.core.clip.ClipId;
import ancora.core.show.PartId;
import java.util.List;
import java.util.Optional;

/**
 * What is taken over of a part of another show.
 *
 * @param part the part, by its id there
 * @param clips those of its clips that are; none for the part alone
 * @param onto the part whose shelf they go to; a part of its own if empty
 */
public record Wanted(PartId part, List<ClipId> clips, Optional<PartId> onto) {

  public Wanted {
    clips = List.copyOf(clips);
  }
}
