// Plays what Java's tests send, with the page's own player: reads a list of steps as JSON, prints what sounded.
// A step is {until, plan?, state?, ask?, down?, up?, press?, move?, panic?}: time passes to `until`, then the rest
// happens; where it asks, what the page knows by then is told.
import { readFileSync } from "node:fs";
import { State } from "../../main/js/house/state.js";
import { sceneOf } from "../../main/js/stage/scene.js";
import { planWith } from "../../main/js/player/changes.js";
import { Player } from "../../main/js/player/player.js";

const player = new Player();
const sounded = [];
let now = 0;
let known = null;
const state = new State();
const asked = [];

/** How many notes of loops were looked for in what is drawn, and those that were not there. */
let looked = 0;
const undrawn = [];
const wrong = [];
/** What hands hold down: it is heard, and drawn where it is recorded. */
const hands = new Set();

function passTo(until) {
  for (const { kind, part, pitch, velocity, micros } of player.advance(now, until)) {
    sounded.push(`${Math.round(micros)} ${kind} ${part} ${pitch} ${velocity}`);
    if (kind === "on" && state.map && isOfLoop(part, pitch)) {
      looked++;
      if (!isDrawn(part, pitch, micros)) {
        undrawn.push([part, pitch, micros]);
      }
    }
  }
  now = until;
}

/** Whether a loop has it, and no hand holds it. */
function isOfLoop(part, pitch) {
  const spans = known.parts.find((plan) => plan.part === part)?.spans ?? [];
  return !hands.has(`${part} ${pitch}`) && spans.some(({ notes }) => notes.some((note) => note[3] === pitch));
}

/** What sounds of a loop is drawn, that which comes in too: a pickup is before its clip; as a note of the clip, or of the take that is being played. */
function isDrawn(part, pitch, micros) {
  if (!state.map || !state.parts.has(part)) {
    return true;
  }
  const scene = sceneOf(state.parts.get(part), state.map.tickAt(micros), state);
  const comes = state.clips.get(state.parts.get(part).cue?.clip);
  const layers = [...(scene.clip?.layers ?? []), ...(comes?.layers ?? [])];
  const notes = layers.flatMap((layer) => layer.notes);
  // until it is told that a first recording has closed, what was played is drawn as it came
  const drawn = scene.takes
    ? scene.takes.coming
    : scene.kind === "RECORD"
      ? [...scene.notes, ...notes]
      : notes;
  return drawn.some(([, at]) => at === pitch);
}

for (const { until, plan, state: changes, ask, down, up, press, move, panic } of JSON.parse(
  readFileSync(0, "utf8"),
)) {
  passTo(until);
  if (down) {
    player.handDown(down[0], down[1], down[2], now);
    hands.add(`${down[0]} ${down[1]}`);
  }
  if (up) {
    player.handUp(up[0], up[1], now);
    hands.delete(`${up[0]} ${up[1]}`);
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
  // what took effect by itself meanwhile is told with the step: on a stage it is told at once
  wrong.push(...undrawn.splice(0).filter((note) => !isDrawn(...note)));
  if (ask) {
    const { parts, clips, order, armed } = state;
    const page = { parts: Object.fromEntries(parts), clips: Object.fromEntries(clips), order, armed };
    asked.push(JSON.parse(JSON.stringify({ state: page, plan: known })));
  }
}
passTo(now + 1);
console.log(JSON.stringify({ sounded, asked, looked, undrawn: wrong }));
