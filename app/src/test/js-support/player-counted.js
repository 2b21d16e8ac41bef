/** The player, with sixteen parts that go round: in blocks in which nothing is struck, or in which each part is. */
import { Player } from "../../main/js/player/player.js";
import { count } from "./counted.js";
import { CLICK, TOLERANCES } from "./plans.js";

const PER_TICK = 500_000 / 960;
const BLOCK = (128 / 48_000) * 1e6;
const LOOP = 38_400_000;
const TICKS_APART = process.argv[2] === "struck" ? 5 : LOOP;

const notes = Array.from({ length: process.argv[2] === "struck" ? 768 : 1 }, (_, i) => [
  i + 1,
  i * TICKS_APART,
  3,
  36 + (i % 24),
  90,
  0,
]);
const length = process.argv[2] === "struck" ? 3840 : LOOP;
const span = { start: 0, length, phase: 0, from: 0, underWay: true, notes, moves: [] };
const parts = Array.from({ length: 16 }, (_, k) => ({
  part: k + 1,
  sound: { drums: false, program: 4 },
  spans: [{ ...span, id: `${k + 1}/2/0` }],
}));
const player = new Player();
player.setPlan(
  {
    rolling: true,
    firstTick: 0,
    anchors: [[0, 0, PER_TICK]],
    click: CLICK,
    tolerances: TOLERANCES,
    parts,
    order: parts.map(({ part }) => part),
  },
  0,
);

const time = { micros: 0.5 };
count((blocks) => {
  for (let i = 0; i < blocks; i++) {
    player.advance(time.micros, time.micros + BLOCK);
    time.micros += BLOCK;
  }
});
