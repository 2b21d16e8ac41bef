import assert from "node:assert/strict";
import { test } from "node:test";

/** Something of Web Audio of which nothing is asked: whatever is called gives more of it. */
function anything() {
  const made = new Map();
  return new Proxy(function () {}, {
    get(_, name) {
      if (name === Symbol.toPrimitive) {
        return () => 0;
      }
      if (!made.has(name)) {
        made.set(name, anything());
      }
      return made.get(name);
    },
    set(_, name, value) {
      made.set(name, value);
      return true;
    },
    apply: () => anything(),
  });
}

globalThis.document = {
  baseURI: "http://quay/",
  querySelector: (wanted) => ({ content: `/built/${wanted}` }),
};

const nodes = [];
let context = null;

globalThis.AudioContext = class extends EventTarget {
  constructor() {
    super();
    context = this;
    this.state = "running";
    this.currentTime = 1;
    this.sampleRate = 48_000;
    this.resumed = 0;
    this.audioWorklet = { addModule: async () => {} };
    this.heard = { contextTime: 1, performanceTime: 1_000 };
    return new Proxy(this, {
      get: (own, name) => {
        const value = Reflect.get(own, name);
        return typeof value === "function" ? value.bind(own) : (value ?? anything());
      },
      set: (own, name, value) => Reflect.set(own, name, value),
    });
  }
  async resume() {
    this.resumed++;
  }
  async suspend() {
    this.is("suspended");
  }
  is(state) {
    this.state = state;
    this.dispatchEvent(new Event("statechange"));
  }
  getOutputTimestamp() {
    return this.heard;
  }
};
globalThis.AudioWorkletNode = class {
  constructor(_context, name) {
    this.port = { postMessage: (message) => this.told.push(message) };
    this.told = [];
    if (name === "ancora-player") {
      nodes.push(this);
    }
    return new Proxy(this, {
      get: (own, name) => own[name] ?? anything(),
      set: (own, name, value) => Reflect.set(own, name, value),
    });
  }
};
/** @type {any} the thread that decodes: whether the house gives it, and what it says of a sound. */
const decoder = { given: true, says: (of) => ({ of, samples: [] }), holds: null };
globalThis.Worker = class {
  constructor() {
    queueMicrotask(() =>
      decoder.given ? this.onmessage({ data: { number: 0, here: true } }) : this.onerror({}),
    );
  }
  postMessage({ number, decode }) {
    if (decode) {
      const answer = (said) => queueMicrotask(() => this.onmessage({ data: { number, ...said } }));
      const said = decoder.says(decode);
      if (said) {
        answer(said);
      } else {
        decoder.holds(answer);
      }
    }
  }
  terminate() {}
};
let bank = "RIFF....sfbk";
globalThis.fetch = async () => ({
  ok: bank !== null,
  arrayBuffer: async () => new TextEncoder().encode(bank).buffer,
});
/** what is to be done again and again, in the order in which it was begun */
const repeats = [];
globalThis.setInterval = (does) => repeats.push(does);

const { Sound } = await import("../../main/js/house/sound.js");

const clock = { isSet: true, at: (own) => own * 1000, now: () => 1_000_000, delivery: 0 };

async function begun() {
  nodes.length = 0;
  const sound = new Sound(clock);
  const events = [];
  for (const kind of ["fault", "failed", "stopped"]) {
    sound.addEventListener(kind, ({ detail }) => events.push([kind, detail]));
  }
  await sound.start();
  return { sound, events };
}

test("audio threads that die one after the other are begun anew ever later, and not at once", async (t) => {
  t.mock.timers.enable({ apis: ["setTimeout"] });
  const { events } = await begun();
  for (let seconds = 0; seconds < 8_000; seconds += 50) {
    nodes.at(-1).onprocessorerror?.();
    t.mock.timers.tick(50);
  }
  assert.ok(nodes.length > 3 && nodes.length < 9, `${nodes.length} in 8 s`);
  assert.equal(events.length, nodes.length);
});

test("without a sound bank nothing is begun, and it is said; the next touch tries again", async () => {
  bank = null;
  const { sound, events } = await begun();
  assert.equal(nodes.length, 0);
  assert.match(events[0][1], /does not give its sound bank.*touch again/);
  bank = "<html>not found";
  await sound.start();
  assert.equal(events.length, 2);
  bank = "RIFF....sfbk";
  await sound.start();
  assert.equal(nodes.length, 1);
});

