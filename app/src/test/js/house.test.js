import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";
import { Connection } from "../../main/js/house/connection.js";
import { ServerClock } from "../../main/js/house/server-clock.js";
import { State } from "../../main/js/house/state.js";
import { count, position, tickNow, until } from "../../main/js/stage/time.js";

const COMMON = { barTicks: 3840, beatTicks: 960 };
const SEVEN_EIGHT = { barTicks: 3360, beatTicks: 480 };

test("positions are counted from one, before the start too", () => {
  assert.deepEqual(position(0, COMMON), { bar: 1, beat: 1 });
  assert.deepEqual(position(7679, COMMON), { bar: 2, beat: 4 });
  assert.deepEqual(position(3360 + 480, SEVEN_EIGHT), { bar: 2, beat: 2 });
  assert.deepEqual(position(-1, COMMON), { bar: 0, beat: 4 });
});

test("a countdown is in bars and beats, and never says none", () => {
  assert.equal(until(3840, COMMON), "1 bar");
  assert.equal(until(3841, COMMON), "1 bar 1 beat");
  assert.equal(until(2 * 3840 + 1900, COMMON), "2 bars 2 beats");
  assert.equal(until(1, COMMON), "1 beat");
  assert.equal(until(0, COMMON), "1 beat");
  assert.equal(until(3360 + 960, SEVEN_EIGHT), "1 bar 2 beats");
  assert.equal(count(1, "note"), "1 note");
  assert.equal(count(0, "note"), "0 notes");
});

test("at standstill there is no tick", () => {
  const state = new State();
  assert.equal(tickNow({ state, clock: { now: () => 5 } }), null);
  state.take({ transport: { rolling: true, anchors: [[0, 1_000_000, 500]] } });
  assert.equal(tickNow({ state, clock: { now: () => 1_500_000 } }), 1000);
  state.take({ transport: { rolling: false } });
  assert.equal(tickNow({ state, clock: { now: () => 1_500_000 } }), null);
});

test("the fastest of the last round trips is believed", () => {
  const clock = new ServerClock();
  assert.equal(clock.isSet, false);
  clock.pong(0, 100, 5_050_000);
  clock.pong(200, 204, 5_202_000);
  clock.pong(300, 380, 5_400_000);
  assert.ok(clock.isSet);
  assert.equal(clock.delivery, 2000, "half of 4 ms");
  assert.equal(clock.at(1000), 6_000_000);
  assert.equal(clock.own(6_000_000), 1000);
});

test("a better measurement is come to slowly, a machine that slept at once", () => {
  const clock = new ServerClock();
  for (let i = 0; i < 4; i++) {
    clock.pong(i * 10, i * 10 + 4, (i * 10 + 2) * 1000);
  }
  clock.pong(100, 102, 101_000 + 10_000);
  assert.equal(clock.at(0), 2500, "a quarter of 10 ms");
  clock.pong(200, 201, 200_500 + 3_000_000);
  assert.equal(clock.at(0), 3_000_000);
});

test("the state takes what has changed, and forgets what has gone", () => {
  const state = new State();
  state.take({ order: [2, 1], parts: { 1: { id: 1 }, 2: { id: 2 } }, armed: 0 });
  assert.deepEqual(
    state.staves.map(({ id }) => id),
    [2, 1],
  );
  assert.equal(state.armedPart.id, 2, "the first, where none is armed");
  state.take({ armed: 1, alongside: [2] });
  assert.ok(state.isArmed(1) && state.isArmed(2) && !state.isArmed(3));
  state.take({ parts: { 2: null } });
  assert.deepEqual(
    state.staves.map(({ id }) => id),
    [1],
    "an order that names a part that has gone does no harm",
  );
});

/** A server that remembers what it was sent. */
class Line {
  static OPEN = 1;
  static lines = [];

  constructor(url) {
    this.url = url;
    this.readyState = Line.OPEN;
    this.sent = [];
    Line.lines.push(this);
  }

  send(text) {
    this.sent.push(JSON.parse(text));
  }

  says(message) {
    this.onmessage({ data: JSON.stringify(message) });
  }

  get commands() {
    return this.sent.filter(({ seq }) => seq !== undefined);
  }
}

beforeEach(() => {
  Line.lines = [];
  globalThis.WebSocket = Line;
  globalThis.location = { protocol: "https:", host: "lamp.example" };
  const kept = new Map();
  globalThis.sessionStorage = {
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => kept.set(key, value),
  };
});

function connected(watches = false) {
  const connection = new Connection(7, new ServerClock(), watches);
  connection.connect();
  return [connection, Line.lines[0]];
}

test("an encrypted page uses an encrypted line, and a watching one says so", () => {
  assert.equal(connected()[1].url, "wss://lamp.example/socket/7");
  assert.equal(connected(true)[0].url, "wss://lamp.example/socket/7?view=watch");
});

test("what is done before the line is there is sent once it is, in order", () => {
  const [connection, line] = connected();
  connection.do({ do: "start" }, 5);
  connection.do({ do: "peel" }, 6);
  assert.deepEqual(line.commands, []);
  line.says({ welcome: { last: 0 } });
  assert.deepEqual(
    line.commands.map((command) => [command.seq, command.do]),
    [
      [1, "start"],
      [2, "peel"],
    ],
  );
});

test("what was not acknowledged is sent again with its number and its time", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const [connection, line] = connected();
  line.says({ welcome: { last: 0 } });
  connection.do({ do: "start" }, 5);
  connection.do({ do: "peel" }, 6);
  line.says({ ack: 1 });
  line.onclose();
  connection.do({ do: "restore" }, 7);
  t.mock.timers.tick(100);
  const second = Line.lines[1];
  second.says({ welcome: { last: 1 } });
  assert.deepEqual(
    second.commands.map(({ seq, stamp, do: what }) => [seq, stamp, what]),
    [
      [2, 6000, "peel"],
      [3, 7000, "restore"],
    ],
  );
});

test("a refusal is told once, and is not sent again", () => {
  const [connection, line] = connected();
  const told = [];
  connection.addEventListener("refused", ({ detail }) => told.push(detail));
  line.says({ welcome: { last: 4 } });
  connection.do({ do: "peel" }, 5);
  assert.equal(line.commands[0].seq, 5, "numbers go on after the last one of this tab");
  line.says({ refused: 5, why: "There is no layer to peel." });
  assert.deepEqual(told, ["There is no layer to peel."]);
  line.says({ welcome: { last: 4 } });
  assert.equal(line.commands.length, 1);
});

test("a line that stays away is tried again, less and less often", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const [connection, line] = connected();
  const told = [];
  connection.addEventListener("line", ({ detail }) => told.push(detail));
  line.onclose();
  assert.deepEqual(told, [false]);
  const waits = [];
  for (let i = 1; i <= 8; i++) {
    let waited = 0;
    while (Line.lines.length === i && waited < 10_000) {
      t.mock.timers.tick(100);
      waited += 100;
    }
    waits.push(waited);
    Line.lines.at(-1).onclose();
  }
  assert.deepEqual(waits, [100, 200, 400, 800, 1600, 3200, 4000, 4000]);
});

test("a tab keeps its name when it is reloaded", () => {
  assert.equal(connected()[0].client, connected()[0].client);
});
