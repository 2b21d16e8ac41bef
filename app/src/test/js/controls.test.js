import assert from "node:assert/strict";
import { mock, test } from "node:test";
import { Commands } from "../../main/js/input/commands.js";
import { Controls, keyControl } from "../../main/js/input/controls.js";

const PEDAL = { device: "board", kind: "CONTROL_CHANGE", channel: 0, number: 80, key: "" };

const MAIN = { do: "mainPress" };
const PEEL = { do: "peel" };
const TACET = { do: "cueTacet", part: "armed" };
const UNDO = { do: "undo", sure: false };
const REDO = { do: "redo" };
const ERASE = { do: "eraseHeld", on: "held" };
const LEVEL = { do: "setBalance", part: "armed", level: { knob: [-60, 6] } };

/** Controls that are taught, and what they do: with the page's own time at which it counts. */
function taught(assignments, atOnce = []) {
  const told = [];
  const connection = { do: (command, own) => told.push([command, own]) && told.length };
  const commands = new Commands(connection);
  const controls = new Controls(commands);
  controls.set({
    map: {
      name: "test",
      assignments: assignments.map(([gesture, command, control = PEDAL]) => ({ control, gesture, command })),
    },
    meanings: assignments.map(([, command]) => ({
      words: command.do,
      hold: command.on === "held" ? "WHILE_HELD" : command.level?.knob ? "TURNED" : "PRESSED",
      atOnce: atOnce.includes(command),
    })),
  });
  const press = (down, own) => controls.take("board", [0xb0, 80, down ? 127 : 0], own);
  return { controls, commands, press, told, names: () => told.map(([command]) => command.do) };
}

test("a pedal with one gesture acts when the foot comes down, once", () => {
  const { press, told } = taught([["SHORT", MAIN]]);
  press(true, 100);
  press(true, 110);
  press(false, 200);
  assert.deepEqual(told, [[MAIN, 100]]);
});

test("where a long press is awaited, a short one still counts from when the foot came down", () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  const { press, told } = taught([
    ["SHORT", MAIN],
    ["LONG", PEEL],
  ]);
  press(true, 100);
  mock.timers.tick(200);
  press(false, 300);
  assert.deepEqual(told, [[MAIN, 100]]);
  press(true, 1000);
  mock.timers.tick(600);
  press(false, 1600);
  assert.deepEqual(told[1], [PEEL, 1000]);
  assert.equal(told.length, 2);
  mock.timers.reset();
});

test("a double press is one thing, and not two short ones", () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  const { controls, press, names } = taught([
    ["SHORT", MAIN],
    ["DOUBLE", TACET],
  ]);
  press(true, 0);
  press(false, 80);
  mock.timers.tick(100);
  press(true, 180);
  press(false, 250);
  mock.timers.tick(1000);
  assert.deepEqual(names(), ["cueTacet"]);
  press(true, 2000);
  press(false, 2080);
  mock.timers.tick(1000);
  assert.deepEqual(names(), ["cueTacet", "mainPress"]);
  assert.ok(controls);
  mock.timers.reset();
});

test("what is done at once is taken back where the press is another gesture", () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  const { press, told } = taught(
    [
      ["SHORT", MAIN],
      ["LONG", PEEL],
      ["DOUBLE", TACET],
    ],
    [MAIN],
  );
  press(true, 100);
  assert.deepEqual(told, [[MAIN, 100]], "nothing is waited for");
  press(false, 180);
  mock.timers.tick(1000);
  assert.equal(told.length, 1, "it was a short press");
  press(true, 2000);
  mock.timers.tick(600);
  press(false, 2600);
  assert.deepEqual(told.slice(1), [
    [MAIN, 2000],
    [{ do: "instead", press: 2, command: PEEL }, 2000],
  ]);
  press(true, 4000);
  press(false, 4080);
  mock.timers.tick(100);
  press(true, 4200);
  press(false, 4280);
  mock.timers.tick(1000);
  assert.deepEqual(told.slice(3), [
    [MAIN, 4000],
    [{ do: "instead", press: 4, command: TACET }, 4200],
  ]);
  mock.timers.reset();
});

test("letting go may do a thing of its own, and counts from when the foot lifted", () => {
  const { press, told } = taught([
    ["SHORT", MAIN],
    ["RELEASE", UNDO],
  ]);
  press(true, 100);
  press(false, 900);
  assert.deepEqual(
    told.map(([command, own]) => [command.do, own]),
    [
      ["mainPress", 100],
      ["undo", 900],
    ],
  );
});

