/**
 * Writes into NOTICE what the application carries: what the license plugin of Maven found for the server, and
 * what npm's packages say of themselves for the page. With `--check` it writes nothing, and fails where NOTICE
 * says something else.
 *
 *     node tools/notice.mjs [--check]
 */

import { readFileSync, writeFileSync } from "node:fs";

const FOUND = "app/target/generated-sources/license/THIRD-PARTY.txt";
const FRONTEND = "app/frontend";
const MARK = "What the application carries, as the build finds it:\n";

/** One name for each licence, whatever a project calls it. */
const LICENCES = [
  [/apache/i, "Apache-2.0"],
  [/^EPL 1/i, "EPL-1.0"],
  [/^EPL[- ]2/i, "EPL-2.0"],
  [/^MPL 2/i, "MPL-2.0"],
  [/^GPL2 w\/ CPE/i, "GPL-2.0 with Classpath Exception"],
  [/public domain/i, "CC0-1.0"],
];

/** @param {string} name */
const licence = (name) => LICENCES.find(([pattern]) => pattern.test(name))?.[1] ?? name;

/** @param {string} line as the plugin has it: (LICENCE) (LICENCE) Name (group:artifact:version - address) */
function ofServer(line) {
  const found = /^ *((?:\(.*?\) )+).*\(([^:()]+):([^:()]+):([^:() ]+) - .*\)$/.exec(line);
  if (!found) {
    throw new Error(`NOTICE: this is not understood: ${line}`);
  }
  const names = [...found[1].matchAll(/\((.*?)\) /g)].map(([, name]) => licence(name));
  return `  ${found[2]}:${found[3]} ${found[4]}  ${names.join(" or ")}`;
}

/** @param {string} name of an npm package */
function ofPage(name) {
  const { version, license } = JSON.parse(
    readFileSync(`${FRONTEND}/node_modules/${name}/package.json`, "utf8"),
  );
  return `  ${name} ${version}  ${license}`;
}

const server = readFileSync(FOUND, "utf8")
  .split("\n")
  .filter((line) => line.startsWith("     ("))
  .map(ofServer)
  .sort();
const { dependencies } = JSON.parse(readFileSync(`${FRONTEND}/package.json`, "utf8"));
const page = Object.keys(dependencies).sort().map(ofPage);
const notice = readFileSync("NOTICE", "utf8");
const [head] = notice.split(MARK);
const made = `${head}${MARK}\nIn the page:\n${page.join("\n")}\n\nIn the server:\n${server.join("\n")}\n`;

if (!process.argv.includes("--check")) {
  writeFileSync("NOTICE", made);
} else if (made !== notice) {
  console.error(
    "NOTICE says something else than what the application carries: write it anew with ./ancora notice",
  );
  process.exit(1);
}
