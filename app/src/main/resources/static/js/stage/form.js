import { count, until } from "./time.js";

/** The form: the sections in their order, which of them is on, which comes next, and when. */
export class Form {
  constructor(stage, sectionDialog) {
    this.stage = stage;
    this.dialog = sectionDialog;
    this.list = document.getElementById("sections");
    this.drawn = "";
    const on = (id, act) => document.getElementById(id).addEventListener("click", act);
    on("section-add", () => stage.connection.do({ do: "makeSection", name: "" }));
    on("stop-all", (event) => stage.connection.do({ do: "stopAll" }, event.timeStamp));
    on("concert", () => stage.concert.toggle());
  }

  draw() {
    const { form, transport } = this.stage.state;
    const key = JSON.stringify([form, transport.rolling]);
    if (key === this.drawn) {
      return;
    }
    this.drawn = key;
    this.countdown = null;
    this.list.replaceChildren(...form.sections.map((section) => this.#chip(section, form)));
    if (!form.sections.length) {
      const empty = document.createElement("li");
      empty.className = "none";
      empty.textContent = "no sections yet: make one of what sounds";
      this.list.append(empty);
    }
    document.getElementById("concert").hidden = !form.sections.length;
    document.getElementById("stop-all").disabled = !transport.rolling;
  }

  tick(tick) {
    const { form, show } = this.stage.state;
    if (!this.countdown || tick === null || !form.next) {
      return;
    }
    const words = `in ${until(form.next.at - tick, show.meter)}`;
    if (this.countdown.textContent !== words) {
      this.countdown.textContent = words;
    }
  }

  #chip({ id, letter, name, goesOn }, { now, next, sections }) {
    const item = document.createElement("li");
    const chip = document.createElement("button");
    const isNext = next?.section === id;
    const isNow = now === id;
    chip.className = `sec${isNow ? " now" : ""}${isNext ? " next" : ""}`;
    chip.title = "cue this section";
    chip.addEventListener("click", (event) =>
      this.stage.connection.do({ do: "cueSection", section: id }, event.timeStamp),
    );
    const box = document.createElement("em");
    box.textContent = letter;
    const words = document.createElement("b");
    words.textContent = isNow && !isNext ? "now" : "";
    chip.append(box, name || `section ${letter}`, words);
    if (isNext) {
      this.countdown = words;
    }
    const to = goesOn && sections.find((section) => section.id === goesOn.to);
    if (to) {
      const then = document.createElement("span");
      then.className = "then";
      then.textContent = `${count(goesOn.bars, "bar")}, then ${to.letter}`;
      chip.append(then);
    }
    const more = document.createElement("button");
    more.className = "more-of";
    more.textContent = "…";
    more.setAttribute("aria-label", `edit section ${letter}`);
    more.addEventListener("click", () => this.dialog.open(id));
    item.append(chip, more);
    return item;
  }
}
