import { html, nothing, render, repeat } from "../house/lit.js";
import { TempoMap } from "../player/tempo-map.js";
import { field, on } from "../stage/fields.js";
import { score } from "./score.js";

/** A finger that moves by no more has not moved, in px. */
const STILL = 5;

/** What cannot be had back is asked for twice within so long, in ms. */
const SURE_FOR = 2_000;

/**
 * The runs of the show: heard again, cut, and put away. What is asked for goes to the host, which tells all pages
 * what has become of it.
 *
 * Event: "stood", when parts of what is heard stand otherwise.
 */
export class Runs extends EventTarget {
  constructor(stage) {
    super();
    this.stage = stage;
    this.root = document.getElementById("runs");
    this.list = document.getElementById("runs-list");
    this.sheet = document.getElementById("runs-score");
    /** @type {Record<string, any>[]} as the host lists them */
    this.cards = [];
    /** @type {Record<string, any> | null} the run that is open */
    this.run = null;
    /** @type {[number, number] | null} the first bar that is chosen, and that after the last */
    this.bars = null;
    /** @type {number | undefined} the passage that is chosen */
    this.passage = undefined;
    this.hearing = null;
    /** @type {number | undefined} the run that is being named, and the one whose deletion was asked for once */
    this.naming = undefined;
    this.sureOf = undefined;
    /** whether the run that is open was chosen by hand */
    this.chosen = false;
    /** @type {number | undefined} the newest, which was opened by itself */
    this.shown = undefined;
    /** whether what is heard has its own balance, and how much of that has been reached */
    this.own = true;
    this.reached = 0;
    const { connection } = stage;
    connection.addEventListener("runs", ({ detail }) => this.#listed(detail));
    connection.addEventListener("run", ({ detail }) => this.#opened(detail));
    connection.addEventListener("hearing", ({ detail }) => this.#heard(detail));
    connection.addEventListener("welcome", ({ detail }) => {
      this.#heard(detail.hearing ?? null);
      if (this.isOpen) {
        this.#ask({ list: true });
      }
    });
    new ResizeObserver(() => this.isOpen && this.#draw()).observe(this.sheet);
    this.#wireTools();
    this.#wireSheet();
  }

  get isOpen() {
    return !this.root.hidden;
  }

  toggle() {
    if (!this.isOpen) {
      this.stage.workshop.close();
    }
    this.root.hidden = this.isOpen;
    document.querySelector(".stage").classList.toggle("workshop", this.isOpen);
    if (this.isOpen) {
      this.chosen = false;
      this.shown = undefined;
      this.#ask({ list: true });
      this.sheet.focus();
    }
  }

  close() {
    if (this.isOpen) {
      this.toggle();
    }
  }

  draw() {
    if (this.isOpen && this.stage.state.show) {
      this.#drawTools();
    }
  }

  /** How the parts of what is heard stand now; null where the show's balance holds. */
  get stood() {
    if (!this.hearing || !this.own) {
      return null;
    }
    return new Map(this.hearing.stood.slice(0, this.reached).map(([, part, balance]) => [part, balance]));
  }

  /** The tempo of what is heard now; undefined while nothing is. */
  get bpm() {
    if (!this.hearing) {
      return undefined;
    }
    const now = this.stage.clock.now();
    const { anchors } = this.hearing;
    const [, , perTick] = anchors.findLast(([, micros]) => micros <= now) ?? anchors[0];
    return 60e6 / (perTick * 960);
  }

  /** What stood from the beginning holds at once, the rest when its time has come. */
  #reach() {
    const { stood } = this.hearing;
    const now = Math.max(this.stage.clock.now(), stood[0]?.[0] ?? 0);
    const reached = stood.filter(([micros]) => micros <= now).length;
    if (reached !== this.reached) {
      this.reached = reached;
      this.dispatchEvent(new Event("stood"));
    }
  }

  /** The play line, while a run is heard. */
  tick() {
    if (this.hearing && this.own) {
      this.#reach();
    }
    if (!this.isOpen || !this.score) {
      return;
    }
    const place = this.hearing?.run === this.run?.id ? this.#place() : null;
    this.score.playAt(place);
    const words = this.#words(place);
    if (words !== this.said) {
      this.said = words;
      document.getElementById("runs-words").textContent = words;
    }
  }

  #ask(run) {
    this.stage.connection.ask({ run });
  }

  /** The tick of the run that is heard now; null before and after it. */
  #place() {
    const { map, from, until, stretches } = this.hearing;
    const tick = map.tickAt(this.stage.clock.now());
    if (tick < from || tick >= until) {
      return null;
    }
    let begins = from;
    for (const [first, last] of stretches) {
      if (tick < begins + last - first) {
        return first + tick - begins;
      }
      begins += last - first;
    }
    return null;
  }

  #words(place) {
    if (place !== null) {
      return `bar ${Math.floor(place / this.run.barTicks) + 1}`;
    }
    if (!this.run) {
      return this.cards.length ? "" : "none yet: what you perform is kept here when you stop";
    }
    return `${this.run.bars} bars in ${this.run.meter}`;
  }

