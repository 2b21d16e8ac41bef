// What planning costs the audio thread: prints, as JSON, the mean microseconds of a block of 128 frames at 48 kHz
// for 16 parts whose loops hold some notes each, of which as many sound in any case.
import { Player } from "../../../../app/src/main/js/player/player.js";

const PARTS = 16;
const BLOCK = (128 / 48_000) * 1e6;
const MICROS_A_TICK = 60e6 / 120 / 960;
const SOUNDING_APART = 240;
const BLOCKS = 12_000;

/** A part that sounds a note each sixteenth, in a loop as long as all its notes take. */
function part(number, notes) {
  const length = notes * SOUNDING_APART;
  const rows = Array.from({ length: notes }, (_, i) => [i + 1, i * SOUNDING_APART, 90, 36 + (i % 40), 100]);
  const span = { id: `s${number}`, start: 0, length, phase: 0, from: 0, notes: rows };
  return { part: number, sound: { drums: false, program: number }, spans: [span] };
}

function measured(notes) {
  const player = new Player();
  const parts = Array.from({ length: PARTS }, (_, i) => part(i + 1, notes));
  player.setPlan(
    {
      rolling: true,
      firstTick: 0,
      anchors: [[0, 0, MICROS_A_TICK]],
      tolerances: { entryMicros: 30e3, leastRest: 240, handBeforeMicros: 80e3, sameGestureMicros: 60e3 },
      click: { ticks: 960, perBeat: 1, velocities: [120, 92, 71], barTicks: 3840, beatKey: 77, downbeatKey: 76, gain: 1, spans: [] },
      parts,
      order: parts.map(({ part: id }) => id),
    },
    0,
  );
  const times = [];
  let events = 0;
  for (let i = 0; i < BLOCKS; i++) {
    const began = process.hrtime.bigint();
    events += player.advance(i * BLOCK, (i + 1) * BLOCK).length;
    const took = Number(process.hrtime.bigint() - began) / 1000;
    if (i >= BLOCKS / 2) {
      times.push(took);
    }
  }
  const mean = times.reduce((sum, time) => sum + time, 0) / times.length;
  return { notes, mean, share: mean / BLOCK, events };
}

measured(40);
console.log(JSON.stringify([40, 200, 4000].map(measured)));
