// Fetches what the page needs from npm, once for each state of the lock file. No install script of
// a package is ever run.
import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { spawnSync } from "node:child_process";

const stamp = "node_modules/.ancora-lock";
const lock = createHash("sha256").update(readFileSync("package-lock.json")).digest("hex");
if (!existsSync(stamp) || readFileSync(stamp, "utf8") !== lock) {
  const done = spawnSync("npm", ["ci", "--ignore-scripts", "--no-audit", "--no-fund"], { stdio: "inherit" });
  if (done.status !== 0) {
    process.exit(done.status ?? 1);
  }
  writeFileSync(stamp, lock);
}
