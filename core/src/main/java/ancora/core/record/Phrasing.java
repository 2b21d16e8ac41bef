package ancora.core.record;

import ancora.core.Refusal;
import ancora.core.time.TempoMap;
import java.util.ArrayList;
import java.util.List;
import java.util.function.ToDoubleFunction;
import java.util.stream.IntStream;

/**
 * Where what was played falls into phrases (rule 15): at silences, measured in ticks while time
 * runs, in microseconds while it stands still.
 *
 * @param on when a key went down
 * @param off when it came up
 * @param between a silence so long parts two phrases
 * @param within a shorter one, at which the newest phrase may be shortened
 */
public record Phrasing(
    ToDoubleFunction<Played> on, ToDoubleFunction<Played> off, double between, double within) {

  /** At standstill a silence so long parts two phrases, in microseconds. */
  private static final double AT_STANDSTILL = 3_000_000;

  /** While time runs a silence of so many bars does. */
  private static final int SILENT_BARS = 2;

  /**
   * Of what was played at standstill.
   *
   * @param bar of the show's tempo, in microseconds
   */
  public static Phrasing atStandstill(double bar) {
    return new Phrasing(
        Played::onMicros,
        key -> key.isHeld() ? key.onMicros() : key.offMicros(),
        AT_STANDSTILL,
        Math.min(AT_STANDSTILL, bar));
  }

  /**
   * Of what was played in a run.
   *
   * @param bar in ticks
   * @param now the present tick: keys that are down sound until then
   */
  public static Phrasing ofRun(TempoMap map, long bar, long now) {
    return new Phrasing(
        key -> map.tickAt(key.onMicros()),
        key -> key.isHeld() ? now : map.tickAt(key.offMicros()),
        SILENT_BARS * bar,
        bar);
  }

  /**
   * The newest phrase, as it stands at the end of a list.
   *
   * @param keys in the order of their onsets
   * @param more how many phrases before it are taken as well; negative for how many are let go of
   *     at its beginning. Refused where there are not so many
   */
  public List<Played> newest(List<Played> keys, int more) {
    if (keys.isEmpty()) {
      return keys;
    }
    double[] silences = silences(keys);
    List<Integer> begins = begins(silences, 0, between);
    int newest = begins.get(begins.size() - 1);
    List<Integer> shorter = begins(silences, newest, within);
    Refusal.unless(more < begins.size(), "Nothing was played before it.");
    Refusal.unless(-more < shorter.size(), "There is no silence in it: no phrase can go.");
    int begin = more >= 0 ? begins.get(begins.size() - 1 - more) : shorter.get(-more);
    return keys.subList(begin, keys.size());
  }

  private static List<Integer> begins(double[] silences, int first, double silence) {
    List<Integer> begins = new ArrayList<>(List.of(first));
    IntStream.range(first + 1, silences.length)
        .filter(i -> silences[i] >= silence)
        .forEach(begins::add);
    return begins;
  }

  /** How long nothing had sounded before each key. */
  private double[] silences(List<Played> keys) {
    double[] silences = new double[keys.size()];
    double sounds = off.applyAsDouble(keys.get(0));
    for (int i = 1; i < silences.length; i++) {
      silences[i] = on.applyAsDouble(keys.get(i)) - sounds;
      sounds = Math.max(sounds, off.applyAsDouble(keys.get(i)));
    }
    return silences;
  }
}
