package ancora.core.show;

/** What becomes of a part's notes where a clip of it leaves. */
public enum Leaving {
  /** They end there. */
  CUT,
  /** They sound on to their natural end. */
  LET_RING
}
