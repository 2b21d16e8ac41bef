import assert from "node:assert/strict";
import { execFileSync } from "node:child_process";
import { test } from "node:test";
import { fileURLToPath } from "node:url";

// What the audio thread leaves on the heap is cleared away while the music goes on.

/**
 * Numbers that one function hands another may be made there, as an engine likes. One for each frame of a block would be
 * 2048 bytes, one object for each of sixteen parts a thousand.
 */
const NUMBERS = 256;

/** A note struck, and its end: what is told of them, and what remembers them. */
const OF_A_NOTE = 1500;

const FLAGS = ["--expose-gc", "--single-threaded", "--min-semi-space-size=64", "--max-semi-space-size=64"];

/** How many bytes a block leaves. */
function counted(what, ...how) {
  const script = fileURLToPath(new URL(`../js-support/${what}-counted.js`, import.meta.url));
  return Number(execFileSync(process.execPath, [...FLAGS, script, ...how], { encoding: "utf8" }));
}

test("the master makes nothing on the heap as it goes", () => {
  const bytes = counted("master");
  assert.ok(Math.abs(bytes) <= NUMBERS, `${bytes} bytes a block`);
});

test("the player makes nothing in a block in which nothing begins or ends", () => {
  const bytes = counted("player");
  assert.ok(Math.abs(bytes) <= NUMBERS, `${bytes} bytes a block`);
});

test("the player makes little for a note", () => {
  // each of sixteen parts has a note about every block: 128 frames are 5.12 ticks
  const bytes = counted("player", "struck") / 16;
  assert.ok(bytes <= OF_A_NOTE, `${bytes} bytes a note`);
});
