package ancora.app.journal;

import ancora.core.Names;
import ancora.core.Refusal;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import tools.jackson.databind.DatabindException;
import tools.jackson.databind.exc.MismatchedInputException;

/** Why some JSON is no value of the core: where, and what belongs there, in a sentence. */
final class BrokenValue {

  private static final Pattern LACKS = Pattern.compile("Missing.* creator property '(\\w+)'");

  private static final List<Class<?>> WHOLE =
      List.of(int.class, long.class, Integer.class, Long.class);

  private static final String MEND = " Export it again, or mend it there.";

  /** So much is said of what is wrong. */
  private static final int LONGEST = 90;

  private BrokenValue() {}

  static Refusal refusal(Exception wrong) {
    String where = where(wrong);
    Matcher lacks = LACKS.matcher(String.valueOf(wrong.getMessage()));
    if (lacks.find()) {
      return new Refusal("“" + lacks.group(1) + "” is lacking.");
    }
    if (wrong instanceof MismatchedInputException other && other.getTargetType() != null) {
      return new Refusal(where + " is to be " + kind(other.getTargetType()) + "." + MEND);
    }
    return new Refusal(where + " cannot be" + why(wrong) + "." + MEND);
  }

  /** What a record says of itself, if it does. */
  private static String why(Throwable wrong) {
    for (Throwable cause = wrong; cause != null; cause = cause.getCause()) {
      boolean own =
          cause instanceof IllegalArgumentException || cause instanceof ArithmeticException;
      if (own && cause.getMessage() != null && !cause.getMessage().contains("`")) {
        return ": " + Names.cut(cause.getMessage().lines().findFirst().orElse(""), LONGEST);
      }
    }
    return "";
  }

  /** The place of it, as {@code “shelf[1].name”}. */
  private static String where(Exception wrong) {
    if (!(wrong instanceof DatabindException json) || json.getPath().isEmpty()) {
      return "What is there";
    }
    StringBuilder path = new StringBuilder();
    for (DatabindException.Reference step : json.getPath()) {
      if (step.getPropertyName() == null) {
        path.append('[').append(step.getIndex()).append(']');
      } else {
        path.append(path.isEmpty() ? "" : ".").append(step.getPropertyName());
      }
    }
    return "“" + Names.cut(path.toString(), LONGEST) + "”";
  }

  private static String kind(Class<?> type) {
    if (type.isEnum()) {
      return Arrays.stream(type.getEnumConstants())
          .map(String::valueOf)
          .collect(Collectors.joining(", ", "one of ", ""));
    }
    if (WHOLE.contains(type)) {
      return "a whole number";
    }
    if (type == double.class || type == Double.class) {
      return "a number";
    }
    if (type == boolean.class || type == Boolean.class) {
      return "true or false";
    }
    if (Collection.class.isAssignableFrom(type)) {
      return "a list";
    }
    return type == String.class ? "a text" : "an object";
  }
}
