import assert from "node:assert/strict";
import test from "node:test";
import { passAt } from "../../main/js/stage/time.js";

const BAR = 3840;

test("a loop that rests for a bar begins at its own beginning after each", () => {
  const vamp = { phase: 0, from: 0, breather: { from: 4 * BAR, ticks: BAR } };
  assert.deepEqual(passAt(vamp, 4 * BAR, 4 * BAR - 1), {
    line: 0,
    round: 4 * BAR,
    place: 4 * BAR - 1,
    rest: 0,
  });
  assert.equal(passAt(vamp, 4 * BAR, 8 * BAR + 10).rest, BAR - 10);
  assert.equal(passAt(vamp, 4 * BAR, 8 * BAR + 10).place, 4 * BAR);
  assert.equal(passAt(vamp, 4 * BAR, 9 * BAR + 10).place, 10);
});

test("once the breather is over it goes round in its length again", () => {
  const vamp = { phase: 0, from: 0, breather: { from: 0, ticks: BAR, until: 5 * BAR } };
  assert.equal(passAt(vamp, 4 * BAR, 9 * BAR + 10).place, 10);
  assert.equal(passAt(vamp, 4 * BAR, 9 * BAR + 10).rest, 0);
});

test("a loop sounds through a rest that is as long as it", () => {
  const vamp = { phase: 0, from: 0, breather: { from: 0, ticks: BAR } };
  assert.deepEqual(passAt(vamp, BAR, BAR + 960), { line: 0, round: 2 * BAR, place: 960, rest: BAR - 960 });
});
