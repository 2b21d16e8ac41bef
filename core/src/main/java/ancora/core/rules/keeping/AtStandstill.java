package ancora.core.rules.keeping;

import ancora.core.analysis.FoundTempo;
import ancora.core.analysis.Onset;
import ancora.core.analysis.TempoFinder;
import ancora.core.record.Hindsight;
import ancora.core.record.Phrase;
import ancora.core.record.Phrasing;
import ancora.core.record.Played;
import ancora.core.record.Timing;
import ancora.core.rules.TempoAndMeter;
import ancora.core.show.PartId;
import ancora.core.show.Show;
import ancora.core.stage.PastRun;
import ancora.core.stage.Reading;
import ancora.core.stage.Stage;
import ancora.core.stage.Transport;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** What was played while the transport stood still, and the tempo that is in it. */
final class AtStandstill {

  /** No phrase is longer, in microseconds: 64 bars of a slow song. */
  private static final double LONGEST = 300_000_000;

  /** Less sure than this, the show's tempo is the better guess. */
  private static final double LEAST_SURE = 0.12;

  private static final int MOST_OCTAVES = 2;

  private AtStandstill() {}

  /**
   * The newest phrase; empty if nothing was played.
   *
   * @param which which it is
   * @param reading how its tempo is to be taken; as found, if empty
   */
  static Optional<Remembered> newest(
      Stage stage, PartId part, WhichPhrase which, Optional<Reading> reading) {
    double since = stage.lastRun().map(PastRun::ended).map(Long::doubleValue).orElse(0.0);
    double until =
        stage.transport() instanceof Transport.Rolling rolling
            ? rolling.map().microsOf(rolling.firstTick())
            : Double.POSITIVE_INFINITY;
    List<Played> played = newest(stage, part, since, Math.min(until, which.until()), which.more());
    return played.isEmpty() ? Optional.empty() : remembered(stage, part, played, until, reading);
  }

  /** What was played in a stretch; empty if nothing was. */
  static Optional<Remembered> between(
      Stage stage, PartId part, double since, double until, Optional<Reading> reading) {
    List<Played> played = keys(stage, part, since, until);
    return played.isEmpty() ? Optional.empty() : remembered(stage, part, played, until, reading);
  }

  private static List<Played> keys(Stage stage, PartId part, double since, double until) {
    return stage.on(part).hindsight().since(since).stream()
        .filter(p -> p.plain() && !p.isPedal() && p.onMicros() < until)
        .sorted(Comparator.comparingLong(Played::onMicros))
        .toList();
  }

  private static List<Played> newest(
      Stage stage, PartId part, double since, double until, int more) {
    Show show = stage.show();
    double bar = show.meter().barTicks() * show.tempo().microsPerTick();
    double latest =
        stage.on(part).hindsight().played().last().map(Played::onMicros).orElse(0L).doubleValue();
    return Phrasing.atStandstill(bar)
        .newest(keys(stage, part, Math.max(since, latest - LONGEST), until), more);
  }

  private static Optional<Remembered> remembered(
      Stage stage, PartId part, List<Played> played, double until, Optional<Reading> wanted) {
    Show show = stage.show();
    boolean free = TempoAndMeter.isNobodys(stage) && show.meter().equals(Meter.COMMON);
    OptionalInt beats =
        free && wanted.map(Reading::beats).orElse(0) == 0
            ? OptionalInt.empty()
            : OptionalInt.of(free ? wanted.orElseThrow().beats() : FoundTime.pulses(show.meter()));
    Optional<FoundTempo> found =
        TempoFinder.find(onsets(played), beats).filter(f -> f.sureness() >= LEAST_SURE);
    Meter meter =
        free
            ? Meter.of(found.map(FoundTempo::beatsInBar).orElse(show.meter().beats()), 4)
            : show.meter();
    Reading reading = wanted.orElseGet(() -> asUsual(stage, found));
    Optional<FoundTime> time = found.map(f -> new FoundTime(f, reading, meter));
    TempoMap map =
        time.map(FoundTime::map)
            .orElseGet(() -> TempoMap.of(0, played.get(0).onMicros(), show.tempo()));
    Hindsight memory = stage.on(part).hindsight();
    Timing timing =
        new Timing(
            show.part(part).inputGrid(),
            show.recording().forgiveness(),
            meter,
            map,
            played.get(0).onMicros(),
            until,
            map.tickAt(end(played)));
    return Phrase.of(played, memory, timing)
        .map(
            phrase ->
                new Remembered(
                    phrase,
                    timing,
                    Optional.of(reading),
                    time.map(FoundTime::tempo),
                    found.map(FoundTempo::sureness).orElse(0.0),
                    found.map(FoundTempo::drift).orElse(0.0),
                    meter));
  }

  /** In a show with music the octave is that which lies nearest to its tempo. */
  private static Reading asUsual(Stage stage, Optional<FoundTempo> found) {
    if (TempoAndMeter.isNobodys(stage) || found.isEmpty()) {
      return Reading.AS_FOUND;
    }
    Show show = stage.show();
    Tempo tempo = new FoundTime(found.get(), Reading.AS_FOUND, show.meter()).tempo();
    double octaves = StrictMath.log(show.tempo().bpm() / tempo.bpm()) / StrictMath.log(2);
    long octave = Math.max(-MOST_OCTAVES, Math.min(MOST_OCTAVES, Math.round(octaves)));
    return Reading.AS_FOUND.withOctave((int) octave);
  }

  private static List<Onset> onsets(List<Played> played) {
    return played.stream()
        .map(key -> new Onset(key.onMicros(), key.pitch(), key.velocity()))
        .toList();
  }

  private static double end(List<Played> played) {
    return played.stream()
        .mapToDouble(key -> key.isHeld() ? key.onMicros() : key.offMicros())
        .max()
        .orElseThrow();
  }
}
