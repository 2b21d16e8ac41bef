package ancora.core.show;

/** Which lengths a loop may have when it closes, in units. */
public enum LengthRule {
  ANY("any length"),
  DOUBLING("1, 2, 4, 8 …"),
  OF_THE_PARTS_FIRST("multiples of the part's first loop"),
  OF_THE_SHOWS_FIRST("multiples of the show's first loop");

  private final String words;

  LengthRule(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }
}
