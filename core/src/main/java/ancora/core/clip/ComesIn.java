package ancora.core.clip;

import ancora.core.time.EntryUnit;
import ancora.core.time.Meter;

/** At which place of its loop a clip comes in (rule 12). */
public enum ComesIn {
  /** From the top where it is cued by a bar or longer, in step where by less. */
  BY_ITSELF,
  /** At its window's start, where that is in place in the bar. */
  FROM_THE_TOP,
  /** As if it had vamped since it was recorded. */
  IN_STEP;

  /** Whether a clip that is cued by a unit comes in in step. */
  public boolean isInStep(EntryUnit unit, Meter meter) {
    return this == IN_STEP || this == BY_ITSELF && unit.ticks(meter) < meter.barTicks();
  }
}
