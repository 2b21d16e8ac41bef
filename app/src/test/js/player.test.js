import assert from "node:assert/strict";
import { test } from "node:test";
import { HeardClock } from "../../main/js/player/heard-clock.js";
import { clicks } from "../../main/js/player/clicks.js";
import { CLICK, Player } from "../../main/js/player/player.js";
import { TempoMap } from "../../main/js/player/tempo-map.js";
import { CLICK as CLICK_PLAN, TOLERANCES } from "../js-support/plans.js";

// What a player answers to plans and hands is held, event by event, to the Java one by PlayersAgreeTest;
// here is what that test cannot see: faults, stalls, reloads, clocks, and the click's own arithmetic.

// At 120 a tick lasts 500000/960 µs.
const PER_TICK = 500_000 / 960;
const BLOCK = (128 / 48_000) * 1e6;

function plan(notes, more = {}) {
  const span = {
    id: "1/2/0",
    start: 0,
    length: 3840,
    phase: 0,
    from: 0,
    underWay: true,
    // as the host sends them: by rising place
    notes: [...notes].sort((a, b) => a[1] - b[1]),
    ...more.span,
  };
  return {
    rolling: true,
    firstTick: more.firstTick ?? 0,
    anchors: more.anchors ?? [[more.firstTick ?? 0, 0, PER_TICK]],
    click: { ...CLICK_PLAN, spans: more.clicks ?? [] },
    tolerances: TOLERANCES,
    parts: [{ part: 1, sound: { drums: false, program: 4 }, spans: [span] }],
    order: [1],
  };
}

test("what a fault left half done sounds once, when it is done again", () => {
  const player = new Player();
  player.setPlan(plan([[1, 0, 480, 60, 90, 0], [2, 1, 480, 62, 90, 0]]), 0); // prettier-ignore
  const { entries } = player;
  const loopDown = entries.loopDown.bind(entries);
  entries.loopDown = (out, micros, part, span, note, ...more) => {
    if (note[0] === 2) {
      throw new Error("a fault");
    }
    loopDown(out, micros, part, span, note, ...more);
  };
  for (let i = 0; i < 100; i++) {
    assert.throws(() => player.advance(0, BLOCK));
  }
  entries.loopDown = loopDown;
  const pitches = player.advance(0, BLOCK).filter(({ kind }) => kind === "on").map(({ pitch }) => pitch); // prettier-ignore
  assert.deepEqual(pitches, [60, 62]);
});

const STANDSTILL = { ...plan([]), rolling: false, anchors: undefined };

/** Runs a player to a tick, and gives what happened as [kind, part, pitch, tick]. */
function run(player, untilTick, state) {
  const out = [];
  while (state.micros < untilTick * PER_TICK) {
    for (const action of player.advance(state.micros, state.micros + BLOCK)) {
      out.push([action.kind, action.part, action.pitch, Math.round(action.micros / PER_TICK)]);
    }
    state.micros += BLOCK;
  }
  return out;
}

function start(thePlan) {
  const player = new Player();
  player.setPlan(thePlan, 0);
  return [player, { micros: 0 }];
}

test("after a stall what was missed is left out, and the loop goes on in step", () => {
  const notes = Array.from({ length: 16 }, (_, i) => [i + 1, i * 240, 60, 40 + i, 90]);
  const [player, state] = start(plan(notes));
  run(player, 1000, state);
  state.micros += 400_000;
  const ons = run(player, 3000, state).filter(([kind]) => kind === "on");
  assert.deepEqual(
    ons.map(([, , pitch, tick]) => [pitch, tick]),
    [
      [48, 1920],
      [49, 2160],
      [50, 2400],
      [51, 2640],
      [52, 2880],
    ],
  );
});

test("clicks between beats are softer than beats, and those softer than the downbeat", () => {
  const click = {
    ticks: 320,
    perBeat: 3,
    barTicks: 2880,
    beatKey: 77,
    downbeatKey: 76,
    velocities: [120, 92, 71],
    spans: [[0, null]],
  };
  const found = clicks(click, -1, 2880);
  assert.deepEqual(found.map(({ tick, pitch, velocity }) => [tick, pitch, velocity]).slice(0, 5), [
    [0, 76, 120],
    [320, 77, 71],
    [640, 77, 71],
    [960, 77, 92],
    [1280, 77, 71],
  ]);
  assert.equal(found.length, 10);
});

