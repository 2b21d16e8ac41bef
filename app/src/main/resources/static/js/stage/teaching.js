import { on } from "./fields.js";

/** The part of Setup in which controls are taught: choose the action, move the control, done. */
export class Teaching {
  constructor(stage) {
    this.stage = stage;
    this.word = document.getElementById("teach-words");
    on("teach", "click", () => this.#teach());
    on("controls-out", "click", () => this.#export());
    on("controls-in", "change", ({ target }) => this.#import(target));
    on("setup-dialog", "close", () => this.#rest());
    stage.controls.addEventListener("taught", ({ detail }) => this.#taught(detail));
  }

  draw() {
    const { map } = this.stage.controls;
    if (!map || map === this.drawn) {
      return;
    }
    this.drawn = map;
    document.getElementById("controls-name").textContent = map.name;
    const rows = [...map.assignments].sort((a, b) => worded(a.control).localeCompare(worded(b.control)));
    document
      .getElementById("assignments")
      .replaceChildren(...rows.map((assignment) => this.#row(assignment)));
  }

  #row(assignment) {
    const row = document.createElement("tr");
    const cell = (text) => {
      const element = document.createElement("td");
      element.textContent = text;
      row.append(element);
      return element;
    };
    const option = document.querySelector(`#teach-action option[value="${assignment.action}"]`);
    cell(worded(assignment.control));
    cell(gestureWords(assignment.gesture));
    cell(`${option.textContent.trim()}${assignment.number ? ` ${assignment.number}` : ""}`);
    const off = document.createElement("button");
    off.className = "btn small";
    off.textContent = "take off";
    off.addEventListener("click", () =>
      this.#send(this.stage.controls.map.assignments.filter((other) => other !== assignment)),
    );
    cell("").append(off);
    return row;
  }

  #teach() {
    this.stage.controls.teaching = true;
    this.word.textContent = "Move the pedal, pad, key or knob now …";
  }

  #rest() {
    this.stage.controls.teaching = false;
    this.word.textContent = "";
  }

  /** What that control did before by that gesture, it does no more: that is said. */
  #taught(control) {
    const value = (id) => document.getElementById(id).value;
    const gesture = value("teach-gesture");
    const assignment = {
      control,
      gesture,
      action: value("teach-action"),
      number: Number(value("teach-number")),
    };
    const same = (other) =>
      worded(other.control) === worded(control) &&
      other.control.channel === control.channel &&
      other.gesture === gesture;
    const { assignments } = this.stage.controls.map;
    const before = assignments.find(same);
    this.word.textContent = before
      ? `${worded(control)} stood for something else: it has been given anew.`
      : `${worded(control)} is taught.`;
    this.#send([...assignments.filter((other) => !same(other)), assignment]);
  }

  #send(assignments) {
    const { map } = this.stage.controls;
    this.stage.connection.ask({ controls: { ...map, assignments } });
  }

  #export() {
    const text = JSON.stringify(this.stage.controls.map, null, 2);
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type: "application/json" }));
    link.download = "controls.json";
    link.click();
    URL.revokeObjectURL(link.href);
  }

  async #import(target) {
    const [file] = target.files;
    target.value = "";
    try {
      this.stage.connection.ask({ controls: JSON.parse(await file.text()) });
      this.word.textContent = "";
    } catch {
      this.word.textContent = "That file is no map of controls: choose one that was exported here.";
    }
  }
}

function worded({ device, kind, number }) {
  const what = { NOTE: "note", CONTROL_CHANGE: "control", PROGRAM_CHANGE: "program" }[kind];
  return `${device}: ${what} ${number}`;
}

function gestureWords(gesture) {
  return document.querySelector(`#teach-gesture option[value="${gesture}"]`).textContent.trim();
}
