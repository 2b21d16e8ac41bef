package ancora.core.plan;

/**
 * Ticks of the transport at which a note is not attacked.
 *
 * @param from the first of them; {@link Long#MIN_VALUE} for no beginning
 * @param through the last of them; {@link Long#MAX_VALUE} for no end
 */
public record Silence(long from, long through) {

  /** It may always sound. */
  public static final Silence NONE = new Silence(Long.MAX_VALUE, Long.MIN_VALUE);

  /** A note heard live at a tick sounds only later. */
  public static Silence through(long tick) {
    return new Silence(Long.MIN_VALUE, tick);
  }

  /** It never sounds. */
  public static final Silence ALWAYS = new Silence(Long.MIN_VALUE, Long.MAX_VALUE);

  /** Silent from a tick on. */
  public static Silence from(long tick) {
    return new Silence(tick, Long.MAX_VALUE);
  }

  public boolean isNone() {
    return from > through;
  }

  /** The ticks that are in either; of two that do not meet, the later. */
  public Silence orLater(Silence other) {
    if (isNone() || other.isNone()) {
      return isNone() ? other : this;
    }
    Silence first = from <= other.from ? this : other;
    Silence second = first == this ? other : this;
    boolean meet = second.from <= first.through || second.from - 1 == first.through;
    return meet ? new Silence(first.from, Math.max(first.through, second.through)) : second;
  }

  /** The ticks that are in both. */
  public Silence and(Silence other) {
    Silence both = new Silence(Math.max(from, other.from), Math.min(through, other.through));
    return both.isNone() ? NONE : both;
  }
}