test("the click falls on its ticks, in the count-in too", () => {
  const [player, state] = start(
    plan([], {
      firstTick: -3840,
      anchors: [[-3840, 0, PER_TICK]],
      clicks: [[-3840, 0]],
    }),
  );
  const clicks = run(player, 6000, state).filter(([, part]) => part === CLICK);
  assert.deepEqual(
    clicks.map(([, , pitch, tick]) => [pitch, tick - 3840]),
    [
      [76, -3840],
      [77, -2880],
      [77, -1920],
      [77, -960],
    ],
  );
});

test("after a reload what is under way is taken up in step", () => {
  const player = new Player();
  player.setPlan(plan([[1, 960, 1920, 60, 90]]), 0);
  const state = { micros: (10 * 3840 + 1500) * PER_TICK };
  const events = run(player, 11 * 3840, state);
  assert.deepEqual(
    events.map(([kind]) => kind),
    ["on", "off"],
  );
  assert.equal(events[1][3], 10 * 3840 + 2880);
});

test("whatever is thrown at it, every note-on has exactly one note-off", () => {
  let seed = 12345;
  const random = (n) => (seed = (seed * 48271) % 2147483647) % n;
  for (let round = 0; round < 60; round++) {
    const player = new Player();
    const open = new Map();
    const state = { micros: 0 };
    const follow = (events) => {
      for (const [kind, part, pitch] of events) {
        if (part !== CLICK) {
          const key = `${part} ${pitch}`;
          const count = (open.get(key) ?? 0) + (kind === "on" ? 1 : -1);
          assert.ok(count === 0 || count === 1, `round ${round}: ${kind} makes ${count} of ${key}`);
          open.set(key, count);
        }
      }
    };
    for (let step = 0; step < 60; step++) {
      const what = random(8);
      if (what < 3) {
        const notes = Array.from({ length: random(12) }, (_, i) => {
          const note = [random(20), random(3840), random(9) ? 15 + random(3000) : -1, 60 + random(4), 90];
          return i % 3 ? note : [...note, random(20_000)];
        });
        const span = {
          from: random(3) * 3840,
          id: `s${random(3)}`,
          until: random(4) ? undefined : random(20_000),
        };
        player.setPlan(plan(notes, { span, clicks: [[0, null]] }), state.micros);
      } else if (what === 3) {
        player.setPlan(STANDSTILL, state.micros);
      } else if (what === 4) {
        player.panic(state.micros);
      } else if (what === 5) {
        player.handDown(1, 60 + random(4), 90, state.micros);
      } else if (what === 6) {
        player.handUp(1, 60 + random(4), state.micros);
      } else {
        state.micros += random(900_000);
      }
      follow(run(player, state.micros / PER_TICK + random(900), state));
    }
    player.setPlan(STANDSTILL, state.micros);
    player.panic(state.micros);
    follow(run(player, state.micros / PER_TICK + 10, state));
    assert.ok([...open.values()].every((count) => count === 0));
  }
});

test("the tempo map is its own inverse", () => {
  const map = new TempoMap([
    [0, 0, PER_TICK],
    [1000, 1000 * PER_TICK, 300],
  ]);
  for (const tick of [-500, 0, 999, 1000, 1001, 50_000]) {
    assert.ok(Math.abs(map.tickAt(map.microsOf(tick)) - tick) < 1e-6);
    assert.equal(map.lastTickBefore(map.microsOf(tick)), tick - 1);
  }
});

test("the clock is slewed, never stepped, and leaves jitter alone", () => {
  const clock = new HeardClock(48_000);
  clock.measure(0, 1.7e15, 0);
  assert.equal(clock.micros, 0);
  clock.advance(48_000);
  assert.ok(Math.abs(clock.micros - 1e6) < 1e-6);
  clock.measure(48_000, 1.7e15 + 1e6 + 1500, 48_000);
  assert.equal(clock.stretch, 0);
  clock.measure(48_000, 1.7e15 + 1e6 + 5000, 48_000);
  assert.ok(Math.abs(clock.micros - 1e6) < 1e-6);
  assert.ok(clock.stretch > 0 && clock.stretch <= 0.005);
  clock.measure(48_000, 1.7e15 + 9e6, 48_000);
  assert.ok(Math.abs(clock.micros - 9e6) < 1);
});
