package ancora.core.plan;

/**
 * Ticks of the transport at which a note is not attacked: those from one through another; or, where
 * the first is the greater, those from it on and those up to the other.
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
    return equals(NONE);
  }

  /** Whether a tick is one of them. */
  public boolean isAt(long tick) {
    return isAround() ? tick >= from || tick <= through : tick >= from && tick <= through;
  }

  /** Whether there is a stretch in which it sounds, and silence before and after. */
  private boolean isAround() {
    return from > through;
  }

  /**
   * The ticks that are in either; of two stretches that do not meet the later, unless one has no
   * beginning and the other no end.
   */
  public Silence orLater(Silence other) {
    if (isNone() || other.isNone()) {
      return isNone() ? other : this;
    }
    if (isAround() || other.isAround()) {
      Silence around = isAround() ? this : other;
      Silence more = isAround() ? other : this;
      return more.isAround()
          ? around(Math.min(from, other.from), Math.max(through, other.through))
          : around(
              more.through >= around.from - 1 ? Math.min(around.from, more.from) : around.from,
              more.from <= around.through + 1
                  ? Math.max(around.through, more.through)
                  : around.through);
    }
    Silence first = from <= other.from ? this : other;
    Silence second = first == this ? other : this;
    boolean meet = second.from <= first.through || second.from - 1 == first.through;
    if (meet) {
      return new Silence(first.from, Math.max(first.through, second.through));
    }
    boolean ends = first.from == Long.MIN_VALUE && second.through == Long.MAX_VALUE;
    return ends ? new Silence(second.from, first.through) : second;
  }

  private static Silence around(long from, long through) {
    return from > through + 1 ? new Silence(from, through) : ALWAYS;
  }

  /** The ticks that are in both; if that is two stretches, the later of them. */
  public Silence and(Silence other) {
    if (isNone() || other.isNone()) {
      return NONE;
    }
    if (isAround() && other.isAround()) {
      return new Silence(Math.max(from, other.from), Math.min(through, other.through));
    }
    if (isAround() || other.isAround()) {
      Silence around = isAround() ? this : other;
      Silence stretch = isAround() ? other : this;
      if (stretch.equals(ALWAYS)) {
        return around;
      }
      Silence later = overlap(from(around.from), stretch);
      return later.isNone() ? overlap(through(around.through), stretch) : later;
    }
    return overlap(this, other);
  }

  private static Silence overlap(Silence one, Silence other) {
    long first = Math.max(one.from, other.from);
    long last = Math.min(one.through, other.through);
    return first <= last ? new Silence(first, last) : NONE;
  }
}
