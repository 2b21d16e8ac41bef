import { openDrawer } from "../stage/dialogs.js";
import { post } from "./post.js";
import { count } from "../stage/time.js";
import { drawer, field, list } from "../stage/fields.js";
import { drumNames } from "../house/drum-names.js";
import { Hearing } from "./hearing.js";

/**
 * The sheet that shows what is in a file, or in another show, before any of it comes in, and takes the choice.
 *
 * @typedef {Record<string, any>} Into a show that it comes into
 * @property {number} show its number
 * @property {() => {id: number, name: string, shelf: number[]}[]} parts those that it has
 * @property {() => string} time its tempo and meter, in words
 */
export class BringIn {
  /** @param {Into} [into] without one, what comes in is a show of its own */
  constructor(into) {
    this.into = into;
    this.dialog = drawer("bring-in");
    this.lines = /** @type {HTMLTableSectionElement} */ (document.getElementById("bring-in-lines"));
    this.go = field("bring-in-go");
    this.link = /** @type {HTMLAnchorElement} */ (document.getElementById("bring-in-open"));
    this.shows = field("bring-in-show");
    this.shows.hidden = !into;
    this.found = field("bring-in-found");
    this.joined = field("bring-in-joined");
    this.asNames = field("bring-in-words-as-names");
    this.asRun = field("bring-in-as-run");
    this.time = list("bring-in-time");
    this.drums = document.getElementById("bring-in-drums");
    /** @type {{hearing: Hearing, button: HTMLButtonElement} | null} the line that is heard */
    this.heard = null;
    this.dialog.addEventListener("close", () => this.#silence());
    /** @type {{file?: File, from?: string} | null} what is looked at */
    this.source = null;
    const chooser = field("bring-in-file");
    chooser.addEventListener("change", () => {
      if (chooser.files[0]) {
        this.look({ file: chooser.files[0] });
      }
      chooser.value = "";
    });
    this.shows.addEventListener("change", () => this.shows.value && this.look({ from: this.shows.value }));
    this.go.addEventListener("click", () => this.#bring());
    // how a file is read: its lines are others then
    for (const how of [this.found, this.joined]) {
      how.addEventListener("change", () => this.source && this.look(this.source, this.#reading()));
    }
    this.#takeDrops();
  }

  /** Opens with nothing in it yet. */
  async open() {
    this.#clear();
    if (!this.dialog.open) {
      openDrawer(this.dialog);
    }
    if (this.into) {
      const shows = await (await fetch("/shows.json")).json();
      const others = shows.filter(({ id }) => id !== this.into.show);
      this.shows.replaceChildren(
        new Option("or from another show …", ""),
        ...others.map(({ id, title }) => new Option(title, id)),
      );
    }
  }

  /**
   * @param {{file?: File, from?: string}} source
   * @param {Record<string, any>} [how] it is read
   */
  async look(source, how) {
    if (!this.dialog.open) {
      await this.open();
    }
    this.#clear();
    if (!how) {
      [this.found, this.joined, this.asNames, this.asRun].forEach((box) => {
        box.checked = false;
      });
    }
    this.#say("reading …");
    const more = how ? { choice: JSON.stringify(how) } : {};
    const there = await this.#ask("/shows/look", source, more);
    if (there) {
      this.source = source;
      this.there = there;
      this.#say(there.asks);
      this.#show();
    }
  }

  #clear() {
    this.#silence();
    this.source = null;
    this.lines.replaceChildren();
    this.link.hidden = true;
    this.go.hidden = false;
    this.go.disabled = true;
    document.getElementById("bring-in-title").textContent = "Bring in";
    document.getElementById("bring-in-cutting").hidden = true;
    this.drums.hidden = true;
    document.getElementById("bring-in-leftout").replaceChildren();
    this.#say("");
  }

  #say(words) {
    document.getElementById("bring-in-words").textContent = words;
  }

  #show() {
    const { there } = this;
    const { kind, lines, parts } = there;
    document.getElementById("bring-in-title").textContent = there.title;
    const music = this.into?.parts().some(({ shelf }) => shelf.length);
    document.getElementById("bring-in-facts").textContent =
      facts(there) + (music ? `. This show keeps its own time: ${this.into.time()}.` : "");
    this.#leaveOut(there.leftOut);
    this.go.disabled = false;
    if (kind === "midi") {
      document.getElementById("bring-in-cutting").hidden = false;
      const cut = list("bring-in-cut");
      cut.options[0].hidden = !there.markers;
      cut.value = there.markers ? "0" : "8";
      this.#offerTimes(Boolean(music));
      document.getElementById("bring-in-sung").hidden = !there.words;
      document.getElementById("bring-in-run").hidden = Boolean(this.into);
      this.#offerDrums();
    } else if (kind === "journal" && this.into) {
      this.go.disabled = true;
      this.#say("A journal comes in as a show of its own: on the list of shows.");
    }
    const chooses = kind === "midi" || Boolean(this.into);
    this.lines.replaceChildren(
      ...lines.map((line) => this.#row(line, count(line.notes, "note"), chooses)),
      ...parts.map((part) => this.#row(part, this.#clips(part, chooses), chooses)),
    );
  }

  /** Each tempo and meter of a song that has several, those that last longest first. */
  #offerTimes(music) {
    const { times } = this.there;
    document.getElementById("bring-in-timing").hidden = music || times.length < 2;
    this.time.replaceChildren(
      new Option("as at its first note", ""),
      ...times.map(
        ({ bpm, meter, bar, bars }, place) =>
          new Option(`${bpm} bpm, ${meter}: ${count(Math.ceil(bars), "bar")}, from bar ${bar}`, place),
      ),
    );
  }

  #row(line, what, chooses) {
    const row = document.createElement("tr");
    row.dataset.id = line.id ?? line.place;
    const check = document.createElement("input");
    check.type = "checkbox";
    check.checked = true;
    check.className = "whole";
    const name = document.createElement("label");
    name.append(...(chooses ? [check] : []), ` ${line.name}`);
    const onto = document.createElement("select");
    onto.className = "choice small onto";
    onto.ariaLabel = `where ${line.name} goes`;
    onto.append(
      new Option("a part of its own", ""),
      ...(this.into?.parts() ?? []).map((part) => new Option(`onto ${part.name}`, part.id)),
    );
    const hear = this.#hearing(line);
    for (const content of [name, line.sound, what, hear, ...(this.into ? [onto] : [])]) {
      row.insertCell().append(content);
    }
    return row;
  }

  /** A line is heard by a press, and silent by another. */
  #hearing({ name, id, place }) {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "btn small hear";
    button.textContent = "hear";
    button.ariaLabel = `hear ${name}`;
    button.setAttribute("aria-pressed", "false");
    button.addEventListener("click", () => {
      const was = this.heard?.button;
      this.#silence();
      if (was !== button) {
        this.#hear(button, id ?? place);
      }
    });
    return button;
  }

