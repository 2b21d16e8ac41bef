import assert from "node:assert/strict";
import { test } from "node:test";
import { Limiter, framesAhead } from "../../main/js/player/limiter.js";
import { Loudness, headFilters } from "../../main/js/player/loudness.js";

const RATE = 48_000;
const BLOCK = 128;
const CEILING = 10 ** (-1 / 20);

const decibels = (factor) => 20 * Math.log10(factor);

/** What a limiter makes of a sound, block by block. */
function limited(left, right, on = true, rate = RATE) {
  const limiter = new Limiter(rate);
  limiter.on = on;
  const ahead = framesAhead(rate);
  const gains = new Float32Array(BLOCK);
  const out = [new Float32Array(left.length), new Float32Array(left.length)];
  for (let at = 0; at + BLOCK <= left.length; at += BLOCK) {
    limiter.listen(left.subarray(at, at + BLOCK), right.subarray(at, at + BLOCK), gains);
    for (let i = 0; i < BLOCK; i++) {
      out[0][at + i] = (left[at + i - ahead] ?? 0) * gains[i];
      out[1][at + i] = (right[at + i - ahead] ?? 0) * gains[i];
    }
  }
  return out;
}

/** Four times as many samples, by a sinc of 64 samples under a Blackman window: another one than the limiter's own. */
function truePeak(samples) {
  const reach = 32;
  let peak = 0;
  for (let phase = 0; phase < 4; phase++) {
    const weights = [];
    for (let k = -reach + 1; k <= reach; k++) {
      const x = k - phase / 4;
      const place = (x + reach) / (2 * reach);
      const window = 0.42 - 0.5 * Math.cos(2 * Math.PI * place) + 0.08 * Math.cos(4 * Math.PI * place);
      weights.push((x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * window);
    }
    for (let at = reach; at + reach < samples.length; at++) {
      let sum = 0;
      for (let k = 0; k < weights.length; k++) {
        sum += weights[k] * samples[at + k - reach + 1];
      }
      peak = Math.max(peak, Math.abs(sum));
    }
  }
  return peak;
}

/** Numbers from −1 to 1, the same each time (Park and Miller's generator). */
function noise(frames, seed) {
  let state = seed;
  return Float32Array.from({ length: frames }, () => {
    state = (state * 16807) % 2147483647;
    return state / 1073741823.5 - 1;
  });
}

const frames = 128 * 200;
const tone = (hertz, level, phase = 0) =>
  Float32Array.from({ length: frames }, (_, i) => level * Math.sin((2 * Math.PI * hertz * i) / RATE + phase));
const silent = new Float32Array(frames);

/** Bass with strokes on it: what a band gives at most. */
function band(seed) {
  const low = tone(55, 0.7);
  // nothing of a band lies at half the sample rate
  const white = noise(frames, seed);
  const strokes = white.map((x, i) => (x + 2 * (white[i - 1] ?? 0) + (white[i - 2] ?? 0)) / 4);
  return low.map((x, i) => x + 3 * strokes[i] * Math.exp(-(i % 6000) / 300));
}

const LOUD = {
  "a tone whose samples are below its peaks": [tone(RATE / 4, 2, Math.PI / 4), silent],
  "a tone that beats with the samples": [tone(11_987, 1.8), tone(11_987, 1.3)],
  "bass with strokes": [band(7), band(77)],
  "one click": [silent.map((_, i) => (i === 5000 ? 4 : 0)), silent],
  "a step": [silent.map((_, i) => (i > 9000 ? 1.5 : 0)), silent.map((_, i) => (i > 9000 ? -1.5 : 0))],
};

for (const [name, [left, right]] of Object.entries(LOUD)) {
  test(`what is limited peaks at −1 dB at most, between its samples too: ${name}`, () => {
    const out = limited(left, right);
    const highest = Math.max(truePeak(out[0]), truePeak(out[1]));
    assert.ok(decibels(highest) <= -1 + 0.01, `${decibels(highest)} dB`);
    assert.ok(decibels(highest) > -2, "nor is it held down further than need be");
    assert.ok(Math.max(truePeak(left), truePeak(right)) > CEILING, "it was too loud");
  });
}

test("what is soft enough comes through sample by sample, and so does all where it is off", () => {
  const ahead = framesAhead(RATE);
  const soft = band(3).map((x) => x * 0.15);
  const [out] = limited(soft, soft);
  const loud = band(3);
  const [off] = limited(loud, loud, false);
  for (let i = ahead; i < frames; i++) {
    assert.equal(out[i], soft[i - ahead]);
    assert.equal(off[i], loud[i - ahead]);
  }
});

test("after a peak the gain comes back, and is one again", () => {
  const left = tone(440, 0.2).map((x, i) => (i > 2000 && i < 2100 ? 6 * x : x));
  const [out] = limited(left, silent);
  const ahead = framesAhead(RATE);
  const gainAt = (i) => out[i] / left[i - ahead];
  assert.ok(gainAt(2100 + ahead - 60) < 0.9);
  const end = frames - 1;
  assert.ok(Math.abs(gainAt(end) - 1) < 0.01);
});

// ITU-R BS.1770-4, Annex 1, Tables 1 and 2: the filters at 48 kHz, as they are printed there (from memory).
test("the filters of loudness are those of the standard at 48 kHz", () => {
  const [shelf, pass] = headFilters(RATE);
  const near = (found, printed) =>
    found.forEach((x, i) => assert.ok(Math.abs(x - printed[i]) < 1e-8, `${x}`));
  near(shelf.b, [1.53512485958697, -2.69169618940638, 1.19839281085285]);
  near(shelf.a, [-1.69065929318241, 0.73248077421585]);
  near(pass.b, [1, -2, 1]);
  near(pass.a, [-1.99004745483398, 0.99007225036621]);
});

/** A loudness of tones of 1 kHz, one after another: [dB full scale, seconds] each. */
function loudness(rate, parts, sides = 2, hertz = 1000) {
  const meter = new Loudness(rate, true);
  let at = 0;
  for (const [level, seconds] of parts) {
    const samples = Float32Array.from(
      { length: Math.round(seconds * rate) },
      () => 10 ** (level / 20) * Math.sin((2 * Math.PI * hertz * at++) / rate),
    );
    meter.take(samples, sides === 2 ? samples : new Float32Array(samples.length));
  }
  return meter;
}

// EBU Tech 3341, table 1, cases 1 to 5: a meter is to say these within 0.1 (from memory).
const CASES = [
  [[[-23, 20]], -23],
  [[[-33, 20]], -33],
  [[[-36, 10], [-23, 60], [-36, 10]], -23], // prettier-ignore
  [[[-72, 10], [-36, 10], [-23, 60], [-36, 10], [-72, 10]], -23], // prettier-ignore
  [[[-26, 20], [-20, 20.1], [-26, 20]], -23], // prettier-ignore
];
CASES.forEach(([parts, expected], i) => {
  test(`loudness as EBU Tech 3341 has it, case ${i + 1}`, () => {
    for (const rate of [44_100, 48_000]) {
      const found = loudness(rate, parts).integrated();
      assert.ok(Math.abs(found - expected) <= 0.1, `${found} LUFS at ${rate}`);
    }
  });
});

test("a full tone of 997 Hz in one channel is at −3.01 LUFS, of the last 3 s too", () => {
  const meter = loudness(RATE, [[-50, 4], [0, 3]], 1, 997); // prettier-ignore
  assert.ok(Math.abs(meter.shortTerm() + 3.01) < 0.01, `${meter.shortTerm()}`);
  assert.equal(new Loudness(RATE).shortTerm(), -Infinity);
  assert.equal(new Loudness(RATE, true).integrated(), -Infinity);
});
