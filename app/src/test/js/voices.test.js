import assert from "node:assert/strict";
import { test } from "node:test";
import { SoundingControllers } from "../../main/js/player/sounding-controllers.js";
import { lineFrom, RepeatedKeys, soonTicks } from "../../main/js/player/repeated-keys.js";
import { TempoMap } from "../../main/js/player/tempo-map.js";
import { PEDAL, Voices } from "../../main/js/player/voices.js";

const HOLD = { span: "1/2/0", note: 1, tick: 0, end: 960 };
const EIGHTHS = { step: 480, swing: 50, barTicks: 3840 };

/** What came out, as words: "on 60 @100". */
function worded(out) {
  return out.map(({ kind, pitch, micros }) => `${kind} ${pitch} @${micros}`);
}

// Rule 16.2: one voice for a part and pitch, held by the loop, the hand, or both.
test("a voice ends when neither hand nor loop holds it", () => {
  const voices = new Voices();
  const out = [];
  voices.handDown(out, 100_000, 1, 60, 90);
  voices.loopDown(out, 400_000, 1, 60, 80, HOLD, false, false, 60_000);
  assert.deepEqual(worded(out), ["on 60 @100000", "off 60 @400000", "on 60 @400000"]);
  voices.handUp(out, 500_000, 1, 60);
  assert.equal(out.length, 3, "the loop holds it still");
  voices.loopUp(out, 600_000, voices.heldByLoops()[0]);
  assert.deepEqual(worded(out).slice(3), ["off 60 @600000"]);
  assert.ok(!voices.isSounding(1, 60));
});

test("a loop attack up to 60 ms after the hand's takes hold without attacking", () => {
  for (const [after, attacks] of [
    [60_000, 1],
    [60_001, 2],
  ]) {
    const voices = new Voices();
    const out = [];
    voices.handDown(out, 100_000, 1, 60, 90);
    voices.loopDown(out, 100_000 + after, 1, 60, 80, HOLD, false, false, 60_000);
    assert.equal(out.filter(({ kind }) => kind === "on").length, attacks, `${after} µs after`);
  }
});

test("what is tied takes hold of what sounds, and is attacked where nothing does", () => {
  const voices = new Voices();
  const out = [];
  voices.loopDown(out, 1000, 1, 60, 80, HOLD, true, false, 60_000);
  voices.loopDown(out, 2000, 1, 60, 80, { ...HOLD, tick: 3840 }, true, false, 60_000);
  assert.deepEqual(worded(out), ["on 60 @1000"]);
});

test("parts do not end each other's voices, nor pitches each other's", () => {
  const voices = new Voices();
  const out = [];
  voices.handDown(out, 0, 1, 60, 90);
  voices.handDown(out, 0, 2, 60, 90);
  voices.handDown(out, 0, 1, 61, 90);
  voices.handUp(out, 10, 1, 60);
  assert.ok(voices.isSounding(2, 60) && voices.isSounding(1, 61) && !voices.isSounding(1, 60));
  voices.handUp(out, 20, 3, 60);
  assert.equal(out.length, 4, "an up with no down is nothing");
});

// MIDI 1.0: controller 64 is the damper pedal; rule 11: the channel gets the greater of loop and foot.
test("the sustain pedal is controller 64, and what is down is not pressed again", () => {
  const voices = new Voices();
  const out = [];
  voices.handDown(out, 0, 1, PEDAL, 127);
  voices.loopDown(out, 10, 1, PEDAL, 127, HOLD, false, false, 60_000);
  voices.handUp(out, 20, 1, PEDAL);
  voices.loopUp(out, 30, voices.heldByLoops()[0]);
  assert.deepEqual(
    out.map(({ kind, pitch, velocity, micros }) => [kind, pitch, velocity, micros]),
    [
      ["control", 64, 127, 0],
      ["control", 64, 0, 30],
    ],
  );
});

test("everything can be ended at once, and nothing is ended twice", () => {
  const voices = new Voices();
  const out = [];
  voices.handDown(out, 0, 1, 60, 90);
  voices.loopDown(out, 0, 2, 40, 90, HOLD, false, false, 60_000);
  voices.endAll(out, 50);
  assert.deepEqual(worded(out).slice(2).sort(), ["off 40 @50", "off 60 @50"]);
  voices.endAll(out, 60);
  voices.handUp(out, 70, 1, 60);
  assert.equal(out.length, 4);
});

