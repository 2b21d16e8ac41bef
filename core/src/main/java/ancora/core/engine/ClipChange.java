package ancora.core.engine;

import ancora.core.clip.Clip;
import ancora.core.clip.Reshaping;

/**
 * What is to become of a clip that sounds.
 *
 * @param at the tick at which it takes effect
 * @param reshaping what becomes of the clip
 */
public record ClipChange(long at, Reshaping reshaping) {

  /**
   * The clip after the change, and where it then stands.
   *
   * @param clip the clip
   * @param vamp what it sounds as from there on
   */
  record Changed(Clip clip, Vamp vamp) {}

  /**
   * Rule 13: a position inside the new window goes on; one outside goes on where it falls when the
   * new window is counted round. A switch of takes attacks what is under way; a moved window does
   * not, since what sounds goes on to its natural end.
   */
  Changed of(Vamp vamp, Clip clip, long nextId) {
    Clip changed = reshaping.apply(clip, nextId);
    long place = vamp.placeAt(at, clip.window());
    long wrapped = changed.window().wrap(place);
    long phase = at - (wrapped - changed.window().start());
    boolean attack = reshaping instanceof Reshaping.ToTake;
    return new Changed(
        changed,
        new Vamp(
            vamp.clip(),
            phase,
            at,
            new Vamp.Entry(0, attack, false),
            vamp.passes().afterWindowChange()));
  }
}
