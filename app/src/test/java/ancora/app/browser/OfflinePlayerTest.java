package ancora.app.browser;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The audio thread's player. */
class OfflinePlayerTest extends OfflineSound {

  private static final String SCRIPT =
      """
      async () => {
        const rate = 48000;
        const { Decoder, fetchedBank, ...house } = await import("/built/offline.js");
        globalThis.house = house;
        const bank = await fetchedBank();
        const decoder = await Decoder.begin();
        decoder.take(bank);
        const decoded = new Map();
        const decode = async (sound) => {
          const name = JSON.stringify(sound);
          if (!decoded.has(name)) decoded.set(name, await decoder.decode(sound));
        };
        await decode({ drums: true, program: 0 });
        globalThis.decoded = decoded;
        globalThis.decode = decode;
        globalThis.render = async (plan, seconds, { bank: other = bank } = {}) => {
          await decode(plan.parts[0].sound);
          if (plan.parts[0].sound.second) await decode(plan.parts[0].sound.second.sound);
          for (const [, sound] of plan.parts[0].sounds ?? []) await decode(sound);
          const context = new OfflineAudioContext(2, seconds * rate, rate);
          await context.audioWorklet.addModule("/built/worklet.js");
          const given = [...decoded.values()].map((answer) => answer.lost ? { lost: answer.of } : answer);
          const known = other === bank ? given : given.filter(({ of }) => !of?.drums).map(({ of }) => ({ of, samples: [] }));
          const messages = [{ measure: { frame: 0, micros: 1.7e15 } }, ...known, { plan }];
          const options = { numberOfInputs: 0, outputChannelCount: [2], processorOptions: { bank: other, messages } };
          new AudioWorkletNode(context, "ancora-player", options).connect(context.destination);
          return (await context.startRendering()).getChannelData(0);
        };
        globalThis.planOf = (bpm, sound, notes, length, clicks = []) => ({
          tolerances: { entryMicros: 30e3, leastRest: 240, handBeforeMicros: 80e3, strokeTicks: 120, sameGestureMicros: 60e3 },
          rolling: true, firstTick: 0, anchors: [[0, 1.7e15, 60e6 / bpm / 960]],
          click: { ticks: 960, perBeat: 1, velocities: [120, 92, 71], barTicks: 3840, beatKey: 77, downbeatKey: 76, gain: 1, spans: clicks },
          parts: [{ part: 1, sound, spans: [{ id: "s", start: 0, length, phase: 0, from: 0, notes }] }],
          order: [1],
        });
      }""";

  @BeforeAll
  static void script() {
    page.evaluate(SCRIPT);
  }

  /**
   * One stroke alone is the measure: the sum of that stroke, moved to the frames where the tempo's
   * arithmetic puts the notes, is what four passes must give, sample for sample.
   */
  @ParameterizedTest
  @ValueSource(doubles = {120, 97.3, 133.777})
  void everyOnsetIsOnItsSample(double bpm) {
    double[] found =
        numbers(
            """
            async (bpm) => {
              const kit = { drums: true, program: 0 };
              const one = await render(planOf(bpm, kit, [[1, 0, 90, 37, 100]], 3840 * 1000), 2);
              const places = Array.from({ length: 8 }, (_, i) => i * 480);
              const notes = places.map((place, i) => [i + 1, place, 90, 37, 100]);
              const seconds = Math.floor((4 * 4 * 60) / bpm);
              const all = await render(planOf(bpm, kit, notes, 3840), seconds);
              const expected = new Float32Array(all.length);
              for (let tick = 0; ; tick += 480) {
                const frame = Math.floor((tick * 60 * 48000) / bpm / 960 + 0.05);
                if (frame >= all.length) break;
                for (let i = 0; i < one.length && frame + i < all.length; i++) expected[frame + i] += one[i];
              }
              let worst = 0;
              let peak = 0;
              for (let i = 0; i < all.length; i++) {
                worst = Math.max(worst, Math.abs(all[i] - expected[i]));
                peak = Math.max(peak, Math.abs(all[i]));
              }
              let byOneSample = 0;
              for (let i = 1; i < one.length; i++) byOneSample = Math.max(byOneSample, Math.abs(one[i] - one[i - 1]));
              return [worst, peak, byOneSample];
            }""",
            bpm);
    assertThat(found[1]).as("it sounds").isGreaterThan(0.01);
    // a stroke's last decay is shortened by the next one's attack, which leaves a small difference
    assertThat(found[0])
        .as("difference from the sum of single strokes; one sample off would make " + found[2])
        .isLessThan(found[2] / 10);
  }

