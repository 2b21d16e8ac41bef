import assert from "node:assert/strict";
import { test } from "node:test";
import { Concert } from "../../main/js/input/concert.js";
import { Flood } from "../../main/js/input/flood.js";
import { Midi } from "../../main/js/input/midi.js";
import { StandIn } from "../../main/js/input/stand-in.js";
import { TempoMap } from "../../main/js/player/tempo-map.js";

/** A stand-in for what browsers give (Web MIDI API: MIDIAccess, MIDIInput, "statechange"). */
class Access extends EventTarget {
  inputs = new Map();
  outputs = new Map();

  plug(id, name) {
    this.inputs.set(id, { id, name, state: "connected" });
    this.dispatchEvent(new Event("statechange"));
    return this.inputs.get(id);
  }

  unplug(id) {
    this.inputs.get(id).state = "disconnected";
    this.dispatchEvent(new Event("statechange"));
  }
}

/** @returns what came in, and what the engine was told */
function listening(access) {
  const heard = [];
  const told = [];
  const hub = {
    connection: { do: (command) => told.push(command) },
    receive: (device, message, own) => heard.push([device, message, own]),
    gone: (device) => heard.push([device, "gone"]),
  };
  const requestMIDIAccess =
    access === undefined
      ? undefined
      : async () => (access instanceof Error ? Promise.reject(access) : access);
  Object.defineProperty(globalThis, "navigator", { value: { requestMIDIAccess }, configurable: true });
  const midi = new Midi(hub);
  const words = [];
  const devices = [];
  midi.addEventListener("failed", ({ detail }) => words.push(detail));
  midi.addEventListener("devices", () => devices.push(midi.names));
  return { midi, heard, told, words, devices };
}

test("without MIDI, or without leave, the page says so once and all else works", async () => {
  for (const access of [undefined, new Error("NotAllowedError")]) {
    const { midi, words } = listening(access);
    await midi.open();
    await midi.open();
    assert.equal(words.length, 1);
    assert.match(words[0], /^No MIDI devices.*\.$/);
  }
});

test("a page by plain http says which page has devices", async (t) => {
  const { midi, words } = listening(undefined);
  await midi.open();
  assert.match(words[0], /open this page by https/);
  globalThis.isSecureContext = true;
  t.after(() => delete globalThis.isSecureContext);
  const other = listening(undefined);
  await other.midi.open();
  assert.match(other.words[0], /use another browser/);
});

test("what a device sends comes in with its name and its time", async () => {
  const access = new Access();
  const { midi, heard, devices } = listening(access);
  access.plug("1", "Quay keys");
  await midi.open();
  assert.deepEqual(devices, [["Quay keys"]]);
  access.inputs.get("1").onmidimessage({ data: [0x90, 60, 90, 62, 91], timeStamp: 1234.5 });
  assert.deepEqual(heard, [
    ["Quay keys", [0x90, 60, 90], 1234.5],
    ["Quay keys", [0x90, 62, 91], 1234.5],
  ]);
});

test("half a message waits for its other half, each device by itself", async () => {
  const access = new Access();
  const { midi, heard } = listening(access);
  const one = access.plug("1", "Keys");
  const two = access.plug("2", "Pads");
  await midi.open();
  one.onmidimessage({ data: [0x90, 60], timeStamp: 1 });
  two.onmidimessage({ data: [0x99, 36, 100], timeStamp: 2 });
  one.onmidimessage({ data: [90], timeStamp: 3 });
  assert.deepEqual(heard, [
    ["Pads", [0x99, 36, 100], 2],
    ["Keys", [0x90, 60, 90], 3],
  ]);
});

test("a device that goes leaves no key down, and works again when it comes back", async () => {
  const access = new Access();
  const { midi, heard, told, devices } = listening(access);
  access.plug("1", "Keys");
  await midi.open();
  access.unplug("1");
  assert.deepEqual(heard, [["Keys", "gone"]]);
  assert.deepEqual(told, [{ do: "deviceGone", device: "Keys" }]);
  const back = access.plug("1", "Keys");
  back.onmidimessage({ data: [0x80, 60, 0], timeStamp: 9 });
  assert.deepEqual(heard.at(-1), ["Keys", [0x80, 60, 0], 9]);
  assert.deepEqual(devices, [["Keys"], [], ["Keys"]]);
});

