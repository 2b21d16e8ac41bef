package ancora.core.plan;

/**
 * A note as the player sounds it once a pass.
 *
 * @param id its note's id
 * @param place tick of its onset on the material's axis, in the window
 * @param length ticks from attack to end; {@link #DRONE} if it sounds until the clip leaves
 * @param pitch 0 to 127; {@link ancora.core.note.Note#PEDAL} for the sustain pedal
 * @param velocity 1 to 127
 * @param silence the ticks at which it is not attacked though its place comes round
 * @param tied whether it is not attacked where its pitch sounds already: it sounds on then
 */
public record PlannedNote(
    long id, long place, long length, int pitch, int velocity, Silence silence, boolean tied) {

  /** The length of a note that is attacked once and sounds until the clip leaves. */
  public static final long DRONE = -1;

  /** Whether it may be attacked at a tick of the transport. */
  public boolean soundsAt(long tick) {
    return !silence.isAt(tick);
  }

  /** This note, no longer than some ticks. */
  public PlannedNote within(long ticks) {
    return withLength(length == DRONE ? ticks : Math.min(length, ticks));
  }

  /** The same once more, so many ticks later in the round: another note, which is no layer's. */
  public PlannedNote again(long ticks) {
    return new PlannedNote(
        -id - (ticks << 32), place + ticks, length, pitch, velocity, silence, tied);
  }

  PlannedNote withLength(long ticks) {
    return new PlannedNote(id, place, ticks, pitch, velocity, silence, tied);
  }
}