  /** A note that rings over the line: no gap, no second attack, level within 1 dB. */
  @Test
  void aNoteRingingOverTheLineIsLevelAcrossIt() {
    double[] found =
        numbers(
            """
            async () => {
              const organ = { drums: false, program: 19 };
              const plan = planOf(120, organ, [[1, 1920, 3840 - 480, 60, 100]], 3840);
              const all = await render(plan, 8);
              const level = (from) => {
                let sum = 0;
                for (let i = from; i < from + 4800; i++) sum += all[i] * all[i];
                return 10 * Math.log10(sum / 4800);
              };
              const lines = [2, 4, 6].map((line) => line * 48000);
              return lines.flatMap((at) => [-9600, -4800, 0, 4800, 9600].map((d) => level(at + d)));
            }""");
    assertThat(found[0]).isGreaterThan(-60);
    for (int line = 0; line < 3; line++) {
      for (int i = 0; i < 5; i++) {
        assertThat(Math.abs(found[line * 5 + i] - found[line * 5 + 2]))
            .as("line %s, tenth of a second %s", line + 1, i)
            .isLessThan(1);
      }
    }
  }

  /**
   * A part that turns to another sound: each note has the sound of its time, from its first frame.
   */
  @Test
  void aPartTurnsToAnotherSound() {
    double[] levels =
        numbers(
            """
            async () => {
              const kit = { drums: true, program: 0 };
              const organ = { drums: false, program: 19 };
              const stroke = [1, 0, 90, 37, 100];
              const chord = [2, 3840, 1900, 60, 100];
              const both = planOf(120, kit, [stroke, chord], 3840 * 1000);
              both.parts[0].sounds = [[3840, organ]];
              const all = await render(both, 3);
              const one = await render(planOf(120, kit, [stroke], 3840 * 1000), 3);
              const other = await render(planOf(120, organ, [chord], 3840 * 1000), 3);
              let worst = 0;
              let peak = 0;
              for (let i = 0; i < all.length; i++) {
                worst = Math.max(worst, Math.abs(all[i] - one[i] - other[i]));
                peak = Math.max(peak, Math.abs(other[i]));
              }
              return [worst, peak];
            }""");
    assertThat(levels[1]).as("the organ sounds").isGreaterThan(0.01);
    assertThat(levels[0]).as("difference from each by itself").isLessThan(1e-4);
  }

  private static final String DIFFERENCE =
      """
      const difference = (one, other) => {
        let [worst, peak] = [0, 0];
        for (let i = 0; i < one.length; i++) {
          worst = Math.max(worst, Math.abs(one[i] - other[i]));
          peak = Math.max(peak, Math.abs(one[i]));
        }
        return [worst, peak];
      };""";

  /**
   * A bank that a musician brings is played as by a synthesizer that has that bank for its own. It
   * is made by another writer of banks than the reader that checks it.
   */
  @Test
  void aSoundOfABankOfOnesOwnSoundsAsThatBankDoes() {
    double[] levels =
        numbers(
            """
            async () => {
              %s
              const file = house.BasicSoundBank.getSampleSoundBankFile();
              const { bank, why } = await house.bringBank(new File([file], "harbour.sf2"));
              if (why) throw new Error(why);
              const [preset] = bank.presets;
              const { program, drums, number, name } = preset;
              const own = { drums, program, own: { bank: bank.bank, file: bank.file, number, name } };
              const notes = [[1, 0, 900, 60, 100], [2, 1920, 900, 67, 80]];
              const mine = await render(planOf(120, own, notes, 3840), 2);
              const plain = await render(planOf(120, { drums, program }, notes, 3840), 2, { bank: file });
              const other = await render(planOf(120, { drums, program }, notes, 3840), 2);
              return [...difference(mine, plain), difference(mine, other)[0]];
            }"""
                .formatted(DIFFERENCE));
    assertThat(levels[1]).as("it sounds").isGreaterThan(0.01);
    assertThat(levels[0]).as("difference from the bank itself").isLessThan(1e-4);
    assertThat(levels[2]).as("and it is not General MIDI's").isGreaterThan(0.01);
  }

