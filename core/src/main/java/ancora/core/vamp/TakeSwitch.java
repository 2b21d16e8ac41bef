package ancora.core.vamp;

import ancora.core.clip.Clip;

/**
 * Another take that is to be heard of a sounding clip.
 *
 * @param at the tick at which it takes effect
 * @param take its number
 * @param asked the instant at which it was asked for
 * @param forgiven whether the press came late for the tick and was forgiven
 */
public record TakeSwitch(long at, int take, long asked, boolean forgiven) {

  /** The same place of the loop sounds on; what is under way there is attacked. */
  public Vamp of(Vamp vamp, Clip clip) {
    Vamp.Entry entry = Vamp.Entry.inStep(clip.manner().underWay());
    return vamp.withFrom(at, forgiven ? entry.of(take) : entry);
  }
}
