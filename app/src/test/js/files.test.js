import { strict as assert } from "node:assert";
import { test } from "node:test";
import { Loop } from "../../main/js/files/loop.js";
import { TruePeak } from "../../main/js/player/true-peak.js";

// ITU-R BS.1770-4, Annex 2: a tone of a quarter of the sample rate may lie with all its samples 3 dB below its peaks.
test("a peak between the samples is found, however the samples come", () => {
  const tone = (phase, per = 4) =>
    Float32Array.from({ length: 4000 }, (_, i) => Math.sin((2 * Math.PI * i) / per + phase));
  const decibels = (samples, piece) => {
    const peak = new TruePeak();
    for (let at = 0; at < samples.length; at += piece) {
      peak.take(samples.subarray(at, at + piece));
    }
    return 20 * Math.log10(peak.peak);
  };
  const between = tone(Math.PI / 4);
  assert.ok(Math.abs(Math.max(...between) - Math.SQRT1_2) < 1e-6);
  for (const piece of [4000, 128, 7]) {
    // at its very beginning a tone that begins at once overshoots: by the standard less than 0.6 dB are to be missed
    assert.ok(Math.abs(decibels(between, piece)) < 0.6, `${decibels(between, piece)} dB`);
  }
  assert.ok(Math.abs(decibels(tone(0, 50), 128)) < 0.1);
  assert.equal(new TruePeak().peak, 0);
});

test("what rings over the end of a loop lies on its beginning, and a pickup is none of it", () => {
  const loop = new Loop(3, 4);
  const frames = Float32Array.from([9, 9, 9, 1, 2, 3, 4, 10, 20, 30, 40, 100]);
  loop.take(frames.subarray(0, 5), frames.subarray(0, 5));
  loop.take(frames.subarray(5), frames.subarray(5));
  assert.deepEqual([...loop.left], [111, 22, 33, 44]);
  assert.deepEqual([...loop.right], [111, 22, 33, 44]);
});
