import { kept } from "../house/kept.js";

/**
 * What the programs of an outside device are called, from a text file of its owner's: bank, program and name in a line,
 * the program as it is printed, from 1. Kept by the browser, for each device.
 */

const MOST_BANKS = 16;
const OF_A_BANK = 128;
const MOST_BANK = 16383;
const LONGEST = 60;

const key = (device) => `ancora-programs-${device}`;

/**
 * @typedef {{bank: number, program: number, name: string}} Named program from 0
 */

/**
 * @param {string} text
 * @returns {{names?: Named[], why?: string}} in their order; or why not, in a sentence
 */
export function namesIn(text) {
  /** @type {Map<string, Named>} */
  const found = new Map();
  const lines = text.split(/\r?\n/);
  for (const [i, line] of lines.entries()) {
    if (!line.trim() || line.startsWith("#")) {
      continue;
    }
    const [, bank, program, name] =
      /^\s*(\d{1,5})\s*[,;\t]\s*(\d{1,3})\s*[,;\t]\s*(.+?)\s*$/.exec(line) ?? [];
    const named = { bank: Number(bank), program: Number(program) - 1, name: name?.slice(0, LONGEST) };
    if (!name || named.bank > MOST_BANK || named.program < 0 || named.program >= OF_A_BANK) {
      return { why: `Line ${i + 1} is no “bank, program, name”, as 0, 1, Grand piano: mend it there.` };
    }
    found.set(`${named.bank} ${named.program}`, named);
  }
  const names = [...found.values()].sort((a, b) => a.bank - b.bank || a.program - b.program);
  if (!names.length) {
    return { why: "There is no program in that file: write bank, program and name in a line." };
  }
  return new Set(names.map(({ bank }) => bank)).size > MOST_BANKS
    ? { why: `There are more than ${MOST_BANKS} banks in that file: leave some out.` }
    : { names };
}

/** @param {string} device @returns {Named[]} those that are known */
export function namesOf(device) {
  return JSON.parse(kept.get(key(device)) ?? "[]");
}

/** @param {string} device @param {Named[]} names */
export function keepNames(device, names) {
  kept.set(key(device), JSON.stringify(names));
}
