package ancora.app.browser;

import com.microsoft.playwright.Page;
import java.util.List;
import java.util.stream.LongStream;

/** What was heard of a page, by its tap: onsets, levels, and single tones. */
final class Listening {

  private static final String FRAMES =
      """
      const { first, all } = heard();
      const { sampleRate } = ancora.sound.context;
      const frameAt = (tick) => {
        const instant = ancora.state.map.microsOf(tick);
        let low = 0;
        let high = all.length;
        while (low < high) {
          const middle = (low + high) >> 1;
          if (instantOf(first + middle) < instant) low = middle + 1; else high = middle;
        }
        return low;
      };
      const frames = Math.round((millis * sampleRate) / 1000);
      """;

  private Listening() {}

  /** The stretches in which the player's clock was stepped, in ticks. */
  static double[][] steps(Page page) {
    List<?> found =
        (List<?>)
            page.evaluate(
                "() => steps().map((s) => s.map((f) => ancora.state.map.tickAt(instantOf(f))))");
    return found.stream()
        .map(s -> ((List<?>) s).stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray())
        .toArray(double[][]::new);
  }

  /** Onsets of the tapped sound, in ticks. */
  static double[] onsets(Page page) {
    Object found =
        page.evaluate(
            """
            () => {
              const { first, all } = heard();
              const rate = ancora.sound.context.sampleRate;
              const ticks = (frame) => ancora.state.map.tickAt(instantOf(first + frame));
              // an onset is where four milliseconds are far louder than the milliseconds before: a soft
              // stroke rises slowly out of the tail of a loud one
              const size = Math.round(rate / 4000);
              const loud = [];
              for (let i = 0; i + size <= all.length; i += size) {
                let peak = 0;
                for (let j = i; j < i + size; j++) peak = Math.max(peak, Math.abs(all[j]));
                loud.push(peak);
              }
              const onsets = [];
              let next = 0;
              for (let b = 24; b < loud.length; b++) {
                const before = Math.max(...loud.slice(b - 24, b - 4));
                const after = Math.max(...loud.slice(b, b + 16));
                if (b >= next && after > 0.01 && after > 2 * before) {
                  let k = (b - 4) * size;
                  while (Math.abs(all[k]) < Math.max(0.0025, 1.2 * before)) k++;
                  onsets.push(ticks(k));
                  next = b + 200;
                }
              }
              return onsets;
            }""");
    return ((List<?>) found).stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray();
  }

  /** The level of stretches of so many ms from ticks of the transport on, in dB. */
  static double[] levels(Page page, double millis, long... ticks) {
    return evaluated(
        page,
        """
        ([ticks, millis]) => {
          %s
          return ticks.map((tick) => {
            const from = frameAt(tick);
            let sum = 0;
            for (let i = from; i < from + frames; i++) sum += all[i] * all[i];
            return 10 * Math.log10(sum / frames + 1e-12);
          });
        }"""
            .formatted(FRAMES),
        List.of(boxed(ticks), millis));
  }

  /**
   * The level of one tone in such stretches, in dB: by Goertzel's algorithm ("An algorithm for the
   * evaluation of finite trigonometric series", 1958).
   *
   * @param hertz its frequency
   */
  static double[] tone(Page page, double hertz, double millis, long... ticks) {
    return evaluated(
        page,
        """
        ([ticks, millis, hertz]) => {
          %s
          const twice = 2 * Math.cos((2 * Math.PI * hertz) / sampleRate);
          return ticks.map((tick) => {
            const from = frameAt(tick);
            let [now, before] = [0, 0];
            for (let i = 0; i < frames; i++) {
              const window = Math.sin((Math.PI * i) / frames) ** 2;
              [now, before] = [all[from + i] * window + twice * now - before, now];
            }
            const power = now * now + before * before - twice * now * before;
            return 10 * Math.log10(power / frames ** 2 + 1e-12);
          });
        }"""
            .formatted(FRAMES),
        List.of(boxed(ticks), millis, hertz));
  }

  private static List<Double> boxed(long... ticks) {
    return LongStream.of(ticks).mapToObj(tick -> (double) tick).toList();
  }

  private static double[] evaluated(Page page, String script, Object of) {
    List<?> found = (List<?>) page.evaluate(script, of);
    return found.stream().mapToDouble(n -> ((Number) n).doubleValue()).toArray();
  }
}