test("two devices of one name are told apart, and one without a name has one", async () => {
  const access = new Access();
  const { midi, devices } = listening(access);
  ["Keys", "Keys", null, "x".repeat(200)].forEach((name, i) => access.plug(String(i), name));
  await midi.open();
  assert.deepEqual(devices.at(-1), ["Keys", "Keys 2", "MIDI input", "x".repeat(70)]);
});

test("the stand-in plays each message with the time that it was worked out for", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const heard = [];
  const hub = { receive: (...message) => heard.push(message), gone: (device) => heard.push([device]) };
  const start = 1000;
  let now = start;
  t.mock.method(performance, "now", () => now);
  const pass = (millis) => {
    for (const until = now + millis; now < until;) {
      now += 10;
      t.mock.timers.tick(10);
    }
  };
  const standIn = new StandIn(hub, { own: (micros) => start + micros / 1000 });
  standIn.play([
    [50_000, 0x99, 36, 90],
    [60_000, 0x89, 36, 0],
    [90_000, 0x99, 38, 90],
  ]);
  pass(80);
  assert.deepEqual(heard, [
    ["stand-in player", [0x99, 36, 90], start + 50],
    ["stand-in player", [0x89, 36, 0], start + 60],
  ]);
  standIn.stop();
  pass(1000);
  assert.deepEqual(heard.slice(2), [["stand-in player"]], "it takes its hands off, and plays no more");
});

test("the concert asks for each thing on its tick, and stops when somebody stops it", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const done = [];
  let now = 0;
  const clock = { now: () => now, own: (micros) => micros / 1000 };
  const state = { transport: { rolling: false }, map: null };
  const concert = new Concert({ do: (command, own) => done.push([command.do, own]) }, state, clock);
  concert.play([
    [-1, { do: "start" }],
    [960, { do: "cueNext" }],
    [1920, { do: "peel" }],
    [99_999, { do: "stop" }],
  ]);
  assert.deepEqual(
    done.map(([what]) => what),
    ["start"],
  );
  state.transport.rolling = true;
  state.map = new TempoMap([[0, 0, 500]]);
  concert.look();
  now = 970 * 500;
  t.mock.timers.tick(50);
  assert.deepEqual(done[1], ["cueNext", 480], "with the time of its tick, however late the timer is");
  state.transport.rolling = false;
  concert.look();
  assert.equal(concert.isOn, false);
  now = 9_999_999_999;
  t.mock.timers.tick(500);
  assert.equal(done.length, 2);
});

test("a broken device is kept out and said once, hands are not, and what is down comes up", () => {
  const said = [];
  const flood = new Flood((device) => said.push(device));
  let admitted = 0;
  for (let i = 0; i < 6000; i++) {
    admitted += flood.admits("broken", [0x90, i % 128, 90], i / 2) ? 1 : 0;
  }
  assert.equal(admitted, 3 * 600, "of 2000 a second 600 are let in");
  assert.deepEqual(said, ["broken"], "and it is said once while it lasts");
  assert.ok(flood.admits("broken", [0x80, 60, 0], 2999), "a release is let in");
  assert.ok(flood.admits("broken", [0x90, 60, 0], 2999), "velocity 0 is a release too, in MIDI 1.0");
  assert.ok(flood.admits("broken", [0xb0, 7, 90], 2999), "a move is thinned elsewhere");
  assert.ok(!flood.admits("broken", [0x90, 60, 90], 2999));
  for (let i = 0; i < 500; i++) {
    assert.ok(flood.admits("hands", [0x90, 60, 90], i * 2));
  }
  assert.ok(flood.admits("broken", [0x90, 60, 90], 9000), "it has calmed down");
});