  async #hear(button, line) {
    const hearing = new Hearing(() => this.#silence());
    this.heard = { hearing, button };
    button.setAttribute("aria-pressed", "true");
    const choice = JSON.stringify({ ...this.#reading(), drums: this.#struckBy() });
    const score = await this.#ask("/shows/hear", this.source, { line: String(line), choice });
    if (this.heard?.hearing !== hearing) {
      return;
    }
    try {
      await (score ? hearing.begin(score) : hearing.end());
    } catch (fault) {
      this.#say(fault.message);
      hearing.end();
    }
  }

  #silence() {
    const { heard } = this;
    this.heard = null;
    heard?.button.setAttribute("aria-pressed", "false");
    heard?.hearing.end();
  }

  /** What is struck of kits, each drum for itself or for another. */
  async #offerDrums() {
    const { lines } = this.there;
    /** @type {Map<number, {pitch: number, name: string, strokes: number}>} */
    const struck = new Map();
    for (const drum of lines.flatMap(({ drums }) => drums)) {
      const before = struck.get(drum.pitch)?.strokes ?? 0;
      struck.set(drum.pitch, { ...drum, strokes: before + drum.strokes });
    }
    const all = [...struck.values()].sort((a, b) => a.pitch - b.pitch);
    const names = Object.entries(await drumNames());
    if (this.there.lines !== lines) {
      return;
    }
    this.drums.hidden = all.length === 0;
    const unknown = all.filter(({ name }) => !name).length;
    this.drums.querySelector("summary").textContent =
      `${count(all.length, "drum")}${unknown ? `, ${unknown} without a name` : ""}`;
    this.drums.querySelector("div").replaceChildren(
      ...all.map(({ pitch, name, strokes }) => {
        const label = document.createElement("label");
        const other = document.createElement("select");
        other.className = "choice small";
        other.dataset.pitch = String(pitch);
        other.append(
          new Option("as it is", ""),
          ...names.map(([number, drum]) => new Option(`as ${drum}`, number)),
        );
        label.append(`${pitch} ${name} (${count(strokes, "stroke")}) `, other);
        return label;
      }),
    );
  }

