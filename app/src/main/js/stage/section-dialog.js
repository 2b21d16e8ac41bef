import { Drawer } from "./drawer.js";
import { field, on, put } from "./fields.js";

/** The drawer in which a section's line-up is edited. */
export class SectionDialog extends Drawer {
  constructor(stage) {
    super(stage, "section-dialog");
    this.id = 0;
    const change = (field, read) => (event) => this.#set({ [field]: read(event.target) });
    on(
      "section-name",
      "change",
      change("name", ({ value }) => value),
    );
    on(
      "section-others",
      "change",
      change("othersTacet", ({ checked }) => checked),
    );
    on("section-bars", "change", () => this.#setGoesOn());
    on("section-to", "change", () => this.#setGoesOn());
    on("section-left", "click", () => this.#move(-1));
    on("section-right", "click", () => this.#move(1));
    on("section-delete", "click", () => {
      stage.connection.do({ do: "deleteSection", section: this.id });
      this.close();
    });
  }

  open(id) {
    this.id = id;
    this.show();
  }

  get thing() {
    return this.stage.state.form.sections.find(({ id }) => id === this.id);
  }

  fill(section) {
    const { form, staves } = this.stage.state;
    document.getElementById("section-title").textContent = `Section ${section.letter}`;
    put("section-name", section.name);
    field("section-others").checked = section.othersTacet;
    document.getElementById("lineup").replaceChildren(...staves.map((part) => this.#choice(section, part)));
    put("section-bars", section.goesOn?.bars ?? "");
    document
      .getElementById("section-to")
      .replaceChildren(
        ...form.sections.map(({ id, letter, name }) => new Option(`${letter} ${name}`, String(id))),
      );
    put("section-to", section.goesOn?.to ?? this.id);
  }

  #choice(section, part) {
    const label = document.createElement("label");
    const select = document.createElement("select");
    select.className = "choice";
    select.append(new Option("keeps on", "keep"), new Option("tacet", "tacet"));
    for (const id of part.shelf) {
      const { letter, name } = this.stage.state.clips.get(id);
      select.append(new Option(`${letter} ${name}`, String(id)));
    }
    const named = String(part.id) in section.lineUp;
    select.value = named ? String(section.lineUp[part.id] ?? "tacet") : "keep";
    select.addEventListener("change", () => {
      const lineUp = { ...section.lineUp };
      delete lineUp[part.id];
      if (select.value !== "keep") {
        lineUp[part.id] = select.value === "tacet" ? null : Number(select.value);
      }
      this.#set({ lineUp });
    });
    label.append(part.name, select);
    return label;
  }

  #setGoesOn() {
    const bars = Number(field("section-bars").value);
    const to = Number(field("section-to").value);
    this.#set({ goesOn: bars ? { bars, to } : null });
  }

  #set(change) {
    this.stage.connection.do({ do: "setSection", section: { ...this.thing, ...change } });
  }

  #move(by) {
    const place = this.stage.state.form.sections.indexOf(this.thing) + by;
    this.stage.connection.do({ do: "moveSection", section: this.id, place });
  }
}
