/**
 * All that can be put on a control, as the engine has it: by groups, in words with blanks, each blank with what it
 * may be.
 *
 * @typedef {{field: string, choices: [unknown, string][]}} Blank
 * @typedef {{group: string, words: string, hold: string, command: import("../input/commands.js").Command,
 *   blanks: Blank[]}} Entry
 */

/** @type {Promise<Entry[]> | null} */
let asked = null;

/** @returns {Promise<Entry[]>} asked of the house once */
export function catalogue() {
  asked ??= fetch("/catalogue.json").then((answer) => answer.json());
  asked.catch(() => (asked = null));
  return asked;
}

/** An entry with its blanks as lists to choose from. */
export class Filling {
  /**
   * @param {Entry} entry
   * @param {() => void} changed is told when a blank is filled otherwise
   */
  constructor(entry, changed = () => {}) {
    this.entry = entry;
    this.lists = entry.blanks.map((blank) => {
      const list = document.createElement("select");
      list.className = "choice small";
      list.setAttribute(
        "aria-label",
        blank.field.replace(/[A-Z]/g, (capital) => ` ${capital.toLowerCase()}`),
      );
      list.append(...blank.choices.map(([, words], i) => new Option(words, String(i))));
      const usual = JSON.stringify(entry.command[blank.field]);
      list.value = String(
        Math.max(
          0,
          blank.choices.findIndex(([value]) => JSON.stringify(value) === usual),
        ),
      );
      list.addEventListener("change", changed);
      return list;
    });
  }

  /** @returns {import("../input/commands.js").Command} as it is filled */
  get command() {
    const filled = this.entry.blanks.map(({ field, choices }, i) => [
      field,
      choices[Number(this.lists[i].value)][0],
    ]);
    return { ...this.entry.command, ...Object.fromEntries(filled) };
  }

  /** What it does, in words, as it is filled. */
  get words() {
    return this.entry.blanks.reduce(
      (words, { field, choices }, i) => words.replace(`{${field}}`, choices[Number(this.lists[i].value)][1]),
      this.entry.words,
    );
  }

  /** The last blank has its next choice; false where there is none. */
  next() {
    const list = this.lists.at(-1);
    if (!list || list.selectedIndex + 1 >= list.options.length) {
      return false;
    }
    list.selectedIndex++;
    return true;
  }
}

/** The groups, in their order. */
export function groupsOf(entries) {
  return [...new Set(entries.map(({ group }) => group))];
}
