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

const { Connection } = await import("../../main/resources/static/js/house/connection.js");

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

test("a duplicated tab takes the name that it is given", () => {
  const connection = page();
  opened.say(welcome(0, "tab~2"));
  assert.equal(connection.client, "tab~2");
  assert.equal(kept.get("ancora-client"), "tab~2");
});