  /** Drums that stand for others. @returns {[number, number][]} */
  #struckBy() {
    return [...this.drums.querySelectorAll("select")]
      .filter(({ value }) => value && !this.drums.hidden)
      .map(({ dataset, value }) => [Number(dataset.pitch), Number(value)]);
  }

  #clips({ clips }, chooses) {
    const all = document.createElement("span");
    all.className = "cliplist";
    for (const { id, letter, name, bars } of clips) {
      const one = document.createElement("label");
      const check = document.createElement("input");
      check.type = "checkbox";
      check.checked = true;
      check.value = id;
      one.append(
        ...(chooses ? [check] : []),
        ` ${[letter, name].filter(Boolean).join(" ")}, ${count(bars, "bar")}`,
      );
      all.append(one);
    }
    return all;
  }

  /** How a MIDI file is read. */
  #reading() {
    return { found: this.found.checked, joined: this.joined.checked };
  }

  /** What is chosen, as the host takes it. */
  #choice() {
    const rows = [...this.lines.rows].filter((row) => row.querySelector(".whole")?.checked);
    const onto = (row) => {
      const part = row.querySelector(".onto")?.value;
      return part ? { onto: Number(part) } : {};
    };
    if (this.there.kind === "midi") {
      const cut = Number(field("bring-in-cut").value);
      return {
        lines: rows.map((row) => ({ line: Number(row.dataset.id), ...onto(row) })),
        cut,
        ...this.#reading(),
        drums: this.#struckBy(),
        ...(this.time.value ? { time: Number(this.time.value) } : {}),
        words: this.asNames.checked,
        asRun: this.asRun.checked && !this.into,
      };
    }
    const clips = (row) =>
      [...row.querySelectorAll(".cliplist input:checked")].map(({ value }) => Number(value));
    return {
      parts: rows.map((row) => ({ part: Number(row.dataset.id), clips: clips(row), ...onto(row) })),
    };
  }

  async #bring() {
    this.#silence();
    const more = this.into ? { into: this.into.show } : {};
    if (this.into || this.there.kind === "midi") {
      more.choice = JSON.stringify(this.#choice());
    }
    this.go.disabled = true;
    this.#say("bringing it in …");
    const came = await this.#ask("/shows/import", this.source, more);
    this.go.disabled = !this.source;
    if (came) {
      this.#say(came.what);
      this.#leaveOut(came.leftOut);
      this.go.hidden = true;
      this.link.hidden = Boolean(this.into);
      this.link.href = `/shows/${came.show}`;
    }
  }

  #leaveOut(sentences) {
    const items = sentences.map((sentence) => {
      const item = document.createElement("li");
      item.textContent = `Left out: ${sentence}`;
      return item;
    });
    document.getElementById("bring-in-leftout").replaceChildren(...items);
  }

  /** Asks the host; says why not, if not. */
  async #ask(address, source, more) {
    const { said, why } = await post(address, { ...source, ...more });
    if (why) {
      this.#say(why);
    }
    return said ?? null;
  }

  #takeDrops() {
    addEventListener("dragover", (event) => {
      if (event.dataTransfer?.types.includes("Files")) {
        event.preventDefault();
      }
    });
    addEventListener("drop", (event) => {
      const [file] = event.dataTransfer?.files ?? [];
      if (file) {
        event.preventDefault();
        this.look({ file });
      }
    });
  }
}

function facts({ kind, bpm, meter, bars, lines, markers, parts, sections, runs }) {
  const what = {
    midi: [count(bars, "bar"), count(lines.length, "line"), markers && count(markers, "marker")],
    show: [count(parts.length, "part"), sections && count(sections, "section"), runs && count(runs, "run")],
    journal: [count(parts.length, "part"), sections && count(sections, "section")],
  }[kind];
  const name = { midi: "A MIDI file", show: "A show", journal: "A journal, done again" }[kind];
  return [`${name}: ${bpm} bpm`, meter, ...what.filter(Boolean)].join(", ");
}
