import { kept } from "../house/kept.js";
import { toggleTheme } from "./conductor.js";
import { openDrawer } from "./dialogs.js";
import { drawer, field, on } from "./fields.js";
import { OffsetMeasure } from "./offset-measure.js";
import { OutputsSheet } from "./outputs-sheet.js";
import { PartRoutes } from "./part-routes.js";
import { Teaching } from "./teaching.js";

const FEET = "ancora-feet";

/** A device's lamp stays lit for this long after it has sent something, in ms. */
const LIT = 160;

/** The drawer in which a performer sets up: recording, grid, click, what parts take and where they sound, devices, controls. */
export class Setup {
  constructor(stage) {
    this.stage = stage;
    this.dialog = drawer("setup-dialog");
    this.teaching = new Teaching(stage);
    this.routes = new PartRoutes(stage, new OffsetMeasure(stage));
    this.outputs = new OutputsSheet(stage);
    /** @type {Map<string, {element: HTMLElement, timer: number}>} the lamp of each device that sends */
    this.lamps = new Map();
    on("setup", "click", () => this.open());
    on("setup-theme", "click", () => toggleTheme());
    for (const tab of this.dialog.querySelectorAll("[data-tab]")) {
      tab.addEventListener("click", () => this.#turnTo(tab.dataset.tab));
    }
    const size = field("feet-size");
    size.value = kept.get(FEET) ?? "middle";
    size.addEventListener("change", () => {
      kept.set(FEET, size.value);
      this.#sizeFeet();
    });
    this.#sizeFeet();
    stage.hub.addEventListener("heard", ({ detail }) => this.#light(detail));
  }

  /** @param {string} [tab] on which it opens; else on that on which it was left */
  open(tab) {
    if (tab) {
      this.#turnTo(tab);
    }
    openDrawer(this.dialog);
    this.draw();
  }

  draw() {
    if (!this.dialog.open) {
      return;
    }
    this.#drawDevices();
    this.routes.draw();
    this.outputs.draw();
    this.teaching.draw();
  }

  #turnTo(name) {
    for (const tab of this.dialog.querySelectorAll("[data-tab]")) {
      tab.setAttribute("aria-selected", String(tab.dataset.tab === name));
    }
    for (const panel of this.dialog.querySelectorAll("[data-panel]")) {
      panel.hidden = panel.dataset.panel !== name;
    }
  }

  #sizeFeet() {
    document.getElementById("stage").dataset.feet = field("feet-size").value;
  }

  #drawDevices() {
    const { midi, outside, hub } = this.stage;
    const inputs = [...new Set([...midi.names, ...hub.devices])];
    const outputs = [...midi.outputs.keys()];
    const key = JSON.stringify([inputs, outputs, [...outside.clocks.keys()]]);
    if (key === this.drawn) {
      return;
    }
    this.drawn = key;
    this.lamps.clear();
    const heard = inputs.map((name) => this.#input(name));
    document
      .getElementById("inputs")
      .replaceChildren(
        ...(heard.length ? heard : [said("No device has come in yet: plug one in, or play one.")]),
      );
    const sounding = outputs.map((name) => this.#output(name));
    document
      .getElementById("outputs")
      .replaceChildren(...(sounding.length ? sounding : [said("No device that sounds is plugged in.")]));
  }

  #input(name) {
    const row = document.createElement("li");
    const element = document.createElement("span");
    element.className = "activity";
    this.lamps.set(name, { element, timer: 0 });
    row.append(element, name);
    return row;
  }

  #output(name) {
    const row = document.createElement("li");
    const label = document.createElement("label");
    const box = document.createElement("input");
    box.type = "checkbox";
    box.checked = this.stage.outside.clocks.has(name);
    box.addEventListener("change", () => {
      const others = [...this.stage.outside.clocks.keys()].filter((other) => other !== name);
      this.stage.connection.ask({ clockTo: box.checked ? [...others, name] : others });
    });
    label.append(box, " MIDI clock, start and stop");
    row.append(name, label);
    return row;
  }

  #light(device) {
    const lamp = this.lamps.get(device);
    if (lamp) {
      lamp.element.classList.add("lit");
      clearTimeout(lamp.timer);
      lamp.timer = setTimeout(() => lamp.element.classList.remove("lit"), LIT);
    } else {
      this.draw();
    }
  }
}

function said(sentence) {
  const row = document.createElement("li");
  row.className = "hint";
  row.textContent = sentence;
  return row;
}
