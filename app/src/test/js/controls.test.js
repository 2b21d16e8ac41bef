import assert from "node:assert/strict";
import { mock, test } from "node:test";
import { Actions } from "../../main/resources/static/js/input/actions.js";
import { Controls } from "../../main/resources/static/js/input/controls.js";

const PEDAL = { device: "board", kind: "CONTROL_CHANGE", channel: 0, number: 80 };

function taught(assignments, state = {}, atOnce = []) {
  const told = [];
  const connection = { do: (command, own) => told.push([command, own]) && told.length };
  const actions = new Actions(connection, state, { panic: () => {} });
  const controls = new Controls(actions);
  controls.atOnce = new Set(atOnce);
  controls.set({
    name: "test",
    assignments: assignments.map(([gesture, action, control = PEDAL, number = 0]) => ({
      control,
      gesture,
      action,
      number,
    })),
  });
  const press = (down, own) => controls.take("board", [0xb0, 80, down ? 127 : 0], own);
  return { controls, press, told, names: () => told.map(([command]) => command.action ?? command.do) };
}

test("a pedal with one gesture acts when the foot comes down, once", () => {
  const { press, told } = taught([["SHORT", "MAIN"]]);
  press(true, 100);
  press(true, 110);
  press(false, 200);
  assert.deepEqual(told, [[{ do: "act", action: "MAIN", number: 0 }, 100]]);
});

test("where a long press is awaited, a short one still counts from when the foot came down", () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  const { press, told } = taught([
    ["SHORT", "MAIN"],
    ["LONG", "PEEL"],
  ]);
  press(true, 100);
  mock.timers.tick(200);
  press(false, 300);
  assert.deepEqual(told, [[{ do: "act", action: "MAIN", number: 0 }, 100]]);
  press(true, 1000);
  mock.timers.tick(600);
  press(false, 1600);
  assert.deepEqual(told[1], [{ do: "act", action: "PEEL", number: 0, sure: true }, 1000]);
  assert.equal(told.length, 2);
  mock.timers.reset();
});

test("a double press is one thing, and not two short ones", () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  const { controls, press, names } = taught(
    [
      ["SHORT", "MAIN"],
      ["DOUBLE", "STOP_ALL"],
    ],
    {},
  );
  press(true, 0);
  press(false, 80);
  mock.timers.tick(100);
  press(true, 180);
  press(false, 250);
  mock.timers.tick(1000);
  assert.deepEqual(names(), ["STOP_ALL"]);
  press(true, 2000);
  press(false, 2080);
  mock.timers.tick(1000);
  assert.deepEqual(names(), ["STOP_ALL", "MAIN"]);
  assert.ok(controls);
  mock.timers.reset();
});

test("what is done at once is taken back where the press is another gesture", () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  const { press, told } = taught(
    [
      ["SHORT", "MAIN"],
      ["LONG", "PEEL"],
      ["DOUBLE", "TACET"],
    ],
    {},
    ["MAIN"],
  );
  const act = (action, more = {}) => ({ do: "act", action, number: 0, ...more });
  press(true, 100);
  assert.deepEqual(told, [[act("MAIN"), 100]], "nothing is waited for");
  press(false, 180);
  mock.timers.tick(1000);
  assert.equal(told.length, 1, "it was a short press");
  press(true, 2000);
  mock.timers.tick(600);
  press(false, 2600);
  assert.deepEqual(told.slice(1), [
    [act("MAIN"), 2000],
    [{ do: "instead", press: 2, command: act("PEEL", { sure: true }) }, 2000],
  ]);
  press(true, 4000);
  press(false, 4080);
  mock.timers.tick(100);
  press(true, 4200);
  press(false, 4280);
  mock.timers.tick(1000);
  assert.deepEqual(told.slice(3), [
    [act("MAIN"), 4000],
    [{ do: "instead", press: 4, command: act("TACET") }, 4200],
  ]);
  mock.timers.reset();
});

