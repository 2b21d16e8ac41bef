/**
 * Unpacks a package elsewhere, starts it there with nothing on the path, asks it for its pages, and ends it.
 *
 *     node tools/unpacked.mjs target/ancora-….tar.gz
 */

import { execFileSync, spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** What a busy machine needs for a start, in ms, and how often it is asked. */
const PATIENCE = 180_000;
const GAP = 200;

const fail = (sentence) => {
  throw new Error(`The package is not good: ${sentence}`);
};

/** A port that is free. */
const freePort = () =>
  new Promise((have) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = /** @type {import("node:net").AddressInfo} */ (server.address());
      server.close(() => have(port));
    });
  });

/** @param {() => Promise<string>} asked is asked again until it answers */
async function waitFor(asked, isOver) {
  for (const began = Date.now(); Date.now() - began < PATIENCE;) {
    const answer = await asked().catch(() => "");
    if (answer) {
      return answer;
    }
    if (isOver()) {
      break;
    }
    await new Promise((go) => setTimeout(go, GAP));
  }
  return "";
}

const [file] = process.argv.slice(2);
// a folder with a blank in its name, as people have
const folder = mkdtempSync(join(tmpdir(), "a package "));
try {
  execFileSync("tar", ["-xzf", file, "-C", folder]);
  const [name] = readdirSync(folder);
  const home = join(folder, "home");
  mkdirSync(home);
  const launcher = join(folder, name, "ancora");
  const bare = { cwd: home, env: { HOME: home, PATH: "" } };
  const port = await freePort();
  const house = spawn(launcher, ["demo", `--port=${port}`], bare);
  let said = "";
  house.stdout.on("data", (data) => (said += data));
  house.stderr.on("data", (data) => (said += data));
  const over = new Promise((end) => house.on("exit", end));
  const page = async (path) => (await fetch(`http://localhost:${port}${path}`)).text();
  const list = await waitFor(
    () => page("/"),
    () => house.exitCode !== null,
  );
  if (!list.includes("Lighthouse Night")) {
    fail(`it did not start: ${said}`);
  }
  const stage = await page("/shows/1");
  const script = /src="(\/built\/stage[^"]*)"/.exec(stage) ?? fail("its Stage has no script");
  if (!(await page(script[1])).includes("AudioContext")) {
    fail("the script of its Stage is not there");
  }
  house.kill("SIGTERM");
  await over;
  const doctor = execFileSync(launcher, ["doctor", `--port=${port}`], { ...bare, encoding: "utf8" });
  if (!doctor.includes("All is well.")) {
    fail(doctor);
  }
  console.log("the package: unpacked, started and ended where there is no Java");
} finally {
  rmSync(folder, { recursive: true, force: true });
}
