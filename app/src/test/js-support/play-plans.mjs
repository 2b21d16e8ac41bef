// Plays what Java's tests send, with the page's own player: reads a list of steps as JSON, prints what sounded.
// A step is {until, plan?, state?, ask?, down?, up?, press?, move?, panic?}: time passes to `until`, then the rest
// happens; where it asks, what the page knows by then is told.
import { readFileSync } from "node:fs";
import { State } from "../../main/js/house/state.js";
import { planWith } from "../../main/js/player/changes.js";
import { Player } from "../../main/js/player/player.js";

const player = new Player();
const sounded = [];
let now = 0;
let known = null;
const state = new State();
const asked = [];

function passTo(until) {
  for (const { kind, part, pitch, velocity, micros } of player.advance(now, until)) {
    sounded.push(`${Math.round(micros)} ${kind} ${part} ${pitch} ${velocity}`);
  }
  now = until;
}

for (const { until, plan, state: changes, ask, down, up, press, move, panic } of JSON.parse(
  readFileSync(0, "utf8"),
)) {
  passTo(until);
  if (down) {
    player.handDown(down[0], down[1], down[2], now);
  }
  if (up) {
    player.handUp(up[0], up[1], now);
  }
  if (press) {
    player.handPresses(press[0], press[1], press[2]);
  }
  if (move) {
    player.handMoves(...move, now);
  }
  if (panic) {
    player.panic(now);
  }
  if (plan) {
    known = planWith(known, plan);
    player.setPlan(known, now);
  }
  if (changes) {
    state.take(changes);
  }
  if (ask) {
    const { parts, clips, order, armed } = state;
    const page = { parts: Object.fromEntries(parts), clips: Object.fromEntries(clips), order, armed };
    asked.push(JSON.parse(JSON.stringify({ state: page, plan: known })));
  }
}
passTo(now + 1);
console.log(JSON.stringify({ sounded, asked }));
