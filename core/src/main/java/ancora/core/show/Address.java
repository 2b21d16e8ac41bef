package ancora.core.show;

import ancora.core.Names;
import ancora.core.Refusal;
import java.util.Locale;
import java.util.regex.Pattern;

/**
 * How a command names what it is about without an id: it is looked up at the moment at which the
 * command is judged.
 *
 * @param of what it is an address of
 * @param name as {@link Of} has it
 */
public record Address(Of of, String name) {

  /** The part that is armed; where none is, the first. */
  public static final Address ARMED = new Address(Of.PART, "armed");

  /** The clip that vamps, or stands ready. */
  public static final Address IN_HAND = new Address(Of.CLIP, "in hand");

  /** What has addresses, and which. */
  public enum Of {
    /** {@code armed}, {@code next} or {@code previous} to it, or its number among the staves. */
    PART("armed|next|previous|[1-9]\\d?"),
    /** {@code in hand}, {@code next} or {@code previous} to it, or its letter. */
    CLIP("in hand|next|previous|[a-z]{1,2}"),
    /** The one that sounds {@code now}, {@code next} or {@code previous} to it, or its letter. */
    SECTION("now|next|previous|[A-Z]{1,2}"),
    /** The one that is {@code heard}, {@code next}, {@code previous}, the {@code last}. */
    TAKE("heard|next|previous|last|[1-9]\\d{0,2}");

    private final Pattern names;

    Of(String names) {
      this.names = Pattern.compile(names);
    }
  }

  public Address {
    Refusal.unless(
        of.names.matcher(name).matches(),
        "“%s” names no %s: say which one, or next, or previous.",
        name.length() > 20 ? Names.cut(name, 20) + "…" : name,
        of.name().toLowerCase(Locale.ROOT));
  }

  /** Whether it is that name. */
  public boolean is(String other) {
    return name.equals(other);
  }

  /** So many places further on than where one is; 0 if it says no such thing. */
  public int further() {
    return is("next") ? 1 : is("previous") ? -1 : 0;
  }

  /** Whether it is a number, from 1. */
  public boolean isNumber() {
    return Character.isDigit(name.charAt(0));
  }

  @Override
  public String toString() {
    return name;
  }
}
