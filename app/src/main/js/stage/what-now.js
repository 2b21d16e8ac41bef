import { catalogue, Filling, groupsOf } from "./catalogue.js";
import { on } from "./fields.js";

/**
 * All that can be done now, by groups, for the mouse and the finger: what a control can do, this drawer does too, and
 * says beforehand what it would come to. It lies beside the music, and lets everything else go on.
 */
export class WhatNow {
  constructor(stage) {
    this.stage = stage;
    this.drawer = document.getElementById("what-now");
    this.groups = document.getElementById("what-now-groups");
    this.list = document.getElementById("what-now-list");
    this.words = document.getElementById("what-now-words");
    this.group = "record";
    /** @type {Filling | null} of which a forecast was asked */
    this.asked = null;
    on("what-now-toggle", "click", () => this.toggle());
    on("what-now-close", "click", () => this.toggle());
    stage.connection.addEventListener("forecast", ({ detail }) => this.#told(detail));
  }

  draw() {}

  get isOpen() {
    return !this.drawer.hidden;
  }

  close() {
    if (this.isOpen) {
      this.toggle();
    }
  }

  async toggle() {
    this.drawer.hidden = !this.drawer.hidden;
    document.getElementById("what-now-toggle").setAttribute("aria-expanded", String(!this.drawer.hidden));
    if (!this.drawer.hidden && !this.entries) {
      try {
        this.entries = await catalogue();
        this.#drawGroups();
      } catch {
        this.words.textContent = "The house does not say what there is: open this again in a moment.";
      }
    }
  }

  #drawGroups() {
    this.groups.replaceChildren(
      ...groupsOf(this.entries).map((group) => {
        const tab = document.createElement("button");
        tab.className = "leaf";
        tab.setAttribute("role", "tab");
        tab.textContent = group;
        tab.setAttribute("aria-selected", String(group === this.group));
        tab.addEventListener("click", () => {
          this.group = group;
          this.#drawGroups();
        });
        return tab;
      }),
    );
    const here = this.entries.filter(({ group, hold }) => group === this.group && hold !== "TURNED");
    this.list.replaceChildren(...here.map((entry) => this.#row(entry)));
    this.words.textContent = "";
  }

  /** @param {import("./catalogue.js").Entry} entry */
  #row(entry) {
    const row = document.createElement("div");
    row.className = "wish";
    const press = document.createElement("button");
    press.className = "btn small";
    const filling = new Filling(entry, () => {
      press.textContent = filling.words;
      this.#ask(filling);
    });
    press.textContent = filling.words;
    press.addEventListener("pointerenter", () => this.#ask(filling));
    press.addEventListener("focus", () => this.#ask(filling));
    this.#wire(press, filling);
    row.append(press, ...filling.lists);
    return row;
  }

  /** What lasts as long as it is held is held by the finger; by a key it is turned over. */
  #wire(press, filling) {
    const { commands } = this.stage;
    let byFinger = false;
    const isHeld = () => filling.command.on === "held";
    press.addEventListener("pointerdown", (event) => {
      byFinger = true;
      press.setPointerCapture(event.pointerId);
      if (isHeld()) {
        commands.hold(filling.command, true, event.timeStamp);
      } else {
        this.#do(filling, event.timeStamp);
      }
    });
    press.addEventListener("lostpointercapture", (event) => {
      if (isHeld()) {
        commands.hold(filling.command, false, event.timeStamp);
      }
    });
    press.addEventListener("click", (event) => {
      if (!byFinger) {
        this.#do(filling, event.timeStamp);
      }
      byFinger = false;
    });
  }

  #do(filling, own) {
    const { command } = filling;
    this.stage.commands.do(command.on === "held" ? { ...command, on: "toggle" } : command, own);
    this.#ask(filling);
  }

  #ask(filling) {
    this.asked = filling;
    const { command } = filling;
    this.words.textContent = filling.words;
    if (command.do !== "onPage") {
      this.stage.connection.ask({ forecast: { ...command, ...(command.on === "held" && { on: "toggle" }) } });
    }
  }

  #told({ of, words }) {
    const command = this.asked?.command;
    if (command && !this.drawer.hidden && of.do === command.do) {
      this.words.textContent = `${this.asked.words}: ${words}`;
    }
  }
}
