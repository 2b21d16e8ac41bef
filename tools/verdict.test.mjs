import assert from "node:assert/strict";
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import { aboutTest, verdict } from "./verdict.mjs";

/** What Maven, Surefire and npm said in such cases. */
const SAID = {
  test: [
    "[INFO] Tests run: 12, Failures: 0, Errors: 0, Skipped: 0, Time elapsed: 0.1 s -- in ancora.core.run.RunEditTest",
    "[ERROR] Failures: ",
    "[ERROR]   RunsTest.aRunSoundsAsItWasPerformed:143->agree:120 [Line at 6097] expected: 8192 but was: 6297",
    "[ERROR]   CuesTest.aCue:31 there is no such clip",
    "[ERROR] Tests run: 663, Failures: 2, Errors: 0, Skipped: 0",
  ],
  slow: [
    "[ERROR] Errors: ",
    "[ERROR]   StageSocketTest.whatIsSentAgainIsDoneOnce:80 » Assertion no such message came",
  ],
  download: [
    "[ERROR] Failed to execute goal on project ancora-app: Could not resolve dependencies for project ancora:ancora-app:jar:0.1.0",
    "[ERROR] Could not transfer artifact org.example:thing:jar:1.2 from/to elsewhere (https://elsewhere.example/): Connect timed out",
  ],
  missing: ["[ERROR] Plugin org.example:some-plugin:1.0 or one of its dependencies could not be resolved: …"],
  npm: ["npm error code EAI_AGAIN", "npm error syscall getaddrinfo"],
  compile: ["[ERROR] /somewhere/core/src/main/java/ancora/core/time/Ticks.java:[12,5] cannot find symbol"],
  form: ["[ERROR] Failed to execute goal spotless: The following files had format violations:"],
  script: ["not ok 3 - a page that comes back sends what waits first"],
  room: ["java.lang.OutOfMemoryError: Java heap space"],
  hung: [
    "[INFO] Running ancora.app.browser.BandTest",
    "[INFO] Running ancora.app.browser.StoryTest",
    "[INFO] Tests run: 2, Failures: 0, Errors: 0, Skipped: 0, Time elapsed: 67.26 s -- in ancora.app.browser.BandTest",
    "2026-11-29T05:00:00 WARN a journal: No space left on device",
    "[ERROR] There was a timeout or other error in the fork",
  ],
  unknown: ["[ERROR] Failed to execute goal some:thing (default) on project ancora: it broke -> [Help 1]"],
};

test("a failing test is named, with what it is about, what it found, and how many more there are", () => {
  const said = verdict(SAID.test, () => "Event for event, over random performances.");
  assert.equal(said.failed, "RunsTest.aRunSoundsAsItWasPerformed and 1 more");
  assert.match(
    said.means,
    /^It checks: “Event for event, over random performances.” .*expected: 8192 but was: 6297/,
  );
  assert.match(said.todo, /--only=RunsTest/);
});

test("a test that fails is that, whatever a test with a full disk has said besides", () => {
  assert.match(verdict(["java.io.IOException: No space left on device", ...SAID.test]).failed, /^RunsTest/);
});

test("a test that hung is named, whatever a test with a full disk has said besides", () => {
  const said = verdict(SAID.hung);
  assert.equal(said.failed, "StoryTest, which did not end");
  assert.match(said.todo, /--only=StoryTest/);
});

test("what did not come in a minute may be the machine's slowness, and what it had to do is said", () => {
  const { means } = verdict(SAID.slow);
  assert.match(means, /did not come within a minute; \d+ processors had [\d.]+ to do/);
});

test("a download that failed is said as that, before anything that follows from it", () => {
  assert.match(
    verdict(SAID.download).failed,
    /^a download: org.example:thing:jar:1.2, from the repository “elsewhere”$/,
  );
  assert.match(verdict(SAID.missing).failed, /^a download: org.example:some-plugin:1.0/);
  assert.match(verdict(SAID.npm).failed, /^a download: EAI_AGAIN/);
  assert.match(verdict(SAID.download).means, /nothing was tested/);
});

test("compiler, formatter, scripts, memory, and what is not known", () => {
  assert.equal(verdict(SAID.compile).failed, "compiling Ticks.java, line 12");
  assert.match(verdict(SAID.form).todo, /ancora format/);
  assert.match(verdict(SAID.script).failed, /sends what waits first/);
  assert.match(verdict(SAID.room).failed, /OutOfMemoryError/);
  assert.match(verdict(SAID.unknown).failed, /Failed to execute goal some:thing/);
  assert.equal(verdict([]).failed, "the build");
});

test("what a test is about is the first sentence above it, or above its class", () => {
  const source = `
    /** Rule 19: what a run keeps. And more. */
    class RunsTest {
      /**
       * Event for event, over random
       * performances. The rest.
       */
      @Property(tries = 120)
      void aRun(@ForAll long seed) {}
      @Test
      void bare() {}
    }`;
  assert.equal(aboutTest(source, "aRun"), "Event for event, over random performances.");
  assert.equal(aboutTest(source, "bare"), "Rule 19: what a run keeps.");
});

test("all goes into the file, the terminal has the tests that ran and three lines", () => {
  const file = join(mkdtempSync(join(tmpdir(), "verdict")), "deep", "test.log");
  const input = [...SAID.test, "noise", "[INFO] BUILD FAILURE"].join("\n");
  const run = spawnSync(process.execPath, [new URL("verdict.mjs", import.meta.url).pathname, file], {
    input,
    encoding: "utf8",
  });
  assert.equal(readFileSync(file, "utf8"), `${input}\n`);
  assert.doesNotMatch(run.stdout, /noise/);
  assert.match(run.stdout, /Tests run: 663/);
  assert.equal(
    run.stdout
      .trimEnd()
      .split("\n")
      .slice(-3)
      .filter((line) => /^(Failed|Means|Do): /.test(line)).length,
    3,
  );
  const said = (input) =>
    spawnSync(process.execPath, [new URL("verdict.mjs", import.meta.url).pathname, file], {
      input,
      encoding: "utf8",
    }).stdout;
  assert.doesNotMatch(said("[INFO] BUILD SUCCESS\n"), /Failed/);
  // what failed beside a build that did not
  assert.match(said("not ok 3 - a key\nBUILD FAILURE: …\n[INFO] BUILD SUCCESS\n"), /Failed: .*a key/);
});
