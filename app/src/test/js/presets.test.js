import assert from "node:assert/strict";
import { test } from "node:test";
import { presetOf } from "../../main/js/player/presets.js";

const bank = {
  presets: [
    { program: 0, bankMSB: 0, isDrum: false, name: "piano" },
    { program: 8, bankMSB: 0, isDrum: false, name: "celesta" },
    { program: 9, bankMSB: 0, isDrum: false, name: "glockenspiel" },
    { program: 9, bankMSB: 1, isDrum: false, name: "another" },
    { program: 0, bankMSB: 128, isDrum: true, name: "standard kit" },
  ],
};

test("a sound is found by its program", () => {
  assert.equal(presetOf(bank, { drums: false, program: 9 }).name, "glockenspiel");
  assert.equal(presetOf(bank, { drums: true, program: 0 }).name, "standard kit");
});

// General MIDI 1: programs 9 to 16, counted from 1, are the chromatic percussion, of which celesta is the first.
test("one that the bank lacks is played by the first of its family", () => {
  assert.equal(presetOf(bank, { drums: false, program: 14 }).name, "celesta");
  assert.equal(presetOf(bank, { drums: true, program: 48 }).name, "standard kit");
});

test("without its family, by whatever there is", () => {
  assert.equal(presetOf(bank, { drums: false, program: 100 }).name, "piano");
});