test("voices held by loops are in the order of their ends", () => {
  const voices = new Voices();
  [900, 100, Infinity, 500].forEach((end, i) =>
    voices.loopDown([], 0, 1, 60 + i, 90, { ...HOLD, end }, false, false, 60_000),
  );
  assert.deepEqual(
    voices.heldByLoops().map(({ loop }) => loop.end),
    [100, 500, 900, Infinity],
  );
});

function span(moves) {
  return { moves };
}

test("a loop's controller is sent only where it is not already", () => {
  const controllers = new SoundingControllers();
  const out = [];
  controllers.loopMoves(out, 10, 1, 0, 1, 64);
  controllers.loopMoves(out, 20, 1, 0, 1, 64);
  controllers.loopMoves(out, 30, 2, 0, 1, 64);
  controllers.move(out, 40, 1, 0, 1, 5);
  controllers.loopMoves(out, 50, 1, 0, 1, 64);
  assert.deepEqual(
    out.map(({ micros }) => micros),
    [10, 30, 40, 50],
  );
});

test("at an entry the value in force is counted round the circle", () => {
  const controllers = new SoundingControllers();
  const out = [];
  const wheel = span([
    [0, 1, 480, 20],
    [0, 1, 960, 90],
    [1, 0, 2000, 12_000],
  ]);
  controllers.settle(out, 0, 1, wheel, 500);
  assert.deepEqual(
    out.map(({ kind, velocity }) => [kind, velocity]),
    [
      ["control", 20],
      ["bend", 12_000],
    ],
  );
  controllers.settle(out, 10, 1, wheel, 0);
  assert.equal(out.at(-1).velocity, 90, "before its first move the last one of the pass before is in force");
});

// MIDI 1.0: 2000H, 8192, is the centre of the pitch bend.
test("bend and pressure spring back, a control change stays", () => {
  const controllers = new SoundingControllers();
  const out = [];
  controllers.move(out, 0, 1, 1, 0, 9000);
  controllers.move(out, 0, 1, 2, 0, 40);
  controllers.move(out, 0, 1, 0, 7, 100);
  out.length = 0;
  controllers.releaseAll(out, 50);
  assert.deepEqual(
    out.map(({ kind, velocity }) => [kind, velocity]),
    [
      ["bend", 8192],
      ["pressure", 0],
    ],
  );
  out.length = 0;
  controllers.releaseAll(out, 60);
  assert.deepEqual(out, []);
});

// Rule 10.
test("a press soon after a line counts for it, a later one for the next", () => {
  const near = new RepeatedKeys();
  near.down(1, 60, 90, EIGHTHS, 510, 115);
  assert.deepEqual(near.upTo(520, 511, EIGHTHS), [{ tick: 511, part: 1, pitch: 60, velocity: 90 }]);
  const far = new RepeatedKeys();
  far.down(1, 60, 90, EIGHTHS, 600, 115);
  assert.deepEqual(far.upTo(959, 601, EIGHTHS), []);
  assert.equal(far.upTo(960, 950, EIGHTHS)[0].tick, 960);
});

test("a stroke lasts half a step, and pressure gives the next one's velocity", () => {
  const keys = new RepeatedKeys();
  keys.down(1, 60, 90, EIGHTHS, 0, 115);
  keys.upTo(10, 0, EIGHTHS);
  keys.pressure(1, 60, 33);
  assert.deepEqual(
    keys.upTo(960, 11, EIGHTHS).map(({ tick, velocity }) => [tick, velocity]),
    [
      [480, 33],
      [960, 33],
      [240, 0],
      [720, 0],
    ],
  );
  keys.up(1, 60);
  assert.deepEqual(keys.upTo(5000, 961, EIGHTHS), [], "a release ends it at once");
});

// Common practice: swing moves the second of each pair; bar lines are lines.
test("lines of a grid swing, and start afresh at each bar line", () => {
  const swung = { ...EIGHTHS, swing: 66.6667 };
  assert.deepEqual(
    [0, 1, 640, 641, 961].map((tick) => lineFrom(swung, tick)),
    [0, 640, 640, 960, 1600],
  );
  const sevenEight = { step: 960, swing: 50, barTicks: 3360 };
  assert.deepEqual(
    [2881, 3360, 3361].map((tick) => lineFrom(sevenEight, tick)),
    [3360, 3360, 4320],
  );
  assert.equal(lineFrom(EIGHTHS, -100), 0);
  assert.equal(lineFrom(EIGHTHS, -481), -480);
});

test("60 ms are 115 ticks at 120, and fewer where it is slower", () => {
  assert.equal(soonTicks(new TempoMap([[0, 0, 500_000 / 960]]), 1000), 115);
  assert.equal(soonTicks(new TempoMap([[0, 0, 1_000_000 / 960]]), 1000), 58);
});