  @Test
  void aSoundWhoseBankIsNotHereIsPlayedByWhatStandsForIt() {
    double[] levels =
        numbers(
            """
            async () => {
              %s
              const lost = { drums: false, program: 19, own: { bank: "0".repeat(64), file: "gone.sf2", number: 0, name: "Fog" } };
              const organ = { drums: false, program: 19 };
              await decode(organ);
              const notes = [[1, 0, 1900, 60, 100]];
              const one = await render(planOf(120, lost, notes, 3840), 2);
              return difference(one, await render(planOf(120, organ, notes, 3840), 2));
            }"""
                .formatted(DIFFERENCE));
    assertThat(levels[1]).isGreaterThan(0.01);
    assertThat(levels[0]).isLessThan(1e-6);
  }

  /**
   * Two sounds under one hand are each by itself, added: the second an octave higher, on low keys.
   */
  @Test
  void aSecondSoundIsAddedOnItsKeysHigherAndSofter() {
    double[] levels =
        numbers(
            """
            async () => {
              %s
              const organ = { drums: false, program: 19 };
              const strings = { drums: false, program: 48 };
              const second = { sound: strings, level: -6, gain: 10 ** (-6 / 20), transpose: 12, lowest: 0, highest: 64 };
              const notes = [[1, 0, 900, 60, 100], [2, 1920, 900, 67, 80]];
              const both = await render(planOf(120, { ...organ, second }, notes, 3840), 2);
              const first = await render(planOf(120, organ, notes, 3840), 2);
              const higher = await render(planOf(120, strings, [[1, 0, 900, 72, 100]], 3840), 2);
              const sum = first.map((x, i) => x + higher[i] * 10 ** (-6 / 20));
              return [...difference(both, sum), difference(both, first)[0]];
            }"""
                .formatted(DIFFERENCE));
    assertThat(levels[1]).isGreaterThan(0.01);
    assertThat(levels[0]).as("difference from the sum").isLessThan(1e-5);
    assertThat(levels[2]).as("the second is heard").isGreaterThan(0.01);
  }

  /** Two samples of one's own: each as it is, softer by its velocity, on its beat. */
  @Test
  void theClickHasSamplesOfOnesOwn() {
    double[] click =
        numbers(
            """
            async () => {
              const { Decoder } = await import("/built/offline.js");
              const burst = (hertz) => Float32Array.from({ length: 2400 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hertz * (i + 1)) / 48000));
              const decoder = await Decoder.begin();
              const { made } = await decoder.makeKit([[76, burst(1000), 48000], [77, burst(500), 48000]]);
              const { bank, why } = await house.bringBank(new File([made], "lantern click"));
              if (why) throw new Error(why);
              const own = { bank: bank.bank, file: bank.file, number: 0, name: "Click" };
              await decode({ drums: true, program: 0, own });
              const plan = planOf(120, { drums: false, program: 0 }, [], 3840, [[0, 3840]]);
              plan.click = { ...plan.click, own, velocities: [120, 92, 71] };
              const all = await render(plan, 2);
              const peak = (from) => all.slice(from, from + 2400).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
              const crossings = (from) => {
                let count = 0;
                for (let i = from + 1; i < from + 2400; i++) count += all[i - 1] < 0 && all[i] >= 0 ? 1 : 0;
                return count;
              };
              const onset = (from) => all.findIndex((x, i) => i >= from && Math.abs(x) > 0.001) - from;
              return [peak(0), peak(24000), crossings(0), crossings(24000), onset(0), onset(24000), peak(12000)];
            }""");
    assertThat(click[0]).as("it sounds").isGreaterThan(0.1);
    assertThat(20 * Math.log10(click[0] / click[1])).as("dB of the accent").isBetween(3.5, 5.5);
    assertThat(click[2]).as("1000 Hz for 50 ms").isBetween(45.0, 51.0);
    assertThat(click[3]).as("500 Hz for 50 ms").isBetween(22.0, 26.0);
    assertThat(click[4]).isBetween(0.0, 48.0);
    assertThat(click[5]).isBetween(0.0, 48.0);
    assertThat(click[6]).as("nothing between").isZero();
  }

  @Test
  void theClickSoundsOnItsBeats() {
    double[] found =
        numbers(
            """
            async () => {
              const all = await render(planOf(120, { drums: true, program: 0 }, [], 3840, [[0, 3840]]), 4);
              const found = [];
              for (let i = 0, quiet = 0; i < all.length; i++) {
                if (Math.abs(all[i]) > 0.005 && i >= quiet) { found.push(i); quiet = i + 12000; }
              }
              return found;
            }""");
    assertThat(found).as("four beats, then silence").hasSize(4);
    for (int i = 0; i < 4; i++) {
      assertThat(found[i] - i * 24000)
          .as("frames after the beat, as the wood block sets in")
          .isBetween(0.0, 240.0);
    }
  }
}
