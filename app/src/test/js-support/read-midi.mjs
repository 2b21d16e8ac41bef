// Reads a Standard MIDI File with a library of others, and prints its notes and tempos as JSON.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";

const require = createRequire(new URL("../../../frontend/package.json", import.meta.url));
const { Midi } = require("@tonejs/midi");

const midi = new Midi(readFileSync(process.argv[2]));
console.log(
  JSON.stringify({
    ppq: midi.header.ppq,
    tempos: midi.header.tempos.map(({ ticks, bpm }) => [ticks, Math.round(bpm * 1000) / 1000]),
    meters: midi.header.timeSignatures.map(({ timeSignature }) => timeSignature),
    tracks: midi.tracks
      .filter(({ notes }) => notes.length)
      .map(({ name, notes }) => ({
        name,
        notes: notes.map(({ ticks, midi: pitch, durationTicks }) => [ticks, pitch, durationTicks]),
      })),
  }),
);
