import { openDrawer } from "./dialogs.js";
import { drawer, put } from "./fields.js";

/** How parts stand in the whole: short on each stave, and all of it in a drawer. */

const FIELDS = [
  ["level", -60, 6, 0.5],
  ["pan", -100, 100, 1],
  ["echo", 0, 100, 1],
  ["room", 0, 100, 1],
];

export class BalanceDialog {
  constructor(stage) {
    this.stage = stage;
    this.dialog = drawer("balance-dialog");
    this.rows = document.getElementById("balance-rows");
    document.getElementById("balance").addEventListener("click", () => this.open());
    /** @type {(id: string, name: string, read?: (value: string) => number | string) => void} */
    const master = (id, name, read = Number) =>
      document
        .getElementById(id)
        .addEventListener("input", ({ target }) => this.#setMaster({ [name]: read(target.value) }));
    master("master-level", "level");
    master("echo", "echo", String);
    master("repeats", "repeats");
    master("tone", "tone");
    master("room", "room");
    for (const button of this.dialog.querySelectorAll("[data-trim]")) {
      button.addEventListener("click", () =>
        stage.connection.do({ do: "trimAll", decibels: Number(button.dataset.trim) }),
      );
    }
  }

  open() {
    this.drawn = null;
    openDrawer(this.dialog);
    this.draw();
  }

  draw() {
    const { show, staves } = this.stage.state;
    if (!this.dialog.open || !show) {
      return;
    }
    const { master } = show;
    put("master-level", master.level, decibels(master.level));
    put("echo", master.echo);
    put("repeats", master.repeats, `${master.repeats} %`);
    put("tone", master.tone, `${master.tone} Hz`);
    put("room", master.room, `${master.room} s`);
    const ids = staves.map(({ id }) => id).join();
    if (this.drawn !== ids) {
      this.drawn = ids;
      this.rows.replaceChildren(...staves.map((part) => this.#row(part.id)));
    }
    staves.forEach((part, i) => fill(this.rows.children[i], part));
  }

  #row(id) {
    const row = document.createElement("tr");
    const name = document.createElement("th");
    row.append(name);
    for (const [field, min, max, step] of FIELDS) {
      const cell = document.createElement("td");
      const slider = document.createElement("input");
      Object.assign(slider, { type: "range", min: String(min), max: String(max), step: String(step) });
      const which = String(field);
      slider.dataset.field = which;
      slider.addEventListener("input", () => setBalance(this.stage, id, { [which]: Number(slider.value) }));
      const words = document.createElement("output");
      cell.append(slider, words);
      row.append(cell);
    }
    const cell = document.createElement("td");
    cell.append(...muteAndSolo(this.stage, id));
    row.append(cell);
    return row;
  }

  #setMaster(change) {
    this.stage.connection.do({ do: "setMaster", ...change });
  }
}

/** Level, mute and solo, as they stand on a stave. */
export class BalanceStrip {
  constructor(stage, id) {
    this.element = document.createElement("div");
    this.element.className = "strip";
    this.words = document.createElement("output");
    this.slider = document.createElement("input");
    Object.assign(this.slider, { type: "range", min: -60, max: 6, step: 0.5 });
    this.slider.addEventListener("input", () => setBalance(stage, id, { level: Number(this.slider.value) }));
    const row = document.createElement("div");
    row.className = "row";
    row.append(...muteAndSolo(stage, id), this.words);
    this.element.append(this.slider, row);
  }

  draw(part) {
    const { balance } = part;
    this.slider.ariaLabel = `level of ${part.name}`;
    nameControls(this.element, part);
    if (document.activeElement !== this.slider) {
      this.slider.value = String(balance.level);
    }
    this.words.textContent = decibels(balance.level);
    press(this.element, balance);
  }
}

/** Switches a part's mute or solo over. */
export function toggle(stage, part, field) {
  if (part) {
    setBalance(stage, part.id, { [field]: !part.balance[field] });
  }
}

function setBalance(stage, id, change) {
  stage.connection.do({ do: "setBalance", part: id, ...change });
}

function muteAndSolo(stage, id) {
  return ["muted", "solo"].map((field) => {
    const button = document.createElement("button");
    button.className = `ms ${field}`;
    button.textContent = field === "muted" ? "M" : "S";
    button.title = field === "muted" ? "mute" : "solo";
    button.addEventListener("click", () => toggle(stage, stage.state.parts.get(id), field));
    return button;
  });
}

function press(element, balance) {
  for (const field of ["muted", "solo"]) {
    element.querySelector(`.${field}`).setAttribute("aria-pressed", String(balance[field]));
  }
}

function fill(row, part) {
  row.querySelector("th").textContent = part.name;
  nameControls(row, part);
  for (const [field] of FIELDS) {
    const slider = row.querySelector(`[data-field="${field}"]`);
    if (document.activeElement !== slider) {
      slider.value = String(part.balance[field]);
    }
    slider.ariaLabel = `${field} of ${part.name}`;
    slider.nextSibling.textContent = worded(field, part.balance[field]);
  }
  press(row, part.balance);
}

/** To who hears the page, each names its part. */
function nameControls(element, { name }) {
  element.querySelector(".muted").ariaLabel = `mute ${name}`;
  element.querySelector(".solo").ariaLabel = `solo ${name}`;
}

function worded(field, value) {
  if (field === "level") {
    return decibels(value);
  }
  if (field !== "pan") {
    return `${value} %`;
  }
  return value === 0 ? "middle" : `${Math.abs(value)} ${value < 0 ? "left" : "right"}`;
}

function decibels(level) {
  return level <= -60 ? "silent" : `${level > 0 ? "+" : ""}${level} dB`;
}
