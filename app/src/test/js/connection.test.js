import assert from "node:assert/strict";
import { test } from "node:test";

const sent = [];
let opened = null;

class FakeSocket {
  static OPEN = 1;
  readyState = 1;

  constructor() {
    opened = this;
  }

  send(text) {
    sent.push(JSON.parse(text));
  }

  close() {}

  say(message) {
    this.onmessage({ data: JSON.stringify(message) });
  }
}

const kept = new Map([["ancora-client", "tab"]]);
globalThis.WebSocket = FakeSocket;
globalThis.location = { protocol: "http:", host: "here" };
globalThis.sessionStorage = { getItem: (k) => kept.get(k) ?? null, setItem: (k, v) => kept.set(k, v) };

const { Connection } = await import("../../main/js/house/connection.js");

const welcome = (last, client = "tab") => ({ welcome: { last, client } });

function page() {
  sent.length = 0;
  const clock = { at: (own) => own * 1000, pong: () => {} };
  const connection = new Connection(7, clock);
  connection.connect();
  return connection;
}

test("what is done before the welcome is numbered after it, with the time at which it was done", () => {
  const connection = page();
  connection.do({ do: "start" }, 12);
  assert.deepEqual(sent, []);
  opened.say(welcome(41));
  assert.deepEqual(sent, [{ seq: 42, stamp: 12_000, do: "start" }]);
  opened.say({ ack: 42 });
  assert.equal(connection.unsure.size, 0);
});

test("what is not acknowledged is sent again, under the same number", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const connection = page();
  opened.say(welcome(0));
  connection.do({ do: "stop" }, 5);
  const first = opened;
  first.onclose();
  t.mock.timers.tick(150);
  assert.notEqual(opened, first);
  sent.length = 0;
  opened.say(welcome(0));
  assert.deepEqual(sent, [{ seq: 1, stamp: 5_000, do: "stop" }]);
  first.onclose();
  assert.equal(connection.open, true, "a line that was lost before is not lost again");
});

test("one timer looks for what has no answer, however often the line comes back", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const timers = t.mock.method(globalThis, "setInterval");
  page();
  for (let i = 0; i < 3; i++) {
    opened.say(welcome(0));
    opened.onclose();
    t.mock.timers.tick(10_000);
  }
  assert.equal(timers.mock.callCount(), 1);
});

test("what was done while the line was away goes before what is done because it is back", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const connection = page();
  opened.say(welcome(0));
  opened.onclose();
  connection.do({ do: "keyDown" }, 1);
  connection.do({ do: "keyUp" }, 2);
  t.mock.timers.tick(150);
  sent.length = 0;
  // whoever hears of the welcome may let go of keys at once, as a page does that has lost the sound
  connection.addEventListener("welcome", () => connection.do({ do: "keyUp", late: true }, 3));
  opened.say(welcome(0));
  assert.deepEqual(
    sent.map(({ seq, late }) => [seq, late]),
    [
      [1, undefined],
      [2, undefined],
      [3, true],
    ],
  );
});

test("what the house lacks is sent again, in order, from there on", () => {
  const connection = page();
  opened.say(welcome(4));
  for (let i = 0; i < 4; i++) {
    connection.do({ do: "tapTempo" }, i);
  }
  opened.say({ ack: 5 });
  sent.length = 0;
  opened.say({ lacks: 7 });
  assert.deepEqual(
    sent.map(({ seq }) => seq),
    [7, 8],
  );
});

test("hello is said until there is a welcome, with what has no answer yet, and whether the sound was here", (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const pass = (millis) => {
    for (let i = 0; i < millis; i += 10) {
      t.mock.timers.tick(10);
    }
  };
  const connection = page();
  opened.onopen();
  pass(400);
  const hellos = () => sent.filter(({ hello }) => hello).map(({ hello }) => [hello.from, hello.had]);
  assert.deepEqual(hellos(), [[1, false]]);
  opened.say({ error: "That could not be read." });
  pass(4_100);
  assert.equal(hellos().length, 3, "asked again");
  opened.say(welcome(0));
  connection.hasSound = true;
  connection.do({ do: "start" }, 1);
  connection.do({ do: "stop" }, 2);
  opened.say({ ack: 1 });
  opened.onclose();
  sent.length = 0;
  pass(150);
  opened.onopen();
  pass(400);
  assert.deepEqual(hellos(), [[2, true]]);
});

test("a duplicated tab takes the name that it is given", () => {
  const connection = page();
  opened.say(welcome(0, "tab~2"));
  assert.equal(connection.client, "tab~2");
  assert.equal(kept.get("ancora-client"), "tab~2");
});

test("a page whose socket is refused is told when the house does not know it any more", async (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const answers = [204, 401];
  t.mock.method(globalThis, "fetch", async (path) => ({ path, status: answers.shift() }));
  const connection = page();
  const told = [];
  connection.addEventListener("out", () => told.push("out"));
  opened.onclose();
  await new Promise(setImmediate);
  assert.deepEqual(told, []);
  t.mock.timers.tick(150);
  opened.onclose();
  await new Promise(setImmediate);
  assert.deepEqual(told, ["out"]);
});
