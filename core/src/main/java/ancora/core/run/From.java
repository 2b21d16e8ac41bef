package ancora.core.run;

import ancora.core.show.Balance;
import ancora.core.sound.Sound;

/** What holds in a run from a tick on. */
public sealed interface From {

  /** The first tick at which it holds; what was there from the beginning has the run's first. */
  long tick();

  /** A part's sound. */
  record OfSound(long tick, Sound sound) implements From {}

  /**
   * How a part stands in the whole.
   *
   * @param heard whether it is heard: it is not muted, and no others are solo
   */
  record OfBalance(long tick, Balance balance, boolean heard) implements From {

    /** How loud the part is heard, as a factor of amplitude. */
    public double gain() {
      return heard ? balance.gain() : 0;
    }
  }

  /**
   * A section that was entered.
   *
   * @param letter its boxed capital
   * @param name empty if it has none
   */
  record OfSection(long tick, String letter, String name) implements From {}
}
