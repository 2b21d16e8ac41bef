// Plays what Java's tests send, with the page's own player: reads a list of steps as JSON, prints what sounded.
// A step is {until, plan?, down?, up?, press?, move?, panic?}: time passes to `until`, then the rest happens.
import { readFileSync } from "node:fs";
import { Player } from "../../main/resources/static/js/player/player.js";

const player = new Player();
const sounded = [];
let now = 0;

function passTo(until) {
  for (const { kind, part, pitch, velocity, micros } of player.advance(now, until)) {
    sounded.push(`${Math.round(micros)} ${kind} ${part} ${pitch} ${velocity}`);
  }
  now = until;
}

for (const { until, plan, down, up, press, move, panic } of JSON.parse(readFileSync(0, "utf8"))) {
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
    player.setPlan(plan, now);
  }
}
passTo(now + 1);
console.log(JSON.stringify(sounded));
