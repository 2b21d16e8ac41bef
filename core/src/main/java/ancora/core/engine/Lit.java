package ancora.core.engine;

/** What a control that can light is told that its command would find. */
public enum Lit {
  /** Nothing is there, or it can do nothing now. */
  NOTHING,
  /** It is there. */
  READY,
  /** It sounds. */
  SOUNDING,
  /** It is to come. */
  CUED,
  /** It is recorded. */
  RECORDING,
  /** It is switched on. */
  ON
}
