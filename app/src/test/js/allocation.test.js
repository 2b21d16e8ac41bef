import assert from "node:assert/strict";
import { execFileSync } from "node:child_process";
import { test } from "node:test";
import { fileURLToPath } from "node:url";

/** A report to the page is a message, twenty a second; one number made in each block is 16. */
const MOST_BYTES_A_BLOCK = 12;

/**
 * What the audio thread leaves on the heap is cleared away while the music goes on. Counted by the engine itself, in a
 * process that compiles in the same thread (the same figure each time), with room for all that is made meanwhile.
 */
test("the master makes nothing on the heap as it goes", () => {
  const counting = fileURLToPath(new URL("../js-support/master-counted.js", import.meta.url));
  const flags = ["--expose-gc", "--single-threaded", "--min-semi-space-size=64", "--max-semi-space-size=64"];
  const bytes = Number(execFileSync(process.execPath, [...flags, counting], { encoding: "utf8" }));
  assert.ok(Math.abs(bytes) <= MOST_BYTES_A_BLOCK, `${bytes} bytes a block`);
});
