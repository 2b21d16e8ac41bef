import assert from "node:assert/strict";
import { test } from "node:test";

/** What a device is sent, as bytes; the page that goes is asked to put all out. */
async function lamps(lit, { rolling = true } = {}) {
  const sent = [];
  let leaves = () => {};
  globalThis.addEventListener = (kind, act) => (leaves = kind === "pagehide" ? act : leaves);
  const { Lamps } = await import("../../main/js/output/lamps.js");
  const midi = new EventTarget();
  midi.outputs = new Map([["pads", { send: (bytes) => sent.push(bytes) }]]);
  const state = { lit, transport: { rolling }, show: { meter: { beatTicks: 960 } } };
  const controls = {
    map: { lamps: { nothing: 0, ready: 5, sounding: 20, cued: 60, recording: 100, on: 127 } },
  };
  return { lamps: new Lamps(midi, state, controls), state, sent, midi, leave: () => leaves() };
}

test("a lamp is sent what its command would find, once, as a velocity or a value", async () => {
  const {
    lamps: all,
    state,
    sent,
  } = await lamps({
    "pads NOTE 9 36": "SOUNDING",
    "pads CONTROL_CHANGE 0 80": "ON",
    "other NOTE 0 1": "READY",
  });
  all.tick(0);
  all.tick(10);
  assert.deepEqual(sent, [
    [0x99, 36, 20],
    [0xb0, 80, 127],
  ]);
  state.lit = { ...state.lit, "pads NOTE 9 36": "NOTHING" };
  all.tick(20);
  assert.deepEqual(sent.slice(2), [[0x99, 36, 0]]);
});

test("what is cued blinks on the beat, and is lit at standstill", async () => {
  const { lamps: all, state, sent } = await lamps({ "pads NOTE 0 1": "CUED" });
  for (const tick of [0, 400, 480, 900, 960, -1]) {
    all.tick(tick);
  }
  assert.deepEqual(
    sent.map(([, , value]) => value),
    [60, 5, 60, 5],
  );
  state.transport.rolling = false;
  all.tick(500);
  assert.equal(sent.at(-1)[2], 60);
});

test("all go out with the page, and a device that comes back is told again", async () => {
  const { lamps: all, sent, midi, leave } = await lamps({ "pads NOTE 0 1": "ON" });
  all.tick(0);
  leave();
  assert.deepEqual(sent.at(-1), [0x90, 1, 0]);
  all.tick(1);
  midi.dispatchEvent(new Event("devices"));
  all.tick(2);
  assert.deepEqual(
    sent.map(([, , value]) => value),
    [127, 0, 127, 127],
  );
});
