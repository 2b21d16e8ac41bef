package ancora.core.show;

import ancora.core.Names;
import ancora.core.Refusal;
import ancora.core.clip.ClipId;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Collections;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A named line-up of clips, at most one for each part.
 *
 * @param id within the show
 * @param letter a boxed capital: A, B, C …, after Z AA, AB …
 * @param name as the performer calls it; empty if it has no name but its letter
 * @param lineUp the clip of each part that is named; empty for one that goes tacet
 * @param othersTacet whether parts that are not named go tacet; else they keep on
 * @param goesOn where the form goes by itself; empty if it waits
 */
@RecordBuilder
public record Section(
    SectionId id,
    String letter,
    String name,
    Map<PartId, Optional<ClipId>> lineUp,
    boolean othersTacet,
    Optional<GoesOn> goesOn)
    implements SectionBuilder.With {

  /** A form has no more sections than this. */
  public static final int MOST = 256;

  public Section {
    name = Names.checkedOrEmpty("section", name);
    lineUp = Collections.unmodifiableMap(new TreeMap<>(lineUp));
  }

  /**
   * After some bars, go to a section.
   *
   * @param bars 1 to 256
   * @param to the section
   */
  public record GoesOn(int bars, SectionId to) {
    public GoesOn {
      Refusal.unless(bars >= 1 && bars <= 256, "A section lasts 1 to 256 bars before it goes on.");
    }
  }

  /** This section without a part. */
  public Section without(PartId part) {
    Map<PartId, Optional<ClipId>> next = new HashMap<>(lineUp);
    next.remove(part);
    return withLineUp(next);
  }

  /** This section with a part tacet where it had a clip that is gone. */
  public Section without(PartId part, ClipId clip) {
    if (!lineUp.getOrDefault(part, Optional.empty()).equals(Optional.of(clip))) {
      return this;
    }
    Map<PartId, Optional<ClipId>> next = new HashMap<>(lineUp);
    next.put(part, Optional.empty());
    return withLineUp(next);
  }
}