test("letting go may do a thing of its own, and counts from when the foot lifted", () => {
  const { press, told } = taught([
    ["SHORT", "MAIN"],
    ["RELEASE", "UNDO"],
  ]);
  press(true, 100);
  press(false, 900);
  assert.deepEqual(
    told.map(([{ action }, own]) => [action, own]),
    [
      ["MAIN", 100],
      ["UNDO", 900],
    ],
  );
});

test("a pedal that latches is pressed each time it changes", () => {
  const { press, told } = taught([["EACH", "MAIN"]]);
  press(true, 100);
  press(true, 150);
  press(false, 900);
  press(true, 2000);
  assert.deepEqual(
    told.map(([{ action }, own]) => [action, own]),
    [
      ["MAIN", 100],
      ["MAIN", 900],
      ["MAIN", 2000],
    ],
  );
});

test("erase lasts as long as the pedal is held", () => {
  const { press, told } = taught([["SHORT", "ERASE"]]);
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
    ["SHORT", "UNDO", note],
    ["SHORT", "REDO", program],
  ]);
  assert.equal(controls.take("board", [0x99, 36, 90], 1), true);
  assert.equal(controls.take("board", [0x89, 36, 0], 2), true);
  assert.equal(controls.take("board", [0xc0, 3, 0], 3), true);
  assert.equal(controls.take("board", [0xc0, 3, 0], 4), true);
  assert.equal(controls.take("board", [0x99, 37, 90], 5), false);
  assert.equal(controls.take("other", [0x99, 36, 90], 6), false);
  assert.equal(controls.take("board", [0xe0, 0, 64], 7), false);
  assert.deepEqual(names(), ["UNDO", "REDO", "REDO"]);
});

test("a knob takes hold of a level only once it has come to it", () => {
  const part = { id: 4, balance: { level: -27, pan: 0, muted: false, solo: false, echo: 0, room: 0 } };
  const { controls, told } = taught([["SHORT", "LEVEL"]], { armedPart: part, staves: [part] });
  const turn = (value) => controls.take("board", [0xb0, 80, value], 0);
  turn(10);
  turn(30);
  assert.equal(told.length, 0, "it is far below");
  turn(70);
  assert.equal(told.length, 1, "it has come past");
  assert.equal(told[0][0].level, Math.round((-60 + (70 / 127) * 66) * 2) / 2);
  turn(127);
  assert.equal(told.at(-1)[0].level, 6);
});

test("knobs turn tempo and master too, and a knob of a part that is not there turns nothing", () => {
  const show = { bpm: 140, master: { level: 0, echo: "1/8" } };
  for (const [action, value, wanted] of [
    ["TEMPO", 63, { do: "setTempo", bpm: 139 }],
    ["MASTER", 116, { do: "setMaster", level: 0.5 }],
  ]) {
    const { controls, told } = taught([["SHORT", action]], { show, staves: [] });
    controls.take("board", [0xb0, 80, value], 0);
    assert.deepEqual(told[0][0], wanted);
  }
  const { controls, told } = taught([["SHORT", "ROOM", PEDAL, 5]], { show, staves: [] });
  controls.take("board", [0xb0, 80, 64], 0);
  assert.equal(told.length, 0);
});

test("note repeat may last as long as a pedal is held, on the grid that is taught", () => {
  const { press, told } = taught([["SHORT", "NOTE_REPEAT_HELD", PEDAL, 2]]);
  press(true, 5);
  press(false, 90);
  assert.deepEqual(told, [
    [{ do: "act", action: "NOTE_REPEAT_HELD", number: 2 }, 5],
    [{ do: "repeatOff" }, 90],
  ]);
});

test("teaching takes the control that is moved, and it does nothing else", () => {
  const { controls, press, told } = taught([["SHORT", "MAIN"]]);
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

test("the number goes along: what it means is looked up by the engine", () => {
  const { press, told } = taught([["SHORT", "CUE_CLIP", PEDAL, 9]]);
  press(true, 7);
  assert.deepEqual(told, [[{ do: "act", action: "CUE_CLIP", number: 9 }, 7]]);
});