  /** What was performed last is open, unless another was chosen; what goes on is none yet. */
  #listed(listed) {
    const { rolling } = this.stage.state.transport;
    const cards = listed.filter(({ underway }) => !(underway && rolling));
    this.cards = cards;
    this.#drawList();
    if (this.run && !cards.some(({ id }) => id === this.run.id)) {
      this.run = null;
      this.#draw();
    }
    const newest = cards[0]?.id;
    const another = !this.chosen && newest !== this.shown;
    if (this.isOpen && newest && (!this.run || another)) {
      this.shown = newest;
      this.#ask({ open: newest });
    }
  }

  #card(card) {
    const when = new Date(card.beganUs / 1000).toLocaleString([], {
      dateStyle: "medium",
      timeStyle: "short",
    });
    const { id, name, bars } = card;
    const lines = [
      ["runname", name || when],
      ["dim", name ? when : ""],
      ["", `${long(card.lastsUs)}, ${bars} ${bars === 1 ? "bar" : "bars"}`],
      ["dim", card.underway ? "broken off" : card.sections],
    ].filter(([, words]) => words);
    const sure = this.sureOf === id;
    return html`<li class=${id === this.run?.id ? "is-open" : ""}>
      <button class="runcard" @click=${() => this.#choose(id)}>
        ${lines.map(([style, words]) => html`<span class=${style}>${words}</span>`)}</button
      ><button class="btn small" title="runs with a name are kept for good" @click=${() => this.#name(id)}>
        name</button
      ><button class="btn small" @click=${() => this.#delete(id)}>
        ${sure ? "delete for good" : "delete"}
      </button>
      ${
        this.naming === id
          ? html`<form
              @submit=${(event) => {
                event.preventDefault();
                this.#rename(id, event.target.elements[0].value);
              }}
            >
              <input
                class="entry small"
                maxlength="60"
                aria-label="name of the run"
                .value=${name}
                @blur=${({ target }) => this.#rename(id, target.value)}
              />
            </form>`
          : nothing
      }
    </li>`;
  }

  #choose(id) {
    this.chosen = true;
    this.#ask({ open: id });
  }

  #name(id) {
    this.naming = id;
    this.#drawList();
    this.list.querySelector("form input").focus();
  }

  #rename(id, name) {
    if (this.naming === id) {
      this.naming = undefined;
      this.#ask({ rename: id, name });
      this.#drawList();
    }
  }

  /** What is gone is gone: it is asked for twice. */
  #delete(id) {
    clearTimeout(this.unsure);
    if (this.sureOf === id) {
      this.sureOf = undefined;
      this.#ask({ delete: id });
    } else {
      this.sureOf = id;
      this.unsure = setTimeout(() => {
        this.sureOf = undefined;
        this.#drawList();
      }, SURE_FOR);
    }
    this.#drawList();
  }

  #drawList() {
    const cards = repeat(
      this.cards,
      ({ id }) => id,
      (card) => this.#card(card),
    );
    render(cards, this.list);
  }

  #opened(run) {
    if (run.id !== this.run?.id) {
      this.bars = null;
      this.passage = undefined;
    }
    this.run = run;
    if (this.bars && this.bars[1] - 1 > run.from / run.barTicks + run.bars) {
      this.bars = null;
    }
    this.#draw();
    this.#listed(this.cards);
  }

  #heard(hearing) {
    this.hearing = hearing && { ...hearing, map: new TempoMap(hearing.anchors) };
    this.reached = 0;
    if (this.run && hearing?.run === this.run.id) {
      this.round = Boolean(hearing.round);
      if (hearing.round) {
        this.#chooseBars(hearing.round);
      }
    }
    if (this.stage.state.show) {
      this.dispatchEvent(new Event("stood"));
    }
    this.#drawTools();
  }

  #draw() {
    document.getElementById("runs-none").hidden = Boolean(this.run);
    document.getElementById("runs-none").textContent = this.cards.length
      ? "No run is open: choose one on the left."
      : "Start, play, stop: each performance is kept as a run, to be heard again, cut and carried away.";
    this.score?.close();
    this.score = this.run && this.sheet.clientWidth ? score(this.run, this.sheet.clientWidth) : null;
    this.sheet.replaceChildren(...(this.score ? [this.score.element] : []));
    this.#drawTools();
  }

  #drawTools() {
    const { run, bars } = this;
    /** @type {(id: string) => any} */
    const byId = (id) => document.getElementById(id);
    byId("runs-tools").hidden = !run;
    if (!run) {
      return;
    }
    this.score?.choose({ bars, passage: this.passage });
    const found = this.#passage();
    byId("runs-chosen").textContent = !bars
      ? "no bars chosen"
      : bars[1] - bars[0] === 1
        ? `bar ${bars[0]}`
        : `bars ${bars[0]} to ${bars[1] - 1}`;
    byId("runs-passage").textContent = found
      ? `passage ${found.passage.letter} of ${found.part.name}`
      : "no passage chosen";
    for (const id of ["trim", "cut", "repeat", "shelf"]) {
      byId(`runs-${id}`).disabled = !bars;
    }
    for (const id of ["earlier", "later", "clip", "delete-passage"]) {
      byId(`runs-${id}`).disabled = !found;
    }
    const part = this.#part;
    byId("runs-shelf").disabled = !bars || !part;
    byId("runs-undo").disabled = !run.undo;
    byId("runs-undo").title = run.undo;
    byId("runs-redo").disabled = !run.redo;
    byId("runs-redo").title = run.redo;
    const heard = this.hearing?.run === run.id;
    byId("runs-hear").textContent = heard ? "stop it" : "hear it";
    byId("runs-round").setAttribute("aria-pressed", String(Boolean(this.round)));
    byId("runs-own").setAttribute("aria-pressed", String(this.own));
    byId("runs-midi").href = `/shows/${this.stage.show}/runs/${run.id}.mid`;
    byId("runs-midi").dataset.file = `${this.stage.state.show.title} - ${run.name || `run ${run.id}`}.mid`;
    fill(byId("runs-part"), [["0", "all parts"], ...run.parts.map(({ id, name }) => [String(id), name])]);
    const own = this.stage.state.parts.get(found?.part.id);
    fill(byId("runs-clip"), [
      ["0", "give it …"],
      ...(own?.shelf ?? []).map((id) => [String(id), `clip ${this.stage.state.clips.get(id)?.letter}`]),
    ]);
  }

  get #part() {
    return Number(field("runs-part").value) || undefined;
  }

  #passage() {
    for (const part of this.run?.parts ?? []) {
      const passage = part.passages.find(({ number }) => number === this.passage);
      if (passage) {
        return { part, passage };
      }
    }
    return undefined;
  }

  #edit(by) {
    this.#ask({ edit: this.run.id, by });
  }

  #stretch() {
    const [from, until] = this.bars;
    return { from, bars: until - from };
  }

  #wireTools() {
    const part = () => this.#part ?? null;
    press("runs-close", () => this.close());
    press("runs-form", () => this.#ask({ form: true }));
    press("runs-hear", () => this.#hear());
    press("runs-round", () => this.#toggleRound());
    press("runs-own", () => {
      this.own = !this.own;
      this.reached = 0;
      this.dispatchEvent(new Event("stood"));
      this.#drawTools();
    });
    press("runs-sound", () => {
      const { id, name } = this.run;
      this.stage.soundSheet.open(`/shows/${this.stage.show}/runs/${id}.rendering.json`, name || "The run");
    });
    press("runs-trim", () => this.#edit({ by: "trim", ...this.#stretch() }));
    press("runs-cut", () => this.#edit({ by: "cut", part: part(), ...this.#stretch() }));
    press("runs-repeat", () => {
      const times = Number(field("runs-times").value);
      this.#edit({ by: "repeat", part: part(), ...this.#stretch(), times });
    });
    press("runs-shelf", () => {
      const { from, bars } = this.#stretch();
      this.#ask({ toShelf: this.run.id, part: part(), bar: from, bars });
    });
    press("runs-earlier", () => this.#edit({ by: "movePassage", passage: this.passage, bars: -1 }));
    press("runs-later", () => this.#edit({ by: "movePassage", passage: this.passage, bars: 1 }));
    press("runs-delete-passage", () => this.#edit({ by: "deletePassage", passage: this.passage }));
    on("runs-clip", "change", ({ target }) => {
      if (Number(target.value)) {
        this.#edit({ by: "giveClip", passage: this.passage, clip: Number(target.value) });
      }
      target.value = "0";
    });
    press("runs-undo", () => this.#ask({ undo: this.run.id }));
    press("runs-redo", () => this.#ask({ redo: this.run.id }));
    on("runs-part", "change", () => this.#drawTools());
    press("runs-open", () => this.toggle());
  }

  /** Hears the run that is open, else the newest; or stops hearing it. */
  hearOrStop() {
    const newest = this.cards?.[0]?.id;
    if (this.hearing) {
      this.#ask({ silence: true });
    } else if (this.run) {
      this.#hear();
    } else if (newest) {
      this.#ask({ hear: newest, bar: 1, round: null });
    } else {
      this.stage.words.say("There is no run yet: start, and play.");
    }
  }

  /** The run that is heard goes round in the bar that sounds, or on from there. */
  roundOrOn() {
    this.#ask({ round: "here" });
  }

  #hear() {
    if (this.hearing?.run === this.run.id) {
      this.#ask({ silence: true });
      return;
    }
    const bar = Number(field("runs-bar").value) || 1;
    this.#ask({ hear: this.run.id, bar, round: this.round ? this.bars : null });
  }

  /** The chosen bars go round, also while the run is heard. */
  #toggleRound() {
    this.round = !this.round && Boolean(this.bars);
    this.#tellRound();
    this.#drawTools();
  }

  #tellRound() {
    if (this.hearing?.run === this.run?.id && this.run) {
      this.#ask({ round: this.round ? this.bars : null });
    }
  }

  #chooseBars(bars) {
    this.bars = bars;
    field("runs-bar").value = String(bars[0]);
    this.#drawTools();
  }

  #wireSheet() {
    let begun = null;
    const at = (event) => {
      const box = this.sheet.firstElementChild.getBoundingClientRect();
      return [event.clientX - box.left, event.clientY - box.top];
    };
    this.sheet.addEventListener("pointerdown", (event) => {
      if (!this.score) {
        return;
      }
      begun = at(event);
      this.sheet.setPointerCapture(event.pointerId);
    });
    this.sheet.addEventListener("pointermove", (event) => {
      if (!begun) {
        return;
      }
      const [x, y] = at(event);
      if (Math.hypot(x - begun[0], y - begun[1]) > STILL) {
        const [a, b] = [this.score.bar(begun[0], begun[1]), this.score.bar(x, y)].sort((p, q) => p - q);
        this.#chooseBars([a, b + 1]);
      }
    });
    this.sheet.addEventListener("pointerup", (event) => {
      if (!begun) {
        return;
      }
      const [x, y] = at(event);
      if (Math.hypot(x - begun[0], y - begun[1]) <= STILL) {
        const bar = this.score.bar(x, y);
        this.passage = this.score.passage(x, y);
        field("runs-part").value = String(this.score.part(y) ?? 0);
        this.#chooseBars([bar, bar + 1]);
      }
      begun = null;
      if (this.round) {
        this.#tellRound();
      }
    });
    this.sheet.addEventListener("keydown", (event) => this.#key(event));
  }

  /** Arrows choose a bar, with Shift more of them; up and down choose a passage. */
  #key(event) {
    const { run } = this;
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const other = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (!run || (!step && !other)) {
      return;
    }
    event.preventDefault();
    event.stopPropagation();
    if (step) {
      const first = Math.floor(run.from / run.barTicks) + 1;
      const within = (bar) => Math.max(first, Math.min(first + run.bars - 1, bar));
      const [from, until] = this.bars ?? [first - step, first - step + 1];
      this.#chooseBars(
        event.shiftKey
          ? [from, Math.max(from + 1, within(until - 1 + step) + 1)]
          : [within(from + step), within(from + step) + 1],
      );
      if (this.round) {
        this.#tellRound();
      }
    } else {
      const all = run.parts.flatMap(({ passages }) => passages.map(({ number }) => number));
      this.passage = all[Math.max(0, Math.min(all.length - 1, all.indexOf(this.passage) + other))];
      this.#drawTools();
    }
  }
}

function press(id, act) {
  on(id, "click", act);
}

/** Choices, where they are others than before; what was chosen stays, if it is there. */
function fill(select, choices) {
  const key = JSON.stringify(choices);
  if (select.dataset.choices === key) {
    return;
  }
  select.dataset.choices = key;
  const { value } = select;
  select.replaceChildren(...choices.map(([id, words]) => new Option(words, id)));
  select.value = choices.some(([id]) => id === value) ? value : choices[0][0];
}

/** Minutes and seconds. */
function long(micros) {
  const seconds = Math.round(micros / 1e6);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}
