import assert from "node:assert/strict";
import { test } from "node:test";
import { lineFrom } from "../../main/js/player/repeated-keys.js";

const EIGHTHS = { step: 480, swing: 50, barTicks: 3840 };

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
