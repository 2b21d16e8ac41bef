package ancora.core.show;

import java.util.function.Predicate;

/** What clips and sections are known by: a to z, then aa, ab …; sections by capitals. */
public final class Letters {

  private static final int IN_THE_ALPHABET = 26;

  private Letters() {}

  /**
   * The first letter that nothing has.
   *
   * @param first the first of the alphabet: 'a' for clips, 'A' for sections
   */
  public static String free(char first, Predicate<String> isTaken) {
    for (int place = 0; ; place++) {
      String candidate = at(place, first);
      if (!isTaken.test(candidate)) {
        return candidate;
      }
    }
  }

  private static String at(int place, char first) {
    char last = (char) (first + place % IN_THE_ALPHABET);
    return place < IN_THE_ALPHABET
        ? String.valueOf(last)
        : at(place / IN_THE_ALPHABET - 1, first) + last;
  }
}
