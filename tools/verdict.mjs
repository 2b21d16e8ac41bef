/**
 * What `./ancora test` says: all that the build says goes into a file, what a person wants to see of it to
 * the terminal, and if it fails, three lines: what failed, what that means, what to do.
 *
 *     mvn … verify 2>&1 | node tools/verdict.mjs target/test.log
 */

import { createWriteStream, existsSync, mkdirSync, readFileSync, readdirSync } from "node:fs";
import { loadavg, availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { createInterface } from "node:readline";
import { pathToFileURL } from "node:url";

/**
 * @typedef {object} Verdict
 * @property {string} failed what failed
 * @property {string} means what that means, in a sentence
 * @property {string} todo what to do
 */

/** What is shown while it runs, besides the end. */
const SHOWN =
  /^\[(INFO|WARNING|ERROR)\] (Tests run:|Building |Running )|^# (tests|pass|fail) |BUILD (SUCCESS|FAILURE)|Total time/;

const LONGEST = 200;

/** @param {string} text */
const short = (text) => {
  const one = text.replace(/\s+/g, " ").trim();
  return one.length > LONGEST ? `${one.slice(0, LONGEST - 1)}…` : one;
};

/** @param {string[]} lines */
const firstOf = (lines, ...patterns) => {
  for (const pattern of patterns) {
    for (const line of lines) {
      const found = pattern.exec(line);
      if (found) {
        return found;
      }
    }
  }
  return null;
};

/** Failures as Surefire sums them up: `[ERROR]   RunsTest.name:143->other:12 message`. */
const SUMMED =
  /^\[ERROR\] {2,}(?:[\w.$]+\.)?(\w+(?:Test|Tests|Bench|Pictures))\.(\w+)(?:\([^)]*\))?(?:\[\d+\])?(?::\d+)?(?:->\S+)?\s*(.*)$/;

/**
 * @param {string[]} lines of the build
 * @param {(test: string, method: string) => string} about what a test is about, if that is known
 * @returns {Verdict}
 */
export function verdict(lines, about = () => "") {
  const fetched = firstOf(
    lines,
    /Could not (?:transfer|find) artifact (\S+).*?(?:from\/to|in) (\S+)/,
    /(?:Could not resolve|Failed to read artifact descriptor for|Non-resolvable (?:parent|import) POM for) (\S+)/,
    /Plugin (\S+) or one of its dependencies could not be resolved/,
    /npm (?:error|ERR!) (?:code )?(E(?:AI_AGAIN|CONN\w+|NOTFOUND|TIMEDOUT|404)|network.*)/,
    /E: (?:Unable to (?:fetch|locate package)|Failed to fetch) (.*)/,
  );
  if (fetched) {
    return {
      failed: `a download: ${short(fetched[1])}${fetched[2] ? `, from the repository “${fetched[2]}”` : ""}`,
      means:
        "What Ancora is built with could not be fetched; nothing was tested, and nothing is known to be wrong.",
      todo: "Look at the network and at the registries that Maven, npm or apt are set to, then try again: what has been fetched is kept.",
    };
  }
  const compiled = firstOf(lines, /^\[ERROR\] (\S+\.java):\[(\d+),\d+\] (.*)$/);
  if (compiled) {
    return {
      failed: `compiling ${compiled[1].split("/").at(-1)}, line ${compiled[2]}`,
      means: short(compiled[3]),
      todo: "Mend it, then try again.",
    };
  }
  const tests = lines.map((line) => SUMMED.exec(line)).filter((found) => found !== null);
  if (tests.length) {
    const [, test, method, message] = tests[0];
    const others = new Set(tests.map(([, t, m]) => `${t}.${m}`)).size - 1;
    const slow = /Timeout \d+ms exceeded|no such message came|never came/.test(
      tests[0][3] + lines.join("\n"),
    );
    const what = about(test, method);
    return {
      failed: `${test}.${method}${others > 0 ? ` and ${others} more` : ""}`,
      means: short(
        `${what ? `It checks: “${what}” ` : ""}${message || "That does not hold."}${
          slow
            ? ` (Something did not come within a minute; ${availableParallelism()} processors had ${loadavg()[1].toFixed(1)} to do: if that is far more, the machine was too slow.)`
            : ""
        }`,
      ),
      todo: `./ancora test --only=${test} runs it alone.`,
    };
  }
  if (lines.some((line) => /There was a timeout (?:or other error )?in the fork/.test(line))) {
    const begun = lines.map((line) => /Running \S*?(\w+)$/.exec(line)?.[1]).filter(Boolean);
    const ended = new Set(lines.map((line) => /Time elapsed: .* in \S*?(\w+)$/.exec(line)?.[1]));
    const hung = [...new Set(begun.filter((test) => !ended.has(test)))];
    return {
      failed: `${hung.join(" and ") || "a test"}, which did not end`,
      means: "It hung, or the machine is far too slow for it: after so long it was stopped.",
      todo: `./ancora test --only=${hung[0] ?? "TEST"} runs it alone.`,
    };
  }
  const room = firstOf(
    lines,
    // tests with a full disk say so too, but not as the build does
    /^\[ERROR\].*(No space left on device)/,
    /npm (?:error|ERR!).*(ENOSPC|no space left on device)/,
    /(OutOfMemoryError[^\n]*)/,
    /(insufficient memory[^\n]*)/,
  );
  if (room) {
    return {
      failed: `the machine: ${short(room[1])}`,
      means: "It has too little memory or room on its disk for the tests: 4 GB of each are enough.",
      todo: "Make room, then try again.",
    };
  }
  const script = firstOf(lines, /^not ok \d+ - (.*)$/, /^\s*✖ (.*?)(?: \([\d.]+ms\))?$/);
  if (script) {
    return {
      failed: `a test in JavaScript: ${short(script[1])}`,
      means: "What runs in the page does not do what that test says.",
      todo: "cd app/frontend && npm run check runs these alone.",
    };
  }
  const style = firstOf(
    lines,
    /(format violations)/,
    /(Code style issues)/,
    /^\s+\d+:\d+\s+(?:error|warning)\s+(.*)$/,
  );
  if (style) {
    return {
      failed: `the form of the code: ${short(style[1])}`,
      means: "It is not as the formatters and the linter want it.",
      todo: "./ancora format, then try again; what is left is in the file.",
    };
  }
  const goal = firstOf(lines, /^\[ERROR\] (Failed to execute goal .*?): /, /^\[ERROR\] (.*)$/);
  return {
    failed: short(goal ? goal[1] : "the build"),
    means: "It ended in a way that is not known here.",
    todo: "Read the end of the file.",
  };
}

