package ancora.core.stage;

/**
 * A press that only said what it would silence: pressed again soon, it does it.
 *
 * @param of what was pressed
 * @param stamp when
 */
public record FirstPress(Of of, long stamp) {

  /** So soon the second press comes, in microseconds. */
  public static final long WITHIN = 2_000_000;

  /** Presses that can silence a loop. */
  public enum Of {
    UNDO,
    CLEAR,
    PEEL
  }

  /** The last instant at which the second press comes soon enough, in microseconds. */
  public long until() {
    return stamp + WITHIN;
  }

  /** Whether a press is the second of two. */
  public boolean before(Of press, long at) {
    return of == press && at >= stamp && at - stamp <= WITHIN;
  }
}
