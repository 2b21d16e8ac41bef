import assert from "node:assert/strict";
import { test } from "node:test";
import { comingRound, occurrences } from "../../main/js/player/occurrences.js";

/** Numbers below 1 that are the same in every run: a linear congruence of Numerical Recipes (from memory). */
function random(seed) {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

function someSpan(next) {
  const whole = (n) => Math.floor(next() * n);
  const length = 1 + whole(400);
  const start = whole(200) - 100;
  const from = whole(2000) - 1000;
  const notes = Array.from({ length: whole(30) }, (_, id) => {
    const note = [id, start + whole(length), 1 + whole(50), whole(128), 90];
    return next() < 0.2 ? [...note, 0, whole(2000) - 1000, whole(2000) - 1000] : note;
  }).sort((a, b) => a[1] - b[1]);
  const until = next() < 0.5 ? from + whole(1500) : undefined;
  return { id: "s", start, length, phase: from - whole(3000), from, until, notes };
}

test("what comes round is found by place as it is by going through all notes", () => {
  const next = random(7);
  for (let i = 0; i < 3000; i++) {
    const span = someSpan(next);
    const after = Math.floor(next() * 3000) - 1500;
    const last = after + Math.floor(next() * 900);
    const found = [];
    comingRound(span, after, last, (note, tick) => found.push([note[0], tick]));
    const naive = span.notes.flatMap((note) =>
      occurrences(span, note, after, last).map((tick) => [note[0], tick]),
    );
    const sorted = (list) => list.map(String).sort();
    assert.deepEqual(sorted(found), sorted(naive), JSON.stringify({ span, after, last }));
  }
});
