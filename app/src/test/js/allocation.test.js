import assert from "node:assert/strict";
import { execFileSync } from "node:child_process";
import { test } from "node:test";
import { fileURLToPath } from "node:url";

// What the audio thread leaves on the heap is cleared away while the music goes on.

/** One number made in each block is 16. */
const NOTHING = 12;

/** The instants of a block are numbers that one function hands another. */
const INSTANTS = 96;

/** A note struck, and its end: what is told of them, and what remembers them. */
const OF_A_NOTE = 900;

const FLAGS = ["--expose-gc", "--single-threaded", "--min-semi-space-size=64", "--max-semi-space-size=64"];

/** How many bytes a block leaves. */
function counted(what, ...how) {
  const script = fileURLToPath(new URL(`../js-support/${what}-counted.js`, import.meta.url));
  return Number(execFileSync(process.execPath, [...FLAGS, script, ...how], { encoding: "utf8" }));
}

test("the master makes nothing on the heap as it goes", () => {
  const bytes = counted("master");
  assert.ok(Math.abs(bytes) <= NOTHING, `${bytes} bytes a block`);
});

test("the player makes nothing but the block's instants where nothing begins or ends", () => {
  const bytes = counted("player");
  assert.ok(Math.abs(bytes) <= INSTANTS, `${bytes} bytes a block`);
});

test("the player makes little for a note", () => {
  // each of sixteen parts has a note about every block: 128 frames are 5.12 ticks
  const bytes = counted("player", "struck") / 16;
  assert.ok(bytes <= OF_A_NOTE, `${bytes} bytes a note`);
});
