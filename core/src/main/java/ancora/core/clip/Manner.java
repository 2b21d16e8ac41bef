package ancora.core.clip;

import ancora.core.Refusal;
import ancora.core.time.EntryUnit;
import io.soabase.recordbuilder.core.RecordBuilder;
import java.util.Optional;

/**
 * How a clip comes in and goes round.
 *
 * @param ring whether notes sound on across the line to their natural end; else they are cut there
 * @param pickup ticks of material before the window that sound before the entry point, 0 for none
 * @param entersOn the boundary on which it enters; empty for the show's own
 * @param comesIn at which place of its loop it enters
 * @param underWay whether notes that have begun before the place of entry are attacked there, with
 *     the rest of their length
 */
@RecordBuilder
public record Manner(
    boolean ring, long pickup, Optional<EntryUnit> entersOn, ComesIn comesIn, boolean underWay)
    implements MannerBuilder.With {

  /** Rings over, enters by itself on the show's boundary, without pickup. */
  public static final Manner DEFAULT =
      new Manner(true, 0, Optional.empty(), ComesIn.BY_ITSELF, true);

  public Manner {
    Refusal.unless(pickup >= 0, "A pickup is not shorter than nothing: use 0 for none.");
  }

  public Manner withEntersOn(EntryUnit unit) {
    return new Manner(ring, pickup, Optional.of(unit), comesIn, underWay);
  }
}
