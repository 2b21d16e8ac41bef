package ancora.core.show;

import ancora.core.Refusal;
import java.util.OptionalDouble;

/**
 * What a value is to become, seen from what it is: so who turns a knob or treads on a pedal says
 * the change, and need not know what is there.
 */
public sealed interface Adjustment {

  /** The value after it; refuses a value of which it makes no sense. */
  Object of(Object now);

  /** On becomes off, off on; of a number, nothing becomes one, and all else nothing. */
  record Toggle() implements Adjustment {
    @Override
    public Object of(Object now) {
      if (now instanceof Boolean on) {
        return !on;
      }
      return number(now, number(now) == 0 ? 1 : 0);
    }
  }

  /** On as long as the control is held: who holds it says on, and then off. */
  record Held() implements Adjustment {
    @Override
    public Object of(Object now) {
      throw new Refusal("That lasts as long as its control is held.");
    }
  }

  /**
   * A number becomes more, or less; of things in a row it is the one so many places further, and
   * after the last comes the first.
   *
   * @param amount −1000 to +1000, not 0
   */
  record By(double amount) implements Adjustment {
    public By {
      Refusal.unless(
          amount >= -MOST && amount <= MOST && amount != 0, "Change it by −1000 to +1000.");
    }

    @Override
    public Object of(Object now) {
      if (now instanceof Enum<?> one) {
        Object[] all = one.getDeclaringClass().getEnumConstants();
        return all[Math.floorMod(one.ordinal() + (int) amount, all.length)];
      }
      return number(now, number(now) + amount);
    }

    private static final double MOST = 1000;
  }

  /**
   * A knob, or whatever is turned, stands at a place in a range. It takes hold of the value where
   * it comes past it, or close to it, so that nothing jumps.
   *
   * @param from what it stands for at its lowest
   * @param to what it stands for at its highest; may be below the lowest
   * @param at where it stands, 0 to 1; empty while nobody turns it
   * @param was where it stood when it was told of last; empty if it never was
   */
  record Knob(double from, double to, OptionalDouble at, OptionalDouble was) implements Adjustment {
    /** So close it takes hold, as a part of the range. */
    private static final double CLOSE = 0.04;

    public Knob {
      Refusal.unless(
          Double.isFinite(from) && Double.isFinite(to) && from != to,
          "A knob turns from one number to another.");
      Refusal.unless(
          isPlace(at) && isPlace(was) && (at.isPresent() || was.isEmpty()),
          "A knob stands at 0 to 1.");
    }

    /** A knob that nobody turns. */
    public Knob(double from, double to) {
      this(from, to, OptionalDouble.empty(), OptionalDouble.empty());
    }

    private static boolean isPlace(OptionalDouble place) {
      return place.isEmpty() || place.getAsDouble() >= 0 && place.getAsDouble() <= 1;
    }

    /** This knob turned from one place to another. */
    public Knob turned(OptionalDouble before, double place) {
      return new Knob(from, to, OptionalDouble.of(place), before);
    }

    @Override
    public Object of(Object now) {
      Refusal.unless(at.isPresent(), "That wants a control that turns.");
      double place = at.getAsDouble();
      double there = (number(now) - from) / (to - from);
      return holds(place, there) ? number(now, from + place * (to - from)) : now;
    }

    private boolean holds(double place, double there) {
      boolean close = Math.abs(place - there) <= CLOSE;
      boolean held = was.isPresent() && Math.abs(was.getAsDouble() - there) <= CLOSE;
      return close || held || was.isPresent() && (was.getAsDouble() - there) * (place - there) <= 0;
    }
  }

  private static double number(Object now) {
    Refusal.unless(now instanceof Number, "That is no number: choose what it is to be.");
    return ((Number) now).doubleValue();
  }

  /** A number of the same kind; to a tenth where it has places. */
  private static Object number(Object like, double value) {
    if (like instanceof Integer) {
      return (int) Math.round(value);
    }
    return like instanceof Long ? (Object) Math.round(value) : Math.round(value * 10) / 10.0;
  }
}
