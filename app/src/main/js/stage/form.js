import { html, nothing, render, repeat } from "../house/lit.js";
import { count, until } from "./time.js";
import { field } from "./fields.js";

/** The form: the sections in their order, which of them is on, which comes next, and when. */
export class Form {
  constructor(stage, sectionDialog) {
    this.stage = stage;
    this.list = document.getElementById("sections");
    this.drawn = "";
    const on = (id, act) => document.getElementById(id).addEventListener("click", act);
    on("section-add", () => stage.connection.do({ do: "makeSection", name: "" }));
    on("stop-all", (event) => stage.connection.do({ do: "stopAll" }, event.timeStamp));
    on("concert", () => stage.concert.toggle());
    on("sections", ({ target, timeStamp: own }) => {
      const { cue, edit } = target.closest("button")?.dataset ?? {};
      if (cue) {
        stage.connection.do({ do: "cueSection", section: Number(cue) }, own);
      } else if (edit) {
        sectionDialog.open(Number(edit));
      }
    });
  }

  draw() {
    const { form, transport } = this.stage.state;
    const key = JSON.stringify([form, transport.rolling]);
    if (key === this.drawn) {
      return;
    }
    this.drawn = key;
    render(
      form.sections.length
        ? repeat(
            form.sections,
            ({ id }) => id,
            (section) => chip(section, form),
          )
        : html`<li class="none">no sections yet: make one of what sounds</li>`,
      this.list,
    );
    this.countdown = this.list.querySelector(".soon");
    document.getElementById("concert").hidden = !form.sections.length;
    field("stop-all").disabled = !transport.rolling;
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
}

function chip({ id, letter, name, goesOn }, { now, next, sections }) {
  const isNext = next?.section === id;
  const isNow = now === id;
  const to = goesOn && sections.find((section) => section.id === goesOn.to);
  // how long it is until it enters is written as time goes by
  return html`<li>
    <button class="sec ${isNow ? "now" : ""} ${isNext ? "next" : ""}" title="cue this section" data-cue=${id}>
      <em>${letter}</em
      >${name || `section ${letter}`}${isNext ? html`<b class="soon"></b>` : html`<b>${isNow ? "now" : ""}</b>`}${
        to ? html`<span class="then">${count(goesOn.bars, "bar")}, then ${to.letter}</span>` : nothing
      }
    </button>
    <button class="more-of" aria-label="edit section ${letter}" data-edit=${id}>…</button>
  </li>`;
}
