package ancora.core.record;

/** What a first recording goes on with once it is closed. */
public enum AfterClosing {
  /** The loop goes round. */
  VAMP,
  /** What is played is added. */
  OVERDUB,
  /** Each further pass is a take. */
  TAKES
}
