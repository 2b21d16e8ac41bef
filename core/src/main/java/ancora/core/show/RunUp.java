package ancora.core.show;

import ancora.core.Refusal;
import ancora.core.time.Meter;

/**
 * The bar at which a recording is to begin; up to there what sounds sounds on.
 *
 * @param of what the bars are counted in
 * @param bar from 1, to 64 of a loop and to 9999 of the transport
 */
public record RunUp(Of of, int bar) {

  private static final int MOST = 9999;

  /** What bars are counted in. */
  public enum Of {
    /** The loop that is recorded onto. */
    LOOP,
    /** The transport, from where it started. */
    TRANSPORT
  }

  public RunUp {
    int most = of == Of.LOOP ? RecordingSettings.MOST_BARS : MOST;
    Refusal.unless(bar >= 1 && bar <= most, "A run-up leads to bar 1 to %s.", most);
  }

  /** Ticks from the first bar to this one. */
  public long ticks(Meter meter) {
    return (bar - 1L) * meter.barTicks();
  }
}
