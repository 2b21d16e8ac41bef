/**
 * The table of Setup with a row for each part: what it takes of what is played, how much earlier it is placed,
 * and where it sounds outside.
 */

import { channelsInWords, channelsOf } from "./listening.js";

const CHANNELS = 16;
const MOST_PROGRAMS = 128;
const MOST_BANKS = 16383;

export class PartRoutes {
  /** @param {import("./offset-measure.js").OffsetMeasure} measure */
  constructor(stage, measure) {
    this.stage = stage;
    this.measure = measure;
    this.body = document.getElementById("routes");
  }

  draw() {
    const { state, midi } = this.stage;
    const key = JSON.stringify([
      [...midi.outputs.keys()],
      state.staves.map(({ id, name, input, output }) => [id, name, input, output]),
    ]);
    const busy =
      this.body.contains(document.activeElement) && this.body.childElementCount === state.staves.length;
    if (key === this.drawn || busy) {
      return;
    }
    this.drawn = key;
    this.body.replaceChildren(...state.staves.map((part) => this.#row(part)));
  }

  #row(part) {
    const { input, output } = part;
    const row = document.createElement("tr");
    const cell = (...children) => {
      const element = document.createElement("td");
      element.append(...children);
      row.append(element);
    };
    const set = (change) => this.#do(part, () => ({ do: "setPartInput", ...change }));
    const route = (change) =>
      this.#do(part, ({ output: now }) => {
        const { device, channel, bank, program, alone } = { ...now, ...change };
        return { do: "soundOutside", output: { device, channel, bank, program, alone } };
      });
    const named = (element, what) => {
      element.setAttribute("aria-label", `${part.name}: ${what}`);
      return element;
    };
    cell(part.name);
    cell(
      named(
        listening(input.channels, (channels) => set({ channels })),
        "listens to channels",
      ),
    );
    cell(
      named(
        number(input.offset, -200, 200, (offset) => set({ offset: offset ?? 0 }), 0.1),
        "earlier by, ms",
      ),
    );
    cell(this.#measureButton(part));
    cell(named(this.#devices(part, route), "sounds on"));
    if (output) {
      const program = Number.isInteger(output.program) ? output.program + 1 : null;
      const only = document.createElement("input");
      Object.assign(only, { type: "checkbox", checked: output.alone });
      only.addEventListener("change", () => route({ alone: only.checked }));
      cell(
        named(
          channels(output.channel, null, (channel) => route({ channel })),
          "channel",
        ),
      );
      cell(
        named(
          number(output.bank, 0, MOST_BANKS, (bank) => route({ bank })),
          "bank",
        ),
      );
      cell(
        named(
          number(program, 1, MOST_PROGRAMS, (n) => route({ program: n === null ? null : n - 1 })),
          "program",
        ),
      );
      cell(named(only, "only there"));
    } else {
      cell();
      row.lastElementChild.colSpan = 4;
    }
    return row;
  }

  #measureButton(part) {
    const button = document.createElement("button");
    button.className = "btn small";
    button.textContent = "Measure";
    button.addEventListener("click", () => this.measure.begin(part.id));
    return button;
  }

  /** A device that is wanted and not there is shown as that. */
  #devices(part, route) {
    const { outputs } = this.stage.midi;
    const wanted = part.output?.device;
    const names = [...new Set([...outputs.keys(), ...(wanted ? [wanted] : [])])];
    const select = choice([["", "its own sound"], ...names.map((name) => [name, there(name, outputs)])]);
    select.value = wanted ?? "";
    select.addEventListener("change", () => {
      if (select.value) {
        route({ channel: 0, bank: null, program: null, alone: true, ...part.output, device: select.value });
      } else {
        this.#do(part, () => ({ do: "soundInside" }));
      }
    });
    return select;
  }

  /** What is sent is the part as it is now, with the change. */
  #do({ id }, command) {
    const part = this.stage.state.parts.get(id);
    if (part) {
      this.stage.connection.do({ part: id, ...command(part) });
    }
  }
}

function there(name, outputs) {
  return outputs.has(name) ? name : `${name} (not there)`;
}

function choice(options) {
  const select = document.createElement("select");
  select.className = "choice";
  select.append(...options.map(([value, text]) => new Option(text, value)));
  return select;
}

/** A channel, told from 1 as musicians count; or none, where there is a word for that. */
function channels(value, none, change) {
  const numbers = Array.from({ length: CHANNELS }, (_, i) => [String(i), String(i + 1)]);
  const select = choice(none ? [["", none], ...numbers] : numbers);
  select.value = String(value ?? "");
  select.addEventListener("change", () => change(select.value === "" ? null : Number(select.value)));
  return select;
}

/** Channels in words; what means none is shown as it was. */
function listening(channels, change) {
  const field = document.createElement("input");
  field.className = "entry";
  Object.assign(field, { placeholder: "all", value: channelsInWords(channels) });
  field.addEventListener("change", () => {
    const meant = channelsOf(field.value);
    if (meant) {
      change(meant);
    } else {
      field.value = channelsInWords(channels);
    }
  });
  return field;
}

function number(value, min, max, change, step = 1) {
  const field = document.createElement("input");
  field.className = "entry";
  Object.assign(field, { type: "number", min, max, step, value: value ?? "" });
  field.addEventListener("change", () => change(field.value === "" ? null : Number(field.value)));
  return field;
}
