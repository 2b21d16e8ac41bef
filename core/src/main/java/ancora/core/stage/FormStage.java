package ancora.core.stage;

import ancora.core.show.SectionId;
import java.util.Optional;

/**
 * Where a performance is in its form.
 *
 * @param now the section that was entered last, if any
 * @param since the tick at which it was entered
 * @param next the section that is cued
 */
public record FormStage(Optional<SectionId> now, long since, Optional<Next> next) {

  /** Nowhere in the form. */
  public static final FormStage NOWHERE = new FormStage(Optional.empty(), 0, Optional.empty());

  /**
   * A section that is cued.
   *
   * @param section which
   * @param at the tick at which it enters
   */
  public record Next(SectionId section, long at) {}

  public FormStage withNext(Optional<Next> newNext) {
    return new FormStage(now, since, newNext);
  }
}