test("a thread that decodes and cannot be had is said; the next touch tries again", async () => {
  decoder.given = false;
  const { sound, events } = await begun();
  assert.equal(nodes.length, 0);
  assert.match(events[0][1], /does not give what decodes.*touch again/);
  decoder.given = true;
  await sound.start();
  assert.equal(nodes.length, 1);
});

test("the samples of a sound go to the audio thread, and one that cannot be decoded is said", async () => {
  const { events } = await begun();
  const [{ told, port }] = nodes;
  const settled = () => new Promise((done) => setImmediate(done));
  port.onmessage({ data: { decode: { drums: false, program: 4 } } });
  await settled();
  assert.deepEqual(told.at(-1), { number: 1, of: { drums: false, program: 4 }, samples: [] });
  decoder.says = (of) => ({ of, fault: "torn" });
  port.onmessage({ data: { decode: { drums: false, program: 5 } } });
  await settled();
  assert.deepEqual(events, [["fault", "torn"]]);
});

test("a sound whose bank is still on its way is overtaken, and each answer is its own", async () => {
  await begun();
  const [{ told, port }] = nodes;
  const settled = () => new Promise((done) => setImmediate(done));
  const own = { bank: "b", file: "harbour.sf2", number: 0, name: "Fog" };
  let late;
  decoder.says = (of) => (of.own ? null : { of, samples: [] });
  decoder.holds = (answer) => (late = answer);
  port.onmessage({ data: { decode: { drums: false, program: 1, own } } });
  port.onmessage({ data: { decode: { drums: false, program: 2 } } });
  await settled();
  assert.equal(told.at(-1).of.program, 2);
  late({ of: { drums: false, program: 1, own }, lost: "it is not here" });
  await settled();
  assert.deepEqual(told.at(-1), { lost: { drums: false, program: 1, own } });
});

test("a sound that was stopped from outside is said, and what was measured before is forgotten", async () => {
  const { sound, events } = await begun();
  for (let i = 0; i < 5; i++) {
    context.dispatchEvent(new Event("statechange"));
  }
  context.is("suspended");
  assert.deepEqual(events.at(-1)?.[0], "stopped");
  assert.ok(context.resumed > 0);
  // 600 ms have gone by in which no frame was heard
  context.heard = { contextTime: 1, performanceTime: 1_600 };
  context.is("running");
  const measures = nodes.at(-1).told.filter(({ measure }) => measure);
  // what the audio thread gives goes through the master, which looks 2 ms ahead
  assert.equal(measures.at(-1).measure.micros, 602_000, "believed at once");
  sound.hush();
  assert.equal(events.filter(([kind]) => kind === "stopped").length, 1, "what is hushed is not said");
});

test("the house is told of the delay after three measurements, and again where it is otherwise", async () => {
  repeats.length = 0;
  const { sound } = await begun();
  const [measure, report] = repeats;
  const told = [];
  sound.addEventListener("delay", ({ detail }) => told.push(detail));
  clock.delivery = 9_000;
  measure();
  assert.deepEqual(told, []);
  measure();
  // with the 2 ms of the master
  assert.deepEqual(told, [11_000]);
  clock.delivery = 15_000;
  measure();
  assert.equal(told.length, 1);
  report();
  assert.deepEqual(told, [11_000, 17_000]);
  clock.delivery = 0;
});

test("a sound that is tried is heard on other devices too", () => {
  const sound = new Sound(clock);
  const told = [];
  const stop = sound.tellAlso((message) => told.push(message));
  const tried = { part: 1, sound: { drums: false, program: 4 } };
  sound.tries(tried);
  sound.tries(null);
  stop();
  sound.tries(tried);
  assert.deepEqual(told, [{ tries: tried }, { tries: null }]);
});

test("blocks that came late are counted: the clock of the audio thread steps there", async () => {
  const { sound } = await begun();
  const says = (frame, micros) => nodes.at(-1).port.onmessage({ data: { clock: { frame, micros } } });
  says(0, 0);
  says(48_000, 1_000_900);
  assert.equal(sound.breaks, 0);
  says(96_000, 2_200_000);
  assert.equal(sound.breaks, 1);
  says(144_000, 3_200_000);
  assert.equal(sound.breaks, 1);
});