test("a pedal that latches is pressed each time it changes", () => {
  const { press, told } = taught([["EACH", MAIN]]);
  press(true, 100);
  press(true, 150);
  press(false, 900);
  press(true, 2000);
  assert.deepEqual(
    told.map(([command, own]) => [command.do, own]),
    [
      ["mainPress", 100],
      ["mainPress", 900],
      ["mainPress", 2000],
    ],
  );
});

test("erase lasts as long as the pedal is held", () => {
  const { press, told } = taught([["SHORT", ERASE]]);
  press(true, 5);
  press(false, 900);
  assert.deepEqual(told, [
    [{ do: "eraseHeld", on: true }, 5],
    [{ do: "eraseHeld", on: false }, 900],
  ]);
});

test("a note and a program change may be controls too; what is not assigned goes on", () => {
  const note = { device: "board", kind: "NOTE", channel: 9, number: 36 };
  const program = { device: "board", kind: "PROGRAM_CHANGE", channel: 0, number: 3 };
  const { controls, names } = taught([
    ["SHORT", UNDO, note],
    ["SHORT", REDO, program],
  ]);
  assert.equal(controls.take("board", [0x99, 36, 90], 1), true);
  assert.equal(controls.take("board", [0x89, 36, 0], 2), true);
  assert.equal(controls.take("board", [0xc0, 3, 0], 3), true);
  assert.equal(controls.take("board", [0xc0, 3, 0], 4), true);
  assert.equal(controls.take("board", [0x99, 37, 90], 5), false);
  assert.equal(controls.take("other", [0x99, 36, 90], 6), false);
  assert.equal(controls.take("board", [0xe0, 0, 64], 7), false);
  assert.deepEqual(names(), ["undo", "redo", "redo"]);
});

test("a knob says where it stands and where it stood: what that makes of a value the engine knows", () => {
  const { controls, told } = taught([["SHORT", LEVEL]]);
  controls.take("board", [0xb0, 80, 0], 4);
  controls.take("board", [0xb0, 80, 127], 5);
  assert.deepEqual(told, [
    [{ ...LEVEL, level: { knob: [-60, 6], at: 0 } }, 4],
    [{ ...LEVEL, level: { knob: [-60, 6], at: 1, was: 0 } }, 5],
  ]);
});

test("a key of the computer is a control like any other, with its own gestures", () => {
  const key = keyControl("KeyU");
  const { controls, told } = taught([
    ["SHORT", ERASE, key],
    ["SHORT", REDO, keyControl("Shift KeyU")],
  ]);
  assert.equal(controls.takeKey("KeyU", true, 1), true);
  assert.equal(controls.takeKey("KeyU", true, 2), true, "held down it repeats");
  assert.equal(controls.takeKey("KeyX", true, 3), false);
  assert.equal(controls.takeKey("KeyU", false, 4), true);
  assert.equal(controls.takeKey("Shift KeyU", true, 5), true);
  assert.deepEqual(told, [
    [{ do: "eraseHeld", on: true }, 1],
    [{ do: "eraseHeld", on: false }, 4],
    [REDO, 5],
  ]);
});

test("what is held ends when the page is left, and when the controls are others", () => {
  const { controls, press, told } = taught([["SHORT", ERASE]]);
  press(true, 1);
  controls.releaseAll(7);
  controls.releaseAll(8);
  assert.deepEqual(told.at(-1), [{ do: "eraseHeld", on: false }, 7]);
  assert.equal(told.length, 2);
  press(true, 9);
  controls.set({ map: { name: "other", assignments: [] }, meanings: [] });
  assert.equal(told.length, 4, "it is let go by what it was");
});

test("what a page does by itself the engine is not asked for", () => {
  const { press, commands, told } = taught([["SHORT", { do: "onPage", what: "RUNS" }]]);
  let opened = 0;
  commands.here.set("RUNS", () => opened++);
  press(true, 1);
  assert.deepEqual([opened, told.length], [1, 0]);
});

test("teaching takes the control that is moved, and it does nothing else", () => {
  const { controls, press, told } = taught([["SHORT", MAIN]]);
  let moved = null;
  controls.addEventListener("taught", ({ detail }) => (moved = detail));
  controls.teaching = true;
  press(true, 0);
  assert.deepEqual(moved, PEDAL);
  assert.equal(told.length, 0);
  press(false, 1);
  press(true, 2);
  assert.equal(told.length, 1);
});

test("what it names goes along as it is: the engine looks it up", () => {
  const cue = { do: "cueClip", part: "next", clip: "b" };
  const { press, told } = taught([["SHORT", cue]]);
  press(true, 7);
  assert.deepEqual(told, [[cue, 7]]);
});
