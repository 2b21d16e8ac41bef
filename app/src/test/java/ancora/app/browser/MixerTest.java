package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.stream.DoubleStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * What the parts go through, with tones in their place, rendered faster than real time: nothing of
 * it depends on what else the machine does.
 */
class MixerTest extends OfflineSound {

  private static final int RATE = 48_000;

  private static final String SCRIPT =
      """
      async () => {
        const rate = 48000;
        const { Mixer } = await import("/built/offline.js");
        const tones = `registerProcessor("tones", class extends AudioWorkletProcessor {
          constructor({ processorOptions }) { super(); this.tones = processorOptions; }
          process(_, outputs) {
            for (const { slot, hertz, level, from = 0, until = 1e9 } of this.tones)
              for (const channel of outputs[slot])
                for (let i = 0; i < channel.length; i++) {
                  const at = currentFrame + i;
                  if (at >= from && at < until) channel[i] += level * Math.sin(2 * Math.PI * hertz * at / sampleRate + 1);
                }
            return true;
          }
        })`;
        const plain = { level: 0, gain: 1, pan: 0, echo: 0, room: 0, low: 0, high: 0 };
        const all = { gain: 1, echoTicks: 480, repeats: 0, tone: 12000, room: 0.2, limited: true };
        /** Parts 1, 2 … stand as they are said to; what goes out, by the outputs of the master. */
        globalThis.mixed = async ({ tones: of, parts, master = {}, seconds = 1, each = false, routes, channels = 2 }) => {
          // the whole, the click, two parts, and echo and room: no more channels than a file may have
          const outputs = each ? [0, 1, 2, 3, 18] : [0];
          const context = new OfflineAudioContext(Math.max(channels, 2 * outputs.length), seconds * rate, rate);
          await context.audioWorklet.addModule("/built/worklet.js");
          await context.audioWorklet.addModule(URL.createObjectURL(new Blob([tones], { type: "text/javascript" })));
          const node = new AudioWorkletNode(context, "tones", {
            numberOfInputs: 0, numberOfOutputs: 17, outputChannelCount: Array(17).fill(2), processorOptions: of });
          const mixer = new Mixer(context, node, each);
          const levels = [];
          mixer.onLevels = (now) => levels.push(now);
          mixer.set(parts.map((balance, i) => ({ id: i + 1, balance: { ...plain, ...balance } })), { ...all, ...master }, 120);
          if (routes) mixer.route(new Map(routes));
          if (each) {
            mixer.output.disconnect();
            const merger = context.createChannelMerger(2 * outputs.length);
            outputs.forEach((output, k) => {
              const splitter = context.createChannelSplitter(2);
              mixer.output.connect(splitter, output);
              splitter.connect(merger, 0, 2 * k);
              splitter.connect(merger, 1, 2 * k + 1);
            });
            context.destination.channelInterpretation = "discrete";
            merger.connect(context.destination);
          }
          const buffer = await context.startRendering();
          await new Promise((done) => setTimeout(done, 0));
          return { sides: Array.from({ length: buffer.numberOfChannels }, (_, i) => buffer.getChannelData(i)), levels };
        };
        /** The level of a tone in the second half of what was rendered: by Goertzel's algorithm. */
        globalThis.toneIn = (samples, hertz) => {
          const from = samples.length >> 1;
          const frames = samples.length - from;
          const twice = 2 * Math.cos((2 * Math.PI * hertz) / rate);
          let [now, before] = [0, 0];
          for (let i = 0; i < frames; i++) {
            const window = 1 - Math.cos((2 * Math.PI * i) / frames);
            [now, before] = [samples[from + i] * window + twice * now - before, now];
          }
          return (2 / frames) * Math.sqrt(now * now + before * before - twice * now * before);
        };
      }""";

  @BeforeAll
  static void script() {
    page.evaluate(SCRIPT);
  }

