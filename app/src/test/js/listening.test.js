import assert from "node:assert/strict";
import { test } from "node:test";
import { channelsInWords, channelsOf } from "../../main/js/stage/listening.js";

test("channels are told as musicians count them, and understood", () => {
  for (const [channels, words] of [
    [[], ""],
    [[0], "1"],
    [[0, 2, 3, 4, 9], "1, 3–5, 10"],
    [[14, 15], "15–16"],
  ]) {
    assert.equal(channelsInWords(channels), words);
    assert.deepEqual(channelsOf(words), channels);
  }
  assert.deepEqual(channelsOf(" 5 - 3"), null);
  assert.deepEqual(channelsOf("3-5 1"), [0, 2, 3, 4]);
});

test("what is no channel is not taken for one", () => {
  for (const words of ["0", "17", "x", "1-", "4–2"]) {
    assert.equal(channelsOf(words), null, words);
  }
  assert.deepEqual(channelsOf("all"), []);
});
