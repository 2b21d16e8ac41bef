import assert from "node:assert/strict";
import { test } from "node:test";
import { MidiClock } from "../../main/js/output/midi-clock.js";
import { balance, choice, messageOf, silence } from "../../main/js/output/midi-out.js";
import { namesIn } from "../../main/js/output/program-names.js";
import { Outside } from "../../main/js/output/outside.js";
import { SharedKeys } from "../../main/js/output/shared-keys.js";
import { TempoMap } from "../../main/js/player/tempo-map.js";
import { CLICK, TOLERANCES } from "../js-support/plans.js";

const EPOCH = 1_000_000_000;

/** From tick to tick, in microseconds: 960 ticks a quarter note. */
const perTick = (bpm) => 60e6 / bpm / 960;

// MIDI 1.0 detailed specification, table I (channel voice messages) and table III (controllers).
test("what sounds is told as MIDI 1.0 has it", () => {
  const act = (kind, pitch, velocity) => messageOf({ kind, pitch, velocity }, { channel: 3, volume: 64 });
  assert.deepEqual(act("on", 60, 100), [0x93, 60, 100]);
  assert.deepEqual(act("off", 60, 0), [0x83, 60, 64], "a release velocity of 64 says nothing");
  assert.deepEqual(act("control", 64, 127), [0xb3, 64, 127]);
  assert.deepEqual(act("control", 7, 127), [0xb3, 7, 64], "as loud as its part");
  assert.deepEqual(act("control", 7, 64), [0xb3, 7, 32]);
  assert.deepEqual(act("bend", 0, 8192), [0xe3, 0, 0x40], "the middle, low seven bits first");
  assert.deepEqual(act("bend", 0, 16383), [0xe3, 0x7f, 0x7f]);
  assert.deepEqual(act("pressure", 0, 33), [0xd3, 33]);
});

// MIDI 1.0: bank select is control changes 0 and 32, and takes effect with the program change after it.
test("a bank is selected before its program, and only what is wanted is told", () => {
  assert.deepEqual(choice({ channel: 9, bank: 129, program: 16 }), [
    [0xb9, 0, 1],
    [0xb9, 32, 1],
    [0xc9, 16],
  ]);
  assert.deepEqual(choice({ channel: 0, bank: null, program: null }), []);
  assert.deepEqual(balance({ channel: 1, volume: 90, pan: 64 }), [
    [0xb1, 7, 90],
    [0xb1, 10, 64],
  ]);
  assert.deepEqual(silence(2), [
    [0xb2, 64, 0],
    [0xb2, 123, 0],
  ]);
});

test("parts on one channel share its keys and its pedal: what one lets go of another still holds", () => {
  const keys = new SharedKeys();
  const box = { device: "box", channel: 3 };
  const told = (kind, part, pitch, velocity = 90, output = box) =>
    keys.told(output, { kind, part, pitch, velocity, micros: 7 }).map((a) => `${a.kind} ${a.pitch}`);
  assert.deepEqual(told("on", 1, 60), ["on 60"]);
  assert.deepEqual(told("on", 2, 60), ["off 60", "on 60"], "attacked anew, off before on");
  assert.deepEqual(told("off", 1, 60), []);
  assert.deepEqual(told("off", 2, 60), ["off 60"]);
  assert.deepEqual(told("on", 1, 60), ["on 60"]);
  assert.deepEqual(told("on", 2, 60, 90, { device: "box", channel: 4 }), ["on 60"], "another channel");
  assert.deepEqual(told("control", 1, 64, 127), ["control 64"]);
  assert.deepEqual(told("control", 2, 64, 127), []);
  assert.deepEqual(told("control", 1, 64, 0), []);
  assert.deepEqual(told("on", 2, 62), ["on 62"]);
  assert.deepEqual(
    keys.left(box, 2, 9).map(({ kind, pitch, velocity }) => [kind, pitch, velocity]),
    [
      ["control", 64, 0],
      ["off", 62, 0],
    ],
    "60 is held by the other part",
  );
  keys.clear(box);
  assert.deepEqual(told("off", 1, 60), ["off 60"]);
});

/** All that a clock sends in blocks of 10 ms, from one instant to another. */
function sent(clock, from, until) {
  const out = [];
  for (let at = from; at < until; at += 10_000) {
    out.push(...clock.advance(at, at + 10_000));
  }
  return out;
}

const pulses = (messages) => messages.filter(({ bytes }) => bytes[0] === 0xf8).map(({ micros }) => micros);
const others = (messages) => messages.filter(({ bytes }) => bytes[0] !== 0xf8);

