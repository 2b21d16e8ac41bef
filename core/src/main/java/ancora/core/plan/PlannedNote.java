package ancora.core.plan;

/**
 * A note as the player sounds it once a pass.
 *
 * @param id its note's id
 * @param place tick of its onset on the material's axis, in the window
 * @param length ticks from attack to end; {@link #DRONE} if it sounds until the clip leaves
 * @param pitch 0 to 127
 * @param velocity 1 to 127
 * @param after it sounds only at ticks later than this; {@link #ANY_TIME} if it may sound always
 */
public record PlannedNote(long id, long place, long length, int pitch, int velocity, long after) {

  /** The length of a note that is attacked once and sounds until the clip leaves. */
  public static final long DRONE = -1;

  /** The tick before all others. */
  public static final long ANY_TIME = Long.MIN_VALUE;
}