  /** A decibel is a twentieth of a power of ten in amplitude; the meter says what goes out. */
  @Test
  void levelsAreInDecibelsAndTheMetersSayThem() {
    double[] found =
        numbers(
            """
            async () => {
              const { sides, levels } = await mixed({
                tones: [{ slot: 1, hertz: 997, level: 0.5 }, { slot: 2, hertz: 3001, level: 0.25 }],
                parts: [{ gain: 10 ** (-6 / 20) }, { gain: 1 }],
                master: { gain: 10 ** (-3 / 20) }, seconds: 4 });
              const last = levels.at(-1);
              let peak = 0;
              for (const x of sides[0]) peak = Math.max(peak, Math.abs(x));
              return [toneIn(sides[0], 997), toneIn(sides[0], 3001), last.parts.get(1), last.parts.get(2),
                Math.max(...levels.map((now) => now.output)), peak, last.loudness, last.held, levels.length];
            }""");
    double master = Math.pow(10, -3 / 20.0);
    double six = Math.pow(10, -6 / 20.0);
    assertThat(found[0]).isCloseTo(0.5 * six * master, within(1e-4));
    assertThat(found[1]).isCloseTo(0.25 * master, within(1e-4));
    assertThat(decibels(found[2])).as("meter").isCloseTo(decibels(0.5 * six), within(0.1));
    assertThat(decibels(found[3])).as("meter").isCloseTo(decibels(0.25), within(0.1));
    assertThat(decibels(found[4])).as("of all").isCloseTo(decibels(found[5]), within(0.1));
    // ITU-R BS.1770: a tone near 1 kHz in both channels is at 20 log of its peak; one of 3 kHz is
    // 3.2 dB louder by the standard's first filter (computed from its printed coefficients)
    double power =
        Math.pow(0.5 * six * master, 2) + Math.pow(0.25 * master, 2) * Math.pow(10, 0.32);
    assertThat(found[6]).as("LUFS").isCloseTo(10 * Math.log10(power), within(0.3));
    assertThat(found[7]).as("nothing is held").isEqualTo(1);
    assertThat(found[8]).as("20 a second").isBetween(70.0, 80.0);
  }

  private static double decibels(double factor) {
    return 20 * Math.log10(factor);
  }

  /**
   * The shelves of Web Audio are those of the Audio EQ Cookbook (R. Bristow-Johnson; W3C note of
   * 2021), with a slope of one.
   */
  @ParameterizedTest
  @CsvSource({
    "12, 0, 60",
    "-12, 0, 250",
    "6, 0, 1000",
    "0, 12, 12000",
    "0, -9, 4000",
    "-6, 6, 900"
  })
  void theToneOfAPartIsThatOfTheCookbook(double low, double high, double hertz) {
    double[] found =
        numbers(
            """
            async ([low, high, hertz]) => {
              const { sides } = await mixed({ tones: [{ slot: 1, hertz, level: 0.1 }], parts: [{ low, high }] });
              return [toneIn(sides[0], hertz)];
            }""",
            List.of(low, high, hertz));
    double expected = shelf(low, 250, hertz, true) + shelf(high, 4000, hertz, false);
    assertThat(decibels(found[0] / 0.1)).isCloseTo(expected, within(0.05));
  }

  /** The gain of a shelf at a frequency, in dB, by the cookbook's coefficients. */
  private static double shelf(double decibels, double corner, double hertz, boolean low) {
    double a = Math.pow(10, decibels / 40);
    double w = 2 * Math.PI * corner / RATE;
    double alpha = Math.sin(w) / 2 * Math.sqrt(2);
    double beta = 2 * Math.sqrt(a) * alpha;
    double cos = low ? Math.cos(w) : -Math.cos(w);
    double[] b = {
      a * (a + 1 - (a - 1) * cos + beta),
      2 * a * (a - 1 - (a + 1) * cos),
      a * (a + 1 - (a - 1) * cos - beta)
    };
    double[] d = {
      a + 1 + (a - 1) * cos + beta, -2 * (a - 1 + (a + 1) * cos), a + 1 + (a - 1) * cos - beta
    };
    double sign = low ? 1 : -1;
    return decibels(at(b, hertz, sign) / at(d, hertz, sign));
  }

  private static double at(double[] c, double hertz, double sign) {
    double w = 2 * Math.PI * hertz / RATE;
    double real = c[0] + sign * c[1] * Math.cos(w) + c[2] * Math.cos(2 * w);
    double imaginary = -sign * c[1] * Math.sin(w) - c[2] * Math.sin(2 * w);
    return Math.hypot(real, imaginary);
  }

