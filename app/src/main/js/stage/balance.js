import { html, live, render, repeat } from "../house/lit.js";
import { openDrawer } from "./dialogs.js";
import { drawer, field, list, on, put } from "./fields.js";
import { inDecibels, Meter } from "./meter.js";

/** How parts stand in the whole: short on each stave, and all of it in a drawer. */

/** @type {[string, number, number, number][]} what is set by a slider, and typed: [field, lowest, highest, step of the slider] */
const FIELDS = [
  ["level", -60, 6, 0.5],
  ["pan", -100, 100, 1],
  ["low", -12, 12, 0.5],
  ["high", -12, 12, 0.5],
  ["echo", 0, 100, 1],
  ["room", 0, 100, 1],
];

/** Peaks that are held down less than this are not worth a word, in dB. */
const HELD_WORTH = 0.5;

/** What is said of the whole is said so often, in ms: who reads it has time to. */
const SAID_EVERY = 500;

export class BalanceDialog {
  constructor(stage) {
    this.stage = stage;
    this.dialog = drawer("balance-dialog");
    this.rows = document.getElementById("balance-rows");
    this.words = document.getElementById("master-words");
    this.whole = new Meter("all together", true);
    document.getElementById("master-meter").append(this.whole.element);
    /** @type {Map<number, Meter>} */
    this.meters = new Map();
    this.heldBy = 0;
    this.saidAt = 0;
    document.getElementById("balance").addEventListener("click", () => this.open());
    const master = (id, kind, read) =>
      on(id, kind, ({ target }) => stage.connection.do({ do: "setMaster", ...read(target) }));
    master("master-slider", "input", ({ value }) => ({ level: Number(value) }));
    master("master-level", "change", ({ value }) => ({ level: Number(value) }));
    master("limited", "change", ({ checked }) => ({ limited: checked }));
    master("echo", "input", ({ value }) => ({ echo: value }));
    master("repeats", "input", ({ value }) => ({ repeats: Number(value) }));
    master("tone", "input", ({ value }) => ({ tone: Number(value) }));
    master("room", "input", ({ value }) => ({ room: Number(value) }));
    for (const button of this.dialog.querySelectorAll("[data-trim]")) {
      button.addEventListener("click", () =>
        stage.connection.do({ do: "trimAll", decibels: Number(button.dataset.trim) }),
      );
    }
    on("trim-by", "change", ({ target }) => {
      if (target.value !== "") {
        stage.connection.do({ do: "trimAll", decibels: Number(target.value) });
        target.value = "";
      }
    });
    stage.sound.addEventListener("levels", ({ detail }) => this.dialog.open && this.#measured(detail));
  }

  open() {
    openDrawer(this.dialog);
    this.draw();
  }

  draw() {
    const { show, staves } = this.stage.state;
    if (!this.dialog.open || !show) {
      return;
    }
    const { master } = show;
    put("master-slider", master.level);
    put("master-level", master.level);
    field("limited").checked = master.limited;
    put("echo", master.echo);
    put("repeats", master.repeats, `${master.repeats} %`);
    put("tone", master.tone, `${master.tone} Hz`);
    put("room", master.room, `${master.room} s`);
    const rows = repeat(
      staves,
      ({ id }) => id,
      (part) => this.#row(part, master),
    );
    render(rows, this.rows);
    follow(this.rows);
  }

  #row(part, master) {
    const { id, name, balance } = part;
    const set = (change) => setBalance(this.stage, id, change);
    const [level, pan, low, high, echo, room] = FIELDS.map(
      ([field, min, max, step]) =>
        html`<td class="of-${field}">
          ${field === "level" ? this.#meter(part).element : ""}
          ${fader(`${field} of ${name}`, field, balance[field], { min, max, step }, (to) => set({ [field]: to }))}
        </td>`,
    );
    return html`<tr>
      <th>${name}</th>
      ${level}${pan}${low}${high}${echo}
      <td>${echoTimes(name, balance.echoTime, master.echo, (echoTime) => set({ echoTime }))}</td>
      ${room}
      <td>${muteAndSolo(this.stage, part)}</td>
    </tr>`;
  }