// MIDI 1.0, system real time: 24 timing clocks a quarter note. At 120 a quarter note lasts 500 ms.
test("there are 24 pulses a quarter note, evenly", () => {
  const clock = new MidiClock();
  clock.follow(new TempoMap([[0, EPOCH, perTick(120)]]));
  const found = pulses(sent(clock, EPOCH - 20_000, EPOCH + 2_000_000));
  assert.equal(found.filter((at) => at >= EPOCH && at < EPOCH + 2_000_000).length, 96);
  const steps = found.slice(1).map((at, i) => at - found[i]);
  steps.forEach((step) => assert.ok(Math.abs(step - 500_000 / 24) < 0.01, String(step)));
});

test("the pulses follow every change of tempo, and none is lost or doubled there", () => {
  const clock = new MidiClock();
  const change = EPOCH + 960 * perTick(120);
  clock.follow(new TempoMap([[0, EPOCH, perTick(120)]]));
  const before = sent(clock, EPOCH - 10_000, EPOCH + 400_000);
  clock.follow(
    new TempoMap([
      [0, EPOCH, perTick(120)],
      [960, change, perTick(60)],
      [1440, change + 480 * perTick(60), perTick(240)],
    ]),
  );
  const found = pulses([...before, ...sent(clock, EPOCH + 400_000, change + 1_000_000)]).filter(
    (at) => at >= EPOCH,
  );
  const steps = found.slice(1).map((at, i) => at - found[i]);
  const wanted = (bpm) => 60e6 / bpm / 24;
  steps.slice(0, 24).forEach((step) => assert.ok(Math.abs(step - wanted(120)) < 0.01));
  steps.slice(24, 36).forEach((step) => assert.ok(Math.abs(step - wanted(60)) < 0.01));
  steps.slice(36).forEach((step) => assert.ok(Math.abs(step - wanted(240)) < 0.01));
  assert.ok(steps.length > 60);
});

// MIDI 1.0: after start, the next clock is the first of the piece; a millisecond lies between them.
test("devices start on the first beat of the piece, not of the count-in, and stop with it", () => {
  const clock = new MidiClock();
  const map = new TempoMap([[-3840, EPOCH - 3840 * perTick(120), perTick(120)]]);
  clock.follow(map);
  const out = sent(clock, EPOCH - 2_100_000, EPOCH + 500_000);
  assert.deepEqual(others(out), [{ micros: EPOCH - 1000, bytes: [0xfa] }]);
  assert.ok(
    pulses(out).some((at) => at < EPOCH - 1_000_000),
    "the tempo is known before",
  );
  clock.follow(null);
  assert.deepEqual(clock.advance(EPOCH + 500_000, EPOCH + 510_000), [
    { micros: EPOCH + 500_000, bytes: [0xfc] },
  ]);
  assert.deepEqual(clock.advance(EPOCH + 510_000, EPOCH + 520_000), [], "it stops once");
});

// MIDI 1.0: song position counts sixteenths, six clocks each, low seven bits first.
test("who comes in the middle is told the place, and continues from there", () => {
  const clock = new MidiClock();
  clock.follow(new TempoMap([[0, EPOCH, perTick(120)]]));
  const bars = EPOCH + 40 * 2_000_000 + 30_000;
  const out = sent(clock, bars, bars + 200_000);
  const sixteenth = EPOCH + 641 * 125_000;
  assert.deepEqual(others(out), [
    { micros: sixteenth - 1000, bytes: [0xf2, 641 & 0x7f, 641 >> 7] },
    { micros: sixteenth - 1000, bytes: [0xfb] },
  ]);
  assert.ok(pulses(out).includes(sixteenth));
});

/** A page with a device that can be sent to; server time and the page's own are the same. */
function page(output = {}) {
  const sentTo = [];
  const clock = { time: EPOCH, isSet: true, now: () => clock.time, own: (micros) => micros / 1000 };
  const midi = new EventTarget();
  const port = { send: (bytes, at) => sentTo.push([bytes, at === undefined ? undefined : at * 1000]) };
  midi.outputs = new Map([["box", port]]);
  const outside = new Outside(clock, midi);
  const part = {
    id: 1,
    output: {
      device: "box",
      channel: 4,
      bank: null,
      program: 7,
      alone: true,
      volume: 127,
      pan: 64,
      ...output,
    },
  };
  const plan = {
    tolerances: TOLERANCES,
    rolling: true,
    firstTick: 0,
    anchors: [[0, EPOCH + 100_000, perTick(120)]],
    click: CLICK,
    parts: [
      {
        part: 1,
        sound: { drums: false, program: 0 },
        spans: [{ id: "s", start: 0, length: 1920, phase: 0, from: 0, notes: [[1, 480, 240, 60, 100]] }],
      },
    ],
    order: [1],
  };
  const run = (until) => {
    for (; clock.time < until; clock.time += 8000) {
      outside.pump();
    }
  };
  return { outside, part, plan, sentTo, run, midi, port, clock };
}

