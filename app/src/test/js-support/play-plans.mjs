// Plays what Java's tests send, with the page's own player: reads a list of steps as JSON, prints what sounded.
// A step is {until, plan?, down?, up?, panic?}: time passes to `until`, then the rest happens.
import { readFileSync } from "node:fs";
import { Player } from "../../main/resources/static/js/player/player.js";

const player = new Player();
const sounded = [];
let now = 0;

function passTo(until) {
  for (const { kind, part, pitch, micros } of player.advance(now, until)) {
    sounded.push(`${Math.round(micros)} ${kind} ${part} ${pitch}`);
  }
  now = until;
}

for (const { until, plan, down, up, panic } of JSON.parse(readFileSync(0, "utf8"))) {
  passTo(until);
  if (down) {
    player.handDown(down[0], down[1], 90, now);
  }
  if (up) {
    player.handUp(up[0], up[1], now);
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
