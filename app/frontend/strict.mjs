/**
 * Types, with what may be null held to be so: of every module but those that are older than this check and not yet
 * through it. One that is through it stays so, and whatever is new begins so.
 */
import { spawnSync } from "node:child_process";

const NOT_YET = new Set(
  `
    devices/devices.js
    files/bring-in.js
    files/drag-out.js
    files/hearing.js
    files/rendering.js
    files/shows.js
    files/sound-sheet.js
    house/bank.js
    house/connection.js
    house/mixer.js
    house/outputs.js
    house/print.js
    house/server-clock.js
    house/sound.js
    house/state.js
    input/concert.js
    input/controls.js
    input/hub.js
    input/layout.js
    output/midi-out.js
    output/outside.js
    output/shared-keys.js
    player/changes.js
    player/clicks.js
    player/entries.js
    player/heard-clock.js
    player/loudness.js
    player/occurrences.js
    player/player.js
    player/second.js
    player/sounding-controllers.js
    player/voices.js
    player/worklet.js
    runs/runs.js
    stage/click-sounds.js
    stage/footboard.js
    stage/kept-sheet.js
    stage/notation.js
    stage/part-dialog.js
    stage/sound-chooser.js
    stage/stage.js
    stage/stave.js
    stage/staves.js
    stage/teaching.js
    stage/watch.js
    stage/what-now.js
    workshop/choice.js
    workshop/shown.js
    workshop/strips.js
    workshop/takes.js
    workshop/workshop.js
  `
    .trim()
    .split(/\s+/),
);

const { stdout } = spawnSync("node_modules/.bin/tsc", ["-p", "tsconfig.json", "--strictNullChecks"], {
  encoding: "utf8",
});
const faults = stdout
  .split("\n")
  .map((line) => ({ line, module: line.match(/^\.\.\/src\/main\/js\/(.*?)\(\d+,\d+\): error/)?.[1] }));
const found = new Set(faults.map(({ module }) => module));
for (const { line, module } of faults) {
  if (module && !NOT_YET.has(module)) {
    console.error(line);
    process.exitCode = 1;
  }
}
for (const module of NOT_YET) {
  if (!found.has(module)) {
    console.error(`${module} has nothing against it: take it off the list in strict.mjs`);
    process.exitCode = 1;
  }
}
