package ancora.core.catalogue;

/** What a performer looks for commands under. */
public enum Group {
  RECORD("record"),
  MEND("mend"),
  LOOP("loop"),
  CUE("cue"),
  PART("part"),
  TIME("time"),
  KEEP("keep"),
  HOUSE("house");

  private final String words;

  Group(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }
}
