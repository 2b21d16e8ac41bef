package ancora.core.rules.keeping;

import ancora.core.analysis.FoundTempo;
import ancora.core.stage.Reading;
import ancora.core.time.Meter;
import ancora.core.time.Tempo;
import ancora.core.time.TempoMap;
import ancora.core.time.Ticks;
import java.util.ArrayList;
import java.util.List;

/** A tempo that was found, taken as a reading has it: which tick was played when. */
final class FoundTime {

  private static final double MINUTE = 60e6;
  private static final int IN_THREES = 3;

  private final double[] beats;
  private final Reading reading;
  private final Meter meter;

  FoundTime(FoundTempo found, Reading reading, Meter meter) {
    this.reading = reading;
    this.meter = meter;
    beats = thinnedOrDivided(beats(found), reading.octave());
  }

  /** Ticks of what is felt as a beat: of three eighths where a meter is compound. */
  static long pulse(Meter meter) {
    return meter.isCompound() ? IN_THREES * meter.beatTicks() : meter.beatTicks();
  }

  /** So many of them a bar has. */
  static int pulses(Meter meter) {
    return (int) (meter.barTicks() / pulse(meter));
  }

  /** The mean tempo. */
  Tempo tempo() {
    return tempo((beats[beats.length - 1] - beats[0]) / (beats.length - 1));
  }

  private Tempo tempo(double microsFromBeatToBeat) {
    double quarters = (double) pulse(meter) / Ticks.PER_QUARTER;
    return Tempo.nearest(Math.round(MINUTE / microsFromBeatToBeat * quarters * 100) / 100.0);
  }

  /** Tick 0 is the first bar line, at the first note or before it. */
  TempoMap map() {
    int bar = pulses(meter);
    int later = Math.floorMod(reading.later(), bar);
    int first = later > 0 ? later - bar : 0;
    if (!reading.steady()) {
      return TempoMap.of(0, micros(first), tempo());
    }
    List<TempoMap.Anchor> anchors = new ArrayList<>();
    for (int beat = first; beat < beats.length; beat += bar) {
      double micros = micros(beat);
      double each = (micros(beat + bar) - micros) / bar;
      double quarters = (double) pulse(meter) / Ticks.PER_QUARTER;
      anchors.add(
          new TempoMap.Anchor(
              (beat - first) * pulse(meter), micros, Tempo.nearest(MINUTE / each * quarters)));
    }
    return new TempoMap(anchors);
  }

  /** When a beat fell; before the first and after the last they go on evenly. */
  private double micros(int beat) {
    int last = beats.length - 1;
    if (beat < 0) {
      return beats[0] + beat * (beats[1] - beats[0]);
    }
    return beat <= last
        ? beats[beat]
        : beats[last] + (beat - last) * (beats[last] - beats[last - 1]);
  }

  private static double[] beats(FoundTempo found) {
    int each = found.beatsInBar();
    int bars = found.lines().size() - 1;
    double[] beats = new double[bars * each + 1];
    for (int bar = 0; bar < bars; bar++) {
      double from = found.lines().get(bar);
      double to = found.lines().get(bar + 1);
      for (int beat = 0; beat < each; beat++) {
        beats[bar * each + beat] = from + (to - from) * beat / each;
      }
    }
    beats[bars * each] = found.lines().get(bars);
    return beats;
  }

  private static double[] thinnedOrDivided(double[] beats, int octave) {
    double[] next = beats;
    for (int i = 0; i < octave; i++) {
      double[] divided = new double[2 * next.length - 1];
      for (int j = 0; j < divided.length; j++) {
        divided[j] = (next[j / 2] + next[(j + 1) / 2]) / 2;
      }
      next = divided;
    }
    for (int i = 0; i > octave && next.length > 2; i--) {
      double[] thinned = new double[(next.length + 1) / 2];
      for (int j = 0; j < thinned.length; j++) {
        thinned[j] = next[2 * j];
      }
      next = thinned;
    }
    return next;
  }
}
