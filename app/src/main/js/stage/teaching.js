import { post } from "../files/post.js";
import { keyOf } from "../input/controls.js";
import { labelOf } from "../input/layout.js";
import { catalogue, Filling, groupsOf } from "./catalogue.js";
import { field, list, on, put } from "./fields.js";
import { PedalOrder } from "./pedal-order.js";

const GESTURES = {
  SHORT: "short press",
  LONG: "long press",
  DOUBLE: "double press",
  RELEASE: "letting go",
  EACH: "each change",
};

/** How a control is used that is not pressed. */
const USES = { WHILE_HELD: "held", TURNED: "turned" };

const LAMPS = ["nothing", "ready", "sounding", "cued", "recording", "on"];

/**
 * The part of Setup in which controls are taught: choose what by its group or a word, fill its blanks, move the
 * control. Or move a control first, and see what it is and what it does. Several commands one after another are a
 * sequence; a row of pads takes the choices of a blank one after the other.
 */
export class Teaching {
  constructor(stage) {
    this.stage = stage;
    this.word = document.getElementById("teach-words");
    this.found = list("teach-found");
    this.blanks = document.getElementById("teach-blanks");
    this.order = new PedalOrder((order) => this.#send({ order }));
    /** @type {import("./catalogue.js").Entry[]} */
    this.entries = [];
    /** @type {Filling | null} what is chosen */
    this.filling = null;
    /** @type {{command: import("../input/commands.js").Command, words: string}[]} what comes before it, one after another */
    this.before = [];
    on("teach-word", "input", () => this.#drawFound());
    on("teach-group", "change", () => this.#drawFound());
    on("teach-found", "change", () => this.#choose());
    on("teach", "click", () => this.#teach());
    on("teach-then", "click", () => this.#then());
    on("teach-anew", "click", () => this.#give());
    on("teach-leave", "click", () => this.#rest());
    on("controls-name", "change", ({ target }) => this.#rename(target.value));
    on("controls-add", "click", () =>
      this.#ask("add", "The map that ships is there for what had nothing yet."),
    );
    on("controls-ready", "click", () => this.#question());
    on("controls-ready-yes", "click", () => this.#ask("ready", "The map that ships is in place of all."));
    on("controls-ready-no", "click", () => this.#question(false));
    on("controls-before", "click", () => this.#ask("before", "The controls are as they were before."));
    on("controls-out", "click", () => this.#export());
    on("controls-in", "change", ({ target }) => this.#import(target));
    on("setup-dialog", "close", () => this.#rest());
    for (const name of LAMPS) {
      on(`lamp-${name}`, "change", ({ target }) => this.#light(name, Number(target.value)));
    }
    // a map that is refused is refused here, where the performer looks
    stage.connection.addEventListener("error", ({ detail }) => (this.word.textContent = detail));
    stage.connection.addEventListener("word", ({ detail }) => (this.word.textContent = detail));
    stage.controls.addEventListener("taught", ({ detail }) => this.#taught(detail));
    stage.controls.addEventListener("moved", ({ detail }) => this.#moved(detail));
  }

  draw() {
    if (!this.entries.length) {
      this.#load();
    }
    const { map } = this.stage.controls;
    if (!map || map === this.drawn) {
      return;
    }
    this.drawn = map;
    put("controls-name", map.name);
    LAMPS.forEach((name) => put(`lamp-${name}`, map.lamps[name]));
    const controls = new Map(map.assignments.map(({ control }) => [keyOf(control), control]));
    const rows = [...controls.values()].sort((a, b) => worded(a).localeCompare(worded(b)));
    document.getElementById("assignments").replaceChildren(...rows.map((control) => this.#row(control)));
    this.order.draw(this.stage.controls.pedals ?? []);
  }

  async #load() {
    try {
      this.entries = await catalogue();
    } catch {
      this.word.textContent = "The house does not say what there is: open Setup again in a moment.";
      return;
    }
    const group = document.getElementById("teach-group");
    group.replaceChildren(
      new Option("all", ""),
      ...groupsOf(this.entries).map((name) => new Option(name, name)),
    );
    this.#drawFound();
  }

  #drawFound() {
    const word = field("teach-word").value.trim().toLowerCase();
    const group = field("teach-group").value;
    const told = ({ words, blanks }) =>
      [words, ...blanks.flatMap(({ choices }) => choices.map(([, choice]) => choice))]
        .join(" ")
        .toLowerCase();
    this.shown = this.entries.filter(
      (entry) => (!group || entry.group === group) && (!word || told(entry).includes(word)),
    );
    this.found.replaceChildren(
      ...this.shown.map((entry, i) => new Option(new Filling(entry).words, String(i))),
    );
    this.found.selectedIndex = 0;
    this.#choose();
    if (!this.shown.length) {
      this.word.textContent = "Nothing is called that: try another word.";
    }
  }

  #choose() {
    const entry = this.shown[Number(this.found.value)];
    this.filling = entry ? new Filling(entry) : null;
    this.blanks.replaceChildren(...(this.filling?.lists ?? []));
    field("teach").disabled = !entry;
    field("teach-then").disabled = !entry;
    this.#drawSequence();
  }

  /** What is chosen comes first; something else comes after it, on the same control. */
  #then() {
    this.before.push({ command: this.filling.command, words: this.filling.words });
    this.#drawSequence();
    this.word.textContent = "Choose what comes after it.";
  }

  #drawSequence() {
    const words = this.before.map(({ words: told }) => told);
    document.getElementById("teach-sequence").textContent = words.length
      ? `${words.join(", then ")}, then …`
      : "";
  }

  #teach() {
    const before = this.before;
    this.#rest();
    this.before = before;
    this.#drawSequence();
    this.stage.controls.teaching = true;
    this.word.textContent = `“${this.#meaning().words}”: move the pedal, pad, key or knob now …`;
  }

  #rest() {
    this.stage.controls.teaching = false;
    this.word.textContent = "";
    this.before = [];
    this.#drawSequence();
    document.getElementById("teach-anew").hidden = true;
    document.getElementById("teach-leave").hidden = true;
  }

  /** What is to be taught: a command, or several one after another. */
  #meaning() {
    const { command, words } = this.filling;
    const all = [...this.before, { command, words }];
    return all.length === 1
      ? all[0]
      : {
          command: { do: "sequence", name: "", commands: all.map((one) => one.command) },
          words: all.map((one) => one.words).join(", then "),
        };
  }

  /** A control that is moved says what it is, and what it does. */
  #moved(control) {
    const does = this.stage.controls
      .of(control)
      .map(({ gesture, words }) => (gesture === "SHORT" ? words : `${GESTURES[gesture]}: ${words}`));
    document.getElementById("teach-moved").textContent =
      `${worded(control)}${does.length ? ` · ${does.join("; ")}` : " · stands for nothing yet"}`;
  }

  /** Where that control does something by that gesture already, that is said, and the performer chooses. */
  #taught(control) {
    const gesture = field("teach-gesture").value;
    const meaning = this.#meaning();
    const before = this.stage.controls.of(control).find((other) => other.gesture === gesture);
    this.proposed = { control, gesture, command: meaning.command };
    this.given = `${worded(control)} stands for “${meaning.words}”.`;
    if (before) {
      this.word.textContent = `${worded(control)}, ${GESTURES[gesture]}, stands for “${before.words}” already.`;
      document.getElementById("teach-anew").hidden = false;
      document.getElementById("teach-leave").hidden = false;
    } else {
      this.#give();
    }
  }

  #give() {
    const inRow = field("teach-row").checked;
    const { given } = this;
    this.#send({ teach: [this.proposed] });
    this.#rest();
    this.word.textContent = given;
    if (inRow && this.filling.next()) {
      this.stage.controls.teaching = true;
      this.word.textContent = `${given} Now “${this.filling.words}”: touch the next one, or close.`;
    }
  }

  /** What one control does, gesture by gesture. */
  #row(control) {
    const row = document.createElement("tr");
    const name = document.createElement("td");
    name.textContent = worded(control);
    const does = document.createElement("td");
    for (const assignment of this.stage.controls.of(control)) {
      const one = document.createElement("div");
      const how = USES[assignment.hold] ?? GESTURES[assignment.gesture];
      one.textContent = `${how}: ${assignment.words} `;
      const off = document.createElement("button");
      off.className = "btn small";
      off.textContent = "take off";
      off.setAttribute("aria-label", `take off ${worded(control)}, ${GESTURES[assignment.gesture]}`);
      const { gesture, command } = assignment;
      off.addEventListener("click", () => this.#send({ takeOff: [{ control, gesture, command }] }));
      one.append(off);
      does.append(one);
    }
    row.append(name, does);
    return row;
  }

  #send(change) {
    this.stage.connection.ask({ controls: change });
  }

  #ask(wish, words) {
    this.#question(false);
    this.stage.connection.ask({ controls: wish });
    this.word.textContent = words;
  }

  #question(asks = true) {
    document.getElementById("controls-question").hidden = !asks;
  }

  #light(name, value) {
    this.#send({ lamps: { ...this.stage.controls.map.lamps, [name]: value } });
  }

  #rename(name) {
    this.#send({ name });
  }

  #export() {
    const text = JSON.stringify(this.stage.controls.map, null, 2);
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type: "application/json" }));
    link.download = `${this.stage.controls.map.name}.json`;
    link.click();
    URL.revokeObjectURL(link.href);
  }

  async #import(target) {
    const [file] = target.files;
    target.value = "";
    const { said, why } = await post("/controls", { file });
    this.word.textContent = why ?? `${said.assignments} assignments came in. ${said.leftOut}`;
  }
}

/** @param {import("../input/controls.js").Control} control */
function worded({ device, kind, channel, number, key }) {
  if (kind === "KEY") {
    return `${device}: ${labelOf(key)}`;
  }
  const what = { NOTE: "note", CONTROL_CHANGE: "control", PROGRAM_CHANGE: "program" }[kind];
  return `${device}: ${what} ${number}${channel ? `, channel ${channel + 1}` : ""}`;
}