test("a loop goes to its device ahead of time, each message with the time at which it is due", (t) => {
  t.mock.timers.enable({ apis: ["setInterval"] });
  const { outside, part, plan, sentTo, run } = page();
  outside.setOn(true);
  outside.setParts([part]);
  assert.deepEqual(sentTo.splice(0), [
    [[0xc4, 7], undefined],
    [[0xb4, 7, 127], undefined],
    [[0xb4, 10, 64], undefined],
  ]);
  outside.receive({ plan });
  run(EPOCH + 100_000 + 3840 * perTick(120));
  const on = (pass) => EPOCH + 100_000 + (480 + pass * 1920) * perTick(120);
  assert.deepEqual(
    sentTo.map(([bytes, at]) => [bytes, Math.round(at)]),
    [0, 1].flatMap((pass) => [
      [[0x94, 60, 100], Math.round(on(pass))],
      [[0x84, 60, 64], Math.round(on(pass) + 240 * perTick(120))],
    ]),
  );
  outside.setParts([]);
});

test("a device is told to choose a clip's program where the clip enters, and its part's again with the next", (t) => {
  t.mock.timers.enable({ apis: ["setInterval"] });
  const { outside, part, plan, sentTo, run } = page();
  outside.setOn(true);
  outside.setParts([part]);
  sentTo.length = 0;
  const sound = plan.parts[0].sound;
  const turned = { ...sound, outside: { bank: 129, program: 48 } };
  const sounds = [
    [1920, turned],
    [3840, sound],
  ];
  outside.receive({ plan: { ...plan, parts: [{ ...plan.parts[0], sounds }] } });
  run(EPOCH + 100_000 + 4000 * perTick(120));
  // to see that nothing is told twice: how the part stands is told anew
  outside.setParts([{ ...part, output: { ...part.output, volume: 100 } }]);
  const at = (tick) => Math.round(EPOCH + 100_000 + tick * perTick(120));
  const chosen = sentTo
    .filter(([[status, number]]) => status === 0xc4 || (status === 0xb4 && [0, 32].includes(number)))
    .map(([bytes, when]) => [bytes, Math.round(when)]);
  assert.deepEqual(chosen, [
    [[0xb4, 0, 1], at(1920)],
    [[0xb4, 32, 1], at(1920)],
    [[0xc4, 48], at(1920)],
    [[0xc4, 7], at(3840)],
  ]);
  const entered = sentTo.findIndex(([[status], when]) => status === 0x94 && when > at(1920));
  assert.ok(entered > sentTo.findIndex(([[status]]) => status === 0xc4), "before its notes");
  outside.setParts([]);
});

test("what is due as soon as the music starts is due then, not when a timer has looked ahead", (t) => {
  t.mock.timers.enable({ apis: ["setInterval"] });
  const { outside, part, plan, sentTo, run, clock } = page();
  outside.setOn(true);
  outside.setParts([part]);
  outside.setClockTo(["box"]);
  run(EPOCH + 48_000);
  sentTo.length = 0;
  const begins = clock.time + 2_000;
  const [span] = plan.parts[0].spans;
  const atOnce = { ...plan, anchors: [[0, begins, perTick(120)]] };
  outside.receive({
    plan: { ...atOnce, parts: [{ ...plan.parts[0], spans: [{ ...span, notes: [[1, 0, 960, 60, 100]] }] }] },
  });
  run(begins + 10_000);
  assert.deepEqual(
    sentTo.slice(0, 3).map(([bytes, at]) => [bytes, Math.round(at)]),
    [
      [[0x94, 60, 100], begins],
      [[0xfa], begins - 1000],
      [[0xf8], begins],
    ],
  );
  outside.receive({ plan: { ...atOnce, rolling: false } });
  const ends = sentTo.find(([[status]]) => status === 0x84)[1];
  assert.ok(ends > begins, "it begins before it ends");
  sentTo.length = 0;
  outside.receive({ plan: { ...atOnce, anchors: [[0, clock.time, perTick(120)]] } });
  run(clock.time + 30_000);
  assert.ok(
    sentTo.every(([, at]) => at >= ends),
    "nothing of it comes before the end of what was there",
  );
  outside.setParts([]);
});