  /**
   * Two parts with echo times of their own, and one with that of all: at 120 an eighth is 250 ms.
   */
  @Test
  void eachPartHasItsEchoTime() {
    double[] found =
        numbers(
            """
            async () => {
              const burst = (slot, hertz) => ({ slot, hertz, level: 0.2, from: 24000, until: 24480 });
              const { sides: [left, right] } = await mixed({
                tones: [burst(1, 500), burst(2, 1000), burst(3, 2000)],
                parts: [{ echo: 100, echoTicks: 960 }, { echo: 100, echoTicks: 320 }, { echo: 100 }],
                seconds: 2.5 });
              // where the left side sounds again: each echo is the burst, later
              const onsets = [];
              let quiet = 25200;
              for (let i = quiet; i < left.length; i++) {
                if (Math.abs(left[i]) > 0.01 && i >= quiet) { onsets.push(i); quiet = i + 3000; }
              }
              return onsets;
            }""");
    double second = 24_000 + 96;
    double[] expected = {8000, 12_000, 16_000, 24_000};
    assertThat(found)
        .as("left, then right with the left a little; each its own")
        .hasSizeGreaterThan(3);
    for (double after : expected) {
      assertThat(DoubleStream.of(found)).anyMatch(at -> Math.abs(at - second - after) < 200);
    }
  }

  /**
   * A sound card of eight outputs: the click is where the audience is not, and in time with all.
   */
  @Test
  void theClickAndAPartGoToOutputsOfTheirOwn() {
    double[] found =
        numbers(
            """
            async () => {
              const burst = (slot, hertz) => ({ slot, hertz, level: 0.2, from: 24000, until: 24480 });
              const all = { tones: [burst(0, 1000), burst(1, 1000), burst(2, 1000)], parts: [{}, {}], channels: 8 };
              const { sides } = await mixed({ ...all, routes: [[-1, 3], [2, 1]] });
              const gone = await mixed({ ...all, routes: [[-1, "nowhere"], [2, 7]] });
              const peak = (side) => side.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
              const onset = (side) => side.findIndex((x) => Math.abs(x) > 0.001);
              return [...sides.map(peak), ...[0, 2, 6].map((k) => onset(sides[k])), ...gone.sides.map(peak)];
            }""");
    double one = 0.2;
    double[] peaks = {one, one, one, one, 0, 0, one, one};
    for (int i = 0; i < 8; i++) {
      assertThat(found[i]).as("output %s", i + 1).isCloseTo(peaks[i], within(0.001));
    }
    assertThat(found[8]).as("2 ms after it was played").isEqualTo(24_000 + 96);
    assertThat(found[9]).as("a part by itself").isEqualTo(found[8]);
    assertThat(found[10]).as("the click").isEqualTo(found[8]);
    double[] first = Arrays.copyOfRange(found, 11, 19);
    assertThat(first[0]).as("what goes nowhere is not with all").isCloseTo(one, within(0.001));
    assertThat(Arrays.stream(first).skip(2).max().orElseThrow()).isZero();
  }

  /** Held down by the same gain, what went in by itself is together what goes out. */
  @Test
  void peaksAreHeldAndThePartsTogetherAreTheWhole() {
    double[] found =
        numbers(
            """
            async () => {
              const tones = [
                { slot: 0, hertz: 1760, level: 0.8, from: 30000, until: 30600 },
                { slot: 1, hertz: 55, level: 0.9 },
                { slot: 2, hertz: 11987, level: 1.2, from: 20000, until: 29000 }];
              const parts = [{ room: 20 }, { pan: 40, echo: 30 }];
              const { sides, levels } = await mixed({ tones, parts, each: true, master: { gain: 1 } });
              let worst = 0;
              let peak = 0;
              for (let i = 0; i < sides[0].length; i++) {
                for (const side of [0, 1]) {
                  let sum = 0;
                  for (let k = 1; k < 5; k++) sum += sides[2 * k + side][i];
                  worst = Math.max(worst, Math.abs(sum - sides[side][i]));
                  peak = Math.max(peak, Math.abs(sides[side][i]));
                }
              }
              const held = Math.min(...levels.map((now) => now.held));
              const off = await mixed({ tones, parts, master: { gain: 1, limited: false } });
              return [worst, peak, held, Math.max(...off.sides[0].map(Math.abs)), Math.min(...off.levels.map((now) => now.held))];
            }""");
    assertThat(found[0]).as("difference of the parts from the whole").isLessThan(1e-5);
    assertThat(decibels(found[1])).as("peak").isBetween(-2.5, -1.0);
    assertThat(found[2]).as("it was held").isLessThan(0.8);
    assertThat(found[3]).as("without, it is too loud").isGreaterThan(1.3);
    assertThat(found[4]).isEqualTo(1);
  }
}