/**
 * The first sentence of what stands above a test in its source.
 *
 * @param {string} source of its class
 * @param {string} method its name
 */
export function aboutTest(source, method) {
  const comment = (/** @type {RegExp} */ what) => {
    const found = new RegExp(
      `/\\*\\*((?:(?!\\*/)[\\s\\S])*)\\*/\\s*(?:@[\\w.]+(?:\\([^)]*\\))?\\s*)*${what.source}`,
    ).exec(source);
    const text = found?.[1].replace(/^\s*\* ?/gm, " ").replace(/\{@\w+ ([^}]*)\}/g, "$1") ?? "";
    return text.replace(/\s+/g, " ").trim();
  };
  const text =
    comment(new RegExp(`(?:public |private |static )*\\w[\\w<>]* ${method}\\(`)) ||
    comment(/(?:public |final |abstract )*class /);
  return (/^.*?[.?](?=\s|$)/.exec(text) ?? [text])[0];
}

/** @param {string} folder @param {string} name @returns {string | null} */
function find(folder, name) {
  if (!existsSync(folder)) {
    return null;
  }
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    const found = entry.isDirectory() ? find(path, name) : entry.name === name ? path : null;
    if (found) {
      return found;
    }
  }
  return null;
}

/** @param {string} test @param {string} method */
function aboutHere(test, method) {
  for (const module of ["core", "app"]) {
    const path = find(join(module, "src/test/java"), `${test}.java`);
    if (path) {
      return aboutTest(readFileSync(path, "utf8"), method);
    }
  }
  return "";
}

async function main(/** @type {string} */ file) {
  mkdirSync(dirname(file), { recursive: true });
  const kept = createWriteStream(file);
  /** @type {string[]} */
  const lines = [];
  let ended = false;
  let broken = false;
  for await (const line of createInterface({ input: process.stdin })) {
    kept.write(`${line}\n`);
    const plain = line.replace(/\u001b\[[\d;]*m/g, "");
    lines.push(plain);
    ended ||= plain.includes("BUILD SUCCESS");
    broken ||= plain.includes("BUILD FAILURE");
    if (SHOWN.test(plain)) {
      console.log(plain);
    }
  }
  await new Promise((done) => kept.end(done));
  if (broken || !ended) {
    const { failed: what, means, todo } = verdict(lines, aboutHere);
    console.log(`\nFailed: ${what}\nMeans:  ${means}\nDo:     ${todo} All that was said is in ${file}.`);
  }
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  await main(process.argv[2]);
}
