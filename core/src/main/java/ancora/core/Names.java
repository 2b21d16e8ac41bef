package ancora.core;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What a show or a part may be called. */
public final class Names {

  /** A device is called by no more characters than these. */
  public static final int LONGEST_DEVICE = 80;

  /** Longest name, in characters. */
  public static final int LONGEST = 60;

  private static final Pattern COUNTED = Pattern.compile("(.*) \\((\\d{1,4})\\)");

  private Names() {}

  /**
   * A name without white space at its ends; refuses one that is empty, too long, or holds control
   * characters.
   *
   * @param what what is named, for the sentence
   */
  public static String checked(String what, String name) {
    String stripped = name == null ? "" : name.strip();
    Refusal.unless(
        !stripped.isEmpty() && stripped.length() <= LONGEST,
        "The %s needs a name of 1 to %s characters.",
        what,
        LONGEST);
    Refusal.unless(
        stripped.codePoints().noneMatch(Character::isISOControl),
        "The name of the %s may not hold control characters.",
        what);
    Refusal.unless(
        stripped
            .codePoints()
            .noneMatch(c -> c >= Character.MIN_SURROGATE && c <= Character.MAX_SURROGATE),
        "The name of the %s holds half a character: type it again.",
        what);
    return stripped;
  }

  /** What something is called that is there once more: its name with a number behind it. */
  public static String again(String name) {
    Matcher counted = COUNTED.matcher(name);
    int number = counted.matches() ? Integer.parseInt(counted.group(2)) + 1 : 2;
    String bare = counted.matches() ? counted.group(1) : name;
    String end = " (" + number + ")";
    return cut(bare, LONGEST - end.length()).strip() + end;
  }

  /**
   * The beginning of a text, with no character cut in two: half of one cannot be sent.
   *
   * @param most so many characters of UTF-16 at most
   */
  public static String cut(String text, int most) {
    if (text.length() <= most) {
      return text;
    }
    return text.substring(0, Character.isHighSurrogate(text.charAt(most - 1)) ? most - 1 : most);
  }

  /** As {@link #checked}; but an empty name is a name, and so is none. */
  public static String checkedOrEmpty(String what, String name) {
    return name == null || name.isBlank() ? "" : checked(what, name);
  }

  /** Whether something is the name of a device: not blank, and not too long. */
  public static boolean isDevice(String name) {
    return name != null && !name.isBlank() && name.length() <= LONGEST_DEVICE;
  }
}