  #meter({ id, name }) {
    const meter = this.meters.get(id) ?? new Meter(name, true);
    this.meters.set(id, meter);
    return meter;
  }

  /** @param {import("../house/mixer.js").Levels} levels */
  #measured({ output, held, loudness, parts }) {
    const now = performance.now();
    this.whole.take(output, now);
    parts.forEach((peak, id) => this.meters.get(id)?.take(peak, now));
    this.heldBy = Math.max(this.heldBy, -20 * Math.log10(held));
    if (now - this.saidAt < SAID_EVERY) {
      return;
    }
    const loud = Number.isFinite(loudness)
      ? `${loudness.toFixed(1).replace("-", "−")} LUFS in the last 3 s`
      : "";
    const down = this.heldBy > HELD_WORTH ? `peaks held by ${inDecibels(this.heldBy)}` : "";
    this.words.textContent = [loud, down].filter(Boolean).join(" · ");
    this.saidAt = now;
    this.heldBy = 0;
  }
}

/** Level, mute and solo, as they stand on a stave, and how loud the part is. */
export class BalanceStrip {
  constructor(stage, id) {
    this.stage = stage;
    this.element = document.createElement("div");
    this.element.className = "strip";
    this.meter = new Meter(stage.state.parts.get(id).name);
    this.rest = document.createElement("div");
    this.element.append(this.meter.element, this.rest);
    this.id = id;
  }

  /** @param {import("../house/mixer.js").Levels} levels */
  measured({ parts }, now) {
    this.meter.take(parts.get(this.id) ?? 0, now);
  }

  draw(part) {
    const { id, name, balance } = part;
    const set = ({ target }) => setBalance(this.stage, id, { level: Number(target.value) });
    const strip = html`<input
        type="range"
        min="-60"
        max="6"
        step="0.5"
        aria-label="level of ${name}"
        data-value=${balance.level}
        @input=${set}
      />
      <div class="row">${muteAndSolo(this.stage, part)}<output>${decibels(balance.level)}</output></div>`;
    render(strip, this.rest);
    follow(this.rest);
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

function muteAndSolo(stage, { id, name, balance }) {
  return ["muted", "solo"].map((field) => {
    const word = field === "muted" ? "mute" : "solo";
    return html`<button
      class="ms ${field}"
      title=${word}
      aria-label="${word} ${name}"
      aria-pressed=${String(balance[field])}
      @click=${() => toggle(stage, stage.state.parts.get(id), field)}
    >
      ${word[0].toUpperCase()}
    </button>`;
  });
}

/** A slider, and the same as a number that is typed: any that is in its range. */
function fader(label, name, value, { min, max, step }, change) {
  const moved = ({ target }) => change(Number(target.value));
  return html`<span class="fader"
    ><input
      type="range"
      min=${min}
      max=${max}
      step=${step}
      aria-label=${label}
      data-field=${name}
      data-value=${value}
      @input=${moved} /><input
      class="entry"
      type="number"
      min=${min}
      max=${max}
      step=${Number.isInteger(step) ? 1 : "any"}
      aria-label="${label}, typed"
      .value=${live(String(value))}
      @change=${moved}
  /></span>`;
}

/** An echo time of the part's own, or that of all. */
function echoTimes(name, own, ofAll, change) {
  const times = [...list("echo").options].map(({ value }) => value);
  return html`<select
    class="choice"
    aria-label="echo of ${name} every"
    @change=${({ target }) => change(target.value || null)}
  >
    <option value="" .selected=${live(!own)}>${ofAll}, as all</option>
    ${times.map((time) => html`<option value=${time} .selected=${live(time === own)}>${time}</option>`)}
  </select>`;
}

/** Sliders stand where what they set stands, but for one that is being moved: what comes back is older than the hand. */
function follow(sliders) {
  for (const slider of sliders.querySelectorAll('input[type="range"]')) {
    if (slider !== document.activeElement && slider.value !== slider.dataset.value) {
      slider.value = slider.dataset.value;
    }
  }
}

function decibels(level) {
  return level <= -60 ? "silent" : `${level > 0 ? "+" : ""}${level} dB`;
}
