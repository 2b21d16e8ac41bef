package ancora.core.time;

import ancora.core.Refusal;
import java.math.BigDecimal;
import java.math.RoundingMode;

/**
 * A tempo in thousandths of a quarter note a minute.
 *
 * @param milliBpm 20 000 to 400 000
 */
public record Tempo(int milliBpm) {

  /** Slowest tempo, in thousandths of a quarter note a minute. */
  public static final int SLOWEST = 20_000;

  /** Fastest tempo, in thousandths of a quarter note a minute. */
  public static final int FASTEST = 400_000;

  public Tempo {
    Refusal.unless(
        milliBpm >= SLOWEST && milliBpm <= FASTEST,
        "A tempo of %s is out of reach: use 20 to 400 quarter notes a minute.",
        BigDecimal.valueOf(milliBpm, 3).stripTrailingZeros().toPlainString());
  }

  /** A tempo in quarter notes a minute, kept to three decimals. */
  public static Tempo of(double bpm) {
    Refusal.unless(
        Double.isFinite(bpm) && Math.abs(bpm) < 1e6,
        "That is not a tempo: use 20 to 400 quarter notes a minute.");
    return new Tempo((int) Ticks.round(bpm * 1000));
  }

  /** The tempo nearest to {@code bpm} that is allowed. */
  public static Tempo nearest(double bpm) {
    return new Tempo((int) Math.max(SLOWEST, Math.min(FASTEST, Ticks.round(bpm * 1000))));
  }

  /** Quarter notes a minute. */
  public double bpm() {
    return milliBpm / 1000.0;
  }

  /** Microseconds that one tick lasts: a quarter note lasts 60/bpm seconds and has 960 ticks. */
  public double microsPerTick() {
    return 60e9 / milliBpm / Ticks.PER_QUARTER;
  }

  @Override
  public String toString() {
    return BigDecimal.valueOf(milliBpm, 3)
            .setScale(3, RoundingMode.UNNECESSARY)
            .stripTrailingZeros()
            .toPlainString()
        + " bpm";
  }
}
