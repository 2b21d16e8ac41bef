import { on, put } from "./fields.js";

/** The part of Setup in which controls are taught: choose the action, move the control, done. */
export class Teaching {
  constructor(stage) {
    this.stage = stage;
    this.word = document.getElementById("teach-words");
    on("teach", "click", () => this.#teach());
    on("teach-anew", "click", () => this.#give("It has been given anew."));
    on("teach-leave", "click", () => this.#rest());
    on("controls-name", "change", ({ target }) => this.#rename(target.value));
    on("controls-ready", "click", () => this.stage.connection.ask({ controls: "ready" }));
    on("controls-out", "click", () => this.#export());
    on("controls-in", "change", ({ target }) => this.#import(target));
    on("setup-dialog", "close", () => this.#rest());
    // a map that is refused is refused here, where the performer looks
    stage.connection.addEventListener("error", ({ detail }) => (this.word.textContent = detail));
    stage.controls.addEventListener("taught", ({ detail }) => this.#taught(detail));
  }

  draw() {
    const { map } = this.stage.controls;
    if (!map || map === this.drawn) {
      return;
    }
    this.drawn = map;
    put("controls-name", map.name);
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
    cell(worded(assignment.control));
    cell(gestureWords(assignment.gesture));
    cell(meaning(assignment));
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
    this.#rest();
    this.stage.controls.teaching = true;
    this.word.textContent = "Move the pedal, pad, key or knob now …";
  }

  #rest() {
    this.stage.controls.teaching = false;
    this.word.textContent = "";
    document.getElementById("teach-anew").hidden = true;
    document.getElementById("teach-leave").hidden = true;
  }

  /** Where that control does something by that gesture already, that is said, and the performer chooses. */
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
    this.proposed = [...assignments.filter((other) => !same(other)), assignment];
    if (before) {
      this.#ask(`${worded(control)}, ${gestureWords(gesture)}, stands for “${meaning(before)}” already.`);
    } else {
      this.#give(`${worded(control)} is taught.`);
    }
  }

  #ask(words) {
    this.word.textContent = words;
    document.getElementById("teach-anew").hidden = false;
    document.getElementById("teach-leave").hidden = false;
  }

  #give(words) {
    this.#send(this.proposed);
    this.#rest();
    this.word.textContent = words;
  }

  #send(assignments) {
    const { map } = this.stage.controls;
    this.stage.connection.ask({ controls: { ...map, assignments } });
  }

  #rename(name) {
    this.stage.connection.ask({ controls: { ...this.stage.controls.map, name } });
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

function meaning({ action, number }) {
  const option = document.querySelector(`#teach-action option[value="${action}"]`);
  return `${option.textContent.trim()}${number ? ` ${number}` : ""}`;
}

function gestureWords(gesture) {
  return document.querySelector(`#teach-gesture option[value="${gesture}"]`).textContent.trim();
}