test("hands are heard at once, and what a plan takes away ends at once", (t) => {
  t.mock.timers.enable({ apis: ["setInterval"] });
  const { outside, part, plan, sentTo, run, clock } = page();
  outside.setOn(true);
  outside.setParts([part]);
  outside.receive({ plan });
  sentTo.length = 0;
  outside.receive({ down: 72, part: 1, velocity: 90, at: clock.time });
  outside.receive({ up: 72, part: 1 });
  assert.deepEqual(sentTo.splice(0), [
    [[0x94, 72, 90], undefined],
    [[0x84, 72, 64], undefined],
  ]);
  run(EPOCH + 100_000 + 500 * perTick(120));
  sentTo.length = 0;
  outside.receive({ plan: { ...plan, parts: [{ ...plan.parts[0], spans: [] }] } });
  const [[bytes, at]] = sentTo;
  assert.deepEqual(bytes, [0x84, 60, 64]);
  assert.ok(at >= clock.time && at <= clock.time + 30_000);
  outside.setParts([]);
});

test("what is on its way when the music stops ends after it has begun", (t) => {
  t.mock.timers.enable({ apis: ["setInterval"] });
  const { outside, part, plan, sentTo, run, clock } = page();
  outside.setOn(true);
  outside.setParts([part]);
  outside.receive({ plan });
  const on = EPOCH + 100_000 + 480 * perTick(120);
  run(on - 20_000);
  const [, begins] = sentTo.find(([[status]]) => status === 0x94);
  assert.ok(begins > clock.time, "it has been handed over, and is not due yet");
  sentTo.length = 0;
  outside.receive({ plan: { ...plan, rolling: false } });
  const [[bytes, ends]] = sentTo;
  assert.deepEqual(bytes, [0x84, 60, 64]);
  assert.ok(ends >= begins);
  sentTo.length = 0;
  outside.receive({ panic: true });
  assert.ok(sentTo.some(([[, controller], at]) => controller === 123 && at >= begins));
  outside.setParts([]);
});

test("a device that comes back is told its program again; one that is not there replaces nothing", (t) => {
  t.mock.timers.enable({ apis: ["setInterval"] });
  const { outside, part, sentTo, midi, port } = page();
  outside.setOn(true);
  outside.setParts([part]);
  assert.ok(outside.replaces(part));
  sentTo.length = 0;
  midi.outputs.delete("box");
  midi.dispatchEvent(new Event("devices"));
  assert.ok(!outside.replaces(part), "so its own sound is heard again");
  outside.receive({ down: 60, part: 1, velocity: 90 });
  assert.deepEqual(sentTo, []);
  midi.outputs.set("box", port);
  midi.dispatchEvent(new Event("devices"));
  assert.deepEqual(sentTo[0], [[0xc4, 7], undefined]);
  outside.setParts([{ ...part, output: { ...part.output, volume: 0 } }]);
  assert.deepEqual(
    sentTo.slice(3).map(([bytes]) => bytes),
    [
      [0xb4, 7, 0],
      [0xb4, 10, 64],
    ],
    "a mute is told, and the program is not told again",
  );
  outside.setParts([]);
});

test("a page that has not the sound sends nothing; one that loses it leaves silence behind", (t) => {
  t.mock.timers.enable({ apis: ["setInterval"] });
  const { outside, part, plan, sentTo, run } = page();
  outside.setParts([part]);
  outside.setClockTo(["box"]);
  outside.receive({ plan });
  run(EPOCH + 1_000_000);
  assert.deepEqual(sentTo, []);
  outside.setOn(true);
  run(EPOCH + 2_000_000);
  assert.ok(sentTo.some(([[status]]) => status === 0xf8));
  sentTo.length = 0;
  outside.setOn(false);
  assert.deepEqual(
    sentTo.slice(0, 2).map(([bytes]) => bytes),
    [
      [0xb4, 64, 0],
      [0xb4, 123, 0],
    ],
  );
});

test("programs have the names of a text file; what is none is said, with its line", () => {
  const { names } = namesIn("# Harbour box\n0, 1, Grand piano\r\n\n1;5;Fog, low\n0\t2\tUpright\n0,1,Grand\n");
  assert.deepEqual(names, [
    { bank: 0, program: 0, name: "Grand" },
    { bank: 0, program: 1, name: "Upright" },
    { bank: 1, program: 4, name: "Fog, low" },
  ]);
  for (const line of ["0, 0, none", "0, 129, none", "16384, 1, none", "piano", "0, 1,", "-1, 1, none"]) {
    assert.match(namesIn(`0, 1, one\n${line}`).why, /^Line 2 /);
  }
  assert.match(namesIn("# nothing").why, /no program/);
  const many = Array.from({ length: 17 }, (_, bank) => `${bank}, 1, x`).join("\n");
  assert.match(namesIn(many).why, /more than 16 banks/);
  const all = Array.from({ length: 2048 }, (_, i) => `${i >> 7}, ${(i & 127) + 1}, p${i}`).join("\n");
  assert.equal(namesIn(all).names.length, 16 * 128);
});
