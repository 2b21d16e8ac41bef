package ancora.core.control;

import ancora.core.Refusal;

/**
 * What a control is sent so that it lights, by what its command would find: the colours of a device
 * are the performer's. As the velocity of a note, or the value of a control change (MIDI 1.0), on
 * the control's own channel and number.
 *
 * @param nothing nothing is there
 * @param ready it is there, or stands ready
 * @param sounding it sounds
 * @param cued it is cued; in turn with what it is for a beat, on a device without a lamp that
 *     blinks
 * @param recording it is recorded
 * @param on it is switched on
 */
public record Lamps(int nothing, int ready, int sounding, int cued, int recording, int on) {

  /** Dark, dim, and brighter the more is going on. */
  public static final Lamps USUAL = new Lamps(0, 16, 64, 96, 127, 127);

  private static final int MOST = 127;

  public Lamps {
    for (int value : new int[] {nothing, ready, sounding, cued, recording, on}) {
      Refusal.unless(value >= 0 && value <= MOST, "A lamp is sent 0 to 127.");
    }
  }
}
