import { kept } from "../house/kept.js";
import { field, list, on, onPress } from "./fields.js";
import { count, position } from "./time.js";

/** Held down so far, peaks are heard to be: 6 dB. */
const HELD_FAR = 0.5;

/** The conductor's line: where we are, how fast, how we start. */
export class Conductor {
  constructor(stage) {
    this.stage = stage;
    this.count = document.getElementById("count");
    this.lamps = document.getElementById("lamps");
    this.bpm = field("bpm");
    this.shown = "";
    this.#wire();
  }

  draw() {
    const { show, transport, armedPart } = this.stage.state;
    const { words } = this.stage;
    if (!show) {
      return;
    }
    document.getElementById("title").textContent = show.title;
    if (document.activeElement !== this.bpm) {
      this.bpm.value = String(show.bpm);
    }
    this.#drawMeter(show.meter);
    this.#drawLamps(show.meter.beats);
    this.#drawClick(show);
    this.#drawGrid(armedPart);
    const solo = this.stage.state.staves.filter(({ balance }) => balance.solo).map(({ name }) => name);
    words.lamp("solo-lamp", solo.length ? `solo: ${solo.join(", ")}` : "");
    const undo = field("undo");
    undo.disabled = !this.stage.state.history.undo;
    const takesBack = this.stage.state.history.undo;
    undo.title = `undo: ${takesBack || "nothing"}`;
    undo.textContent = takesBack ? `Undo ${takesBack}` : "Undo";
    field("enters-on").value = show.recording.entersOn;
    const run = document.getElementById("run");
    const hears = Boolean(this.stage.runs.hearing);
    run.textContent = transport.rolling ? "Stop" : transport.awaiting ? "Call off" : "Start";
    run.title = hears ? "start what is ready: the run that is heard ends" : "";
    this.shown = "";
  }

  /** Draws bar and beat when they have changed. */
  tick(tick) {
    const { show } = this.stage.state;
    if (!show) {
      return;
    }
    const at = tick === null ? null : position(tick, show.meter);
    const bar = at && at.bar > 0 ? String(at.bar) : "–";
    const text = at ? `${bar}·${at.beat}` : bar;
    if (text === this.shown) {
      return;
    }
    this.shown = text;
    this.count.dataset.digits = String(Math.min(4, bar.length));
    this.count.replaceChildren(bar);
    if (at) {
      const beat = document.createElement("i");
      beat.textContent = `·${at.beat}`;
      this.count.append(beat);
    }
    [...this.lamps.children].forEach((lamp, i) => lamp.classList.toggle("on", at?.beat === i + 1));
  }

  /** What goes wrong with how loud it is, is said: louder than the output can give, or held down by far. */
  #watchLevel({ output, held, parts }) {
    const overload = output >= 1;
    if (!overload && held > HELD_FAR) {
      return;
    }
    const [[loudest] = []] = [...parts].sort(([, a], [, b]) => b - a);
    const name = this.stage.state.parts.get(loudest)?.name ?? "the click";
    this.stage.words.say(
      overload
        ? `Overload, most of it from ${name}: trim all parts, or lower the master.`
        : `Peaks are held down far, most of them from ${name}: lower it, or the master.`,
      overload,
    );
  }

  setTempo(bpm) {
    this.stage.connection.do({ do: "setTempo", bpm });
  }

  #drawMeter({ beats, unit }) {
    const select = list("meter");
    const name = `${beats}/${unit}`;
    if (![...select.options].some((option) => option.value === name)) {
      select.add(new Option(name));
    }
    select.value = name;
  }

  #drawLamps(beats) {
    if (this.lamps.childElementCount !== beats) {
      this.lamps.replaceChildren(
        ...Array.from({ length: beats }, (_, i) => {
          const lamp = document.createElement("div");
          lamp.className = i ? "lamp" : "lamp one";
          return lamp;
        }),
      );
    }
  }

  #drawClick({ click, recording, meter }) {
    const toggle = document.getElementById("click");
    toggle.textContent = click.on ? "click on" : "click off";
    toggle.setAttribute("aria-pressed", String(click.on));
    const word = (id, value) => document.querySelector(`#${id} option[value="${value}"]`).textContent;
    document.getElementById("click-words").textContent =
      `${word("click-sound", click.sound)}, ${word("click-when", click.when)}`;
    field("count-in").value = String(recording.countInBars);
    document.getElementById("count-in-words").textContent = countInWords(click, recording, meter);
  }

  #drawGrid(part) {
    if (!part) {
      return;
    }
    const { grid, strength, swing } = part.inputGrid;
    field("grid").value = grid;
    const more = [strength < 100 && `${strength} %`, swing > 50 && `swing ${swing}`].filter(Boolean);
    document.getElementById("grid-words").textContent =
      grid === "off" ? `grid of ${part.name}: off` : [`grid of ${part.name}`, ...more].join(" · ");
  }

  #wire() {
    const { connection, state, sound, words } = this.stage;
    on("bpm", "change", () => {
      const bpm = Number(this.bpm.value.replace(",", "."));
      if (Number.isFinite(bpm)) {
        this.setTempo(bpm);
      } else {
        words.say("That is not a tempo: type 20 to 400 quarter notes a minute.", true);
      }
      this.bpm.blur();
    });
    on("slower", "click", () => this.setTempo(state.show.bpm - 1));
    on("faster", "click", () => this.setTempo(state.show.bpm + 1));
    onPress("tap", (event) => connection.do({ do: "tapTempo" }, event.timeStamp));
    on("meter", "change", ({ target }) => {
      const [beats, unit] = target.value.split("/").map(Number);
      connection.do({ do: "setMeter", beats, unit });
      this.draw();
    });
    on("click", "click", () =>
      connection.do({
        do: "setClick",
        on: !state.show.click.on,
      }),
    );
    on("count-in", "change", ({ target }) =>
      connection.do({
        do: "setRecording",
        countInBars: Number(target.value),
      }),
    );
    on("enters-on", "change", ({ target }) =>
      connection.do({
        do: "setRecording",
        entersOn: target.value,
      }),
    );
    on("grid", "change", ({ target }) => {
      const part = state.armedPart;
      connection.do({
        do: "setInputGrid",
        part: part.id,
        grid: target.value,
      });
    });
    on("run", "click", ({ timeStamp }) => connection.do({ do: "startOrStop" }, timeStamp));
    on("panic", "click", ({ timeStamp }) => this.stage.commands.do({ do: "panic" }, timeStamp));
    sound.addEventListener("levels", ({ detail }) => this.#watchLevel(detail));
    on("undo", "click", () => connection.do({ do: "undo" }));
  }
}

/** How long the count-in is, and the set length that comes after it, if one is set. */
function countInWords(click, { countInBars, fixedUnits, closesOn }, { barTicks }) {
  const beats = (countInBars * barTicks) / click.ticks;
  if (fixedUnits > 0) {
    const long = count(fixedUnits, closesOn === "BEAT" ? "beat" : "bar");
    return beats ? `${count(beats, "beat")}, then ${long}` : `count-in, then ${long}`;
  }
  return beats ? `count-in = ${count(beats, "beat")}` : "count-in";
}

/** All notes off, here and now; the engine does the same everywhere. */
export function quiet({ sound, standIn, words }) {
  standIn.stop();
  sound.panic();
  words.say("All notes off.");
}

/** Dark for the stage, light for daylight. */
export function toggleTheme() {
  const next = document.documentElement.dataset.theme === "dark" ? "light" : "dark";
  document.documentElement.dataset.theme = next;
  kept.set("ancora-theme", next);
}
