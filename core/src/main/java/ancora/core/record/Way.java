package ancora.core.record;

/** What becomes of what was there while something is recorded onto a loop that sounds. */
public enum Way {
  /** It stays. */
  ADD("overdub"),
  /** It is taken out as it is passed. */
  REPLACE("replace"),
  /** It is taken out in a range as that is passed, and only what is played there is recorded. */
  PUNCH("punch"),
  /** It is a take, silent meanwhile; each pass makes another. */
  TAKES("takes");

  private final String words;

  Way(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }

  /** Whether old notes are taken out as they are passed. */
  public boolean takesOut() {
    return this == REPLACE || this == PUNCH;
  }
}
