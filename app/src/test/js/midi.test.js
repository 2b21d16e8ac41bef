import assert from "node:assert/strict";
import { test } from "node:test";
import { InputHub } from "../../main/js/input/hub.js";
import { MidiBytes } from "../../main/js/input/midi-bytes.js";

function messages(bytes) {
  const found = [];
  new MidiBytes((message) => found.push(message)).take(bytes);
  return found;
}

// MIDI 1.0 Detailed Specification, table "Summary of status bytes": lengths of the channel messages.
test("each channel message has the length that the standard's table says", () => {
  assert.deepEqual(messages([0x80, 60, 64]), [[0x80, 60, 64]]);
  assert.deepEqual(messages([0x9f, 60, 0]), [[0x9f, 60, 0]]);
  assert.deepEqual(messages([0xa1, 60, 7]), [[0xa1, 60, 7]]);
  assert.deepEqual(messages([0xb2, 64, 127]), [[0xb2, 64, 127]]);
  assert.deepEqual(messages([0xc3, 5]), [[0xc3, 5, 0]]);
  assert.deepEqual(messages([0xd4, 99]), [[0xd4, 99, 0]]);
  assert.deepEqual(messages([0xe5, 0x10, 0x4e]), [[0xe5, 0x10, 0x4e]]);
});

test("running status goes on until another status", () => {
  assert.deepEqual(messages([0x90, 60, 90, 62, 91, 0x80, 60, 0, 62, 0]), [
    [0x90, 60, 90],
    [0x90, 62, 91],
    [0x80, 60, 0],
    [0x80, 62, 0],
  ]);
});

test("real-time bytes may stand anywhere, also inside a message", () => {
  assert.deepEqual(messages([0x90, 0xf8, 60, 0xfe, 90, 0xfa, 62, 0xf8, 91]), [
    [0x90, 60, 90],
    [0x90, 62, 91],
  ]);
});

test("system exclusive and system common are passed over, and end the running status", () => {
  assert.deepEqual(messages([0xf0, 1, 2, 3, 0xf7, 60, 90]), []);
  assert.deepEqual(messages([0x90, 60, 90, 0xf2, 1, 2, 62, 91]), [[0x90, 60, 90]]);
  assert.deepEqual(messages([60, 90, 0x90, 60]), []);
  assert.deepEqual(messages([0xf0, 1, 0x91, 60, 5]), [[0x91, 60, 5]]);
});

const OPEN = {
  devices: [],
  channels: [],
  lowest: 0,
  highest: 127,
  transpose: 0,
  velocity: null,
  offset: 0,
  keys: true,
};

function hub(input = {}) {
  const told = [];
  const sounded = [];
  const state = {
    armedPart: { id: 1 },
    hears: [
      { part: 1, ...OPEN, ...input },
      { part: 2, ...OPEN },
    ],
  };
  const sound = {
    down: (id, pitch, velocity) => sounded.push(["down", id, pitch, velocity]),
    up: (id, pitch) => sounded.push(["up", id, pitch]),
    move: (id, kind, number, value) => sounded.push(["move", id, kind, number, value]),
    press: () => {},
  };
  const connection = { do: (command) => told.push(command), clock: { at: (own) => own * 1000 } };
  const made = new InputHub(connection, sound, state);
  made.setLive(true);
  return { hub: made, told, sounded };
}

test("a key sounds on the parts on which hands are heard, as each takes it", () => {
  const { hub: input, told, sounded } = hub({ transpose: -12, velocity: 99 });
  input.receive("keys", [0x90, 60, 20], 1);
  input.receive("keys", [0x90, 60, 0], 2);
  assert.deepEqual(sounded, [
    ["down", 1, 48, 99],
    ["down", 2, 60, 20],
    ["up", 1, 48],
    ["up", 2, 60],
  ]);
  assert.deepEqual(
    told.map((command) => [command.do, command.pitch]),
    [
      ["keyDown", 60],
      ["keyUp", 60],
    ],
  );
});

test("another channel than the part listens to is told, but does not sound on it", () => {
  const { hub: input, sounded } = hub({ channels: [3] });
  input.receive("keys", [0x90, 60, 20], 1);
  assert.deepEqual(sounded, [["down", 2, 60, 20]]);
});

test("a part takes what comes from its devices, of keys those in its range", () => {
  const { hub: input, sounded } = hub({ devices: ["pads"], lowest: 36, highest: 51, transpose: 12 });
  input.receive("keys", [0x90, 40, 20], 1);
  input.receive("pads", [0x90, 52, 20], 2);
  input.receive("pads", [0x90, 51, 20], 3);
  assert.deepEqual(
    sounded.filter(([, id]) => id === 1),
    [["down", 1, 63, 20]],
  );
});

test("where keys choose what is erased they are not heard", () => {
  const { hub: input, sounded } = hub({ keys: false });
  input.receive("keys", [0x90, 60, 20], 1);
  assert.deepEqual(sounded, [["down", 2, 60, 20]]);
});

test("what is played where the sound is not does not count, and what was held is let go", () => {
  const { hub: input, told, sounded } = hub();
  let elsewhere = 0;
  input.addEventListener("elsewhere", () => elsewhere++);
  input.receive("keys", [0x90, 60, 20], 1);
  input.setLive(false);
  assert.equal(input.down.size, 0);
  assert.equal(told.at(-1).do, "keyUp");
  const before = [told.length, sounded.length];
  input.receive("keys", [0x90, 62, 20], 2);
  input.receive("keys", [0xb0, 64, 127], 3);
  assert.deepEqual([told.length, sounded.length], before);
  assert.equal(elsewhere, 2);
});

test("the sustain pedal is down from 64 on, and told once", () => {
  const { hub: input, told } = hub();
  for (const value of [10, 63, 64, 100, 127, 63, 0]) {
    input.receive("keys", [0xb0, 64, value], 1);
  }
  assert.deepEqual(
    told.map(({ do: name, value }) => [name, value]),
    [
      ["sustain", 64],
      ["sustain", 0],
    ],
  );
});

test("a bend has fourteen bits, the lower seven first", () => {
  const { hub: input, told } = hub();
  input.receive("keys", [0xe0, 0x10, 0x4e], 1);
  assert.deepEqual([told[0].controller, told[0].value], ["bend", 10_000]);
});

test("a flood from a broken device is thinned, and the last value arrives", async () => {
  const { hub: input, told } = hub();
  for (let i = 0; i < 2000; i++) {
    input.receive("broken", [0xb0, 1, i % 128], performance.now());
  }
  await new Promise((done) => setTimeout(done, 20));
  assert.ok(told.length < 200, `${told.length} were told`);
  assert.equal(told.at(-1).value, 1999 % 128);
});

test("a device that goes leaves no key down", () => {
  const { hub: input, told } = hub();
  input.receive("keys", [0x90, 60, 20], 1);
  input.receive("keys", [0xb0, 64, 127], 1);
  input.gone("keys");
  assert.deepEqual(told.map((command) => command.do).sort(), ["keyDown", "keyUp", "sustain", "sustain"]);
});
