package ancora.core.rules.keeping;

import ancora.core.record.Phrase;
import ancora.core.record.Timing;
import ancora.core.stage.Reading;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import java.util.Optional;

/**
 * A phrase that can be kept.
 *
 * @param timing how it lies in time
 * @param reading how its tempo was taken; empty of what was played in a run
 * @param tempo in which it was played at standstill; empty where it is not plain
 * @param drift by what part of itself the tempo rose from the first bar to the last
 * @param meter in which its bars are
 */
record Remembered(
    Phrase phrase,
    Timing timing,
    Optional<Reading> reading,
    Optional<Tempo> tempo,
    double sureness,
    double drift,
    Meter meter) {

  static Remembered ofRun(Phrase phrase, Timing timing) {
    return new Remembered(phrase, timing, Optional.empty(), Optional.empty(), 1, 0, timing.meter());
  }
}
