/**
 * The table of Setup with a row for each part: what it takes of what is played, how much earlier it is placed,
 * and where it sounds outside.
 */

import { html, live, render, repeat } from "../house/lit.js";
import { keepNames, namesIn, namesOf } from "../output/program-names.js";
import { channelsInWords, channelsOf } from "./listening.js";

/** Channels, told from 1 as musicians count. */
const CHANNEL_NAMES = Array.from({ length: 16 }, (_, i) => [String(i), String(i + 1)]);
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
    const { staves } = this.stage.state;
    const rows = repeat(
      staves,
      ({ id }) => id,
      (part) => this.#row(part),
    );
    render(rows, this.body);
  }

  #row(part) {
    const { name, input, output } = part;
    const set = (change) => this.#do(part, () => ({ do: "setPartInput", ...change }));
    const route = (change) =>
      this.#do(part, ({ output: now }) => {
        const { device, channel, bank, program, alone } = { ...now, ...change };
        return { do: "soundOutside", output: { device, channel, bank, program, alone } };
      });
    return html`<tr>
      <td>${name}</td>
      <td>${listening(`${name}: listens to channels`, input.channels, (channels) => set({ channels }))}</td>
      <td>
        ${number(`${name}: earlier by, ms`, input.offset, [-200, 200, 0.1], (offset) => set({ offset: offset ?? 0 }))}
      </td>
      <td><button class="btn small" @click=${() => this.measure.begin(part.id)}>Measure</button></td>
      <td>${this.#devices(part, route)}</td>
      ${output ? outside(name, output, route, (file) => this.#takeNames(output.device, file)) : html`<td colspan="4"></td>`}
    </tr>`;
  }

  /** A device that is wanted and not there is shown as that. */
  #devices(part, route) {
    const { outputs } = this.stage.midi;
    const wanted = part.output?.device ?? "";
    const names = [...new Set([...outputs.keys(), ...(wanted ? [wanted] : [])])];
    const options = [["", "its own sound"], ...names.map((name) => [name, there(name, outputs)])];
    return choice(`${part.name}: sounds on`, options, wanted, (device) =>
      device
        ? route({ channel: 0, bank: null, program: null, alone: true, ...part.output, device })
        : this.#do(part, () => ({ do: "soundInside" })),
    );
  }

  /** What a device's programs are called, from a text file. */
  async #takeNames(device, file) {
    const { names, why } = namesIn(await file.text());
    if (names) {
      keepNames(device, names);
      this.stage.words.say(`${names.length} programs of ${device} have their names.`);
      this.draw();
    } else {
      this.stage.words.say(why, true);
    }
  }

  /** What is sent is the part as it is now, with the change. */
  #do({ id }, command) {
    const part = this.stage.state.parts.get(id);
    if (part) {
      this.stage.connection.do({ part: id, ...command(part) });
    }
  }
}

/** Where on its device a part sounds. */
function outside(name, { device, channel, bank, program, alone }, route, takeNames) {
  const shown = Number.isInteger(program) ? program + 1 : null;
  const names = namesOf(device);
  return html`<td>
      ${choice(`${name}: channel`, CHANNEL_NAMES, String(channel), (to) => route({ channel: Number(to) }))}
    </td>
    <td>${number(`${name}: bank`, bank, [0, MOST_BANKS, 1], (to) => route({ bank: to }))}</td>
    <td>
      ${number(`${name}: program`, shown, [1, MOST_PROGRAMS, 1], (n) => route({ program: n === null ? null : n - 1 }))}
      ${names.length ? named(name, names, { bank, program }, route) : ""}
      <label
        class="btn small"
        title="what the programs of ${device} are called: bank, program, name in a line of a text file"
        >names …<input
          type="file"
          accept=".txt,.csv,text/plain"
          aria-label="${name}: names of the programs of ${device}"
          hidden
          @change=${({ target }) => target.files[0] && takeNames(target.files[0])}
      /></label>
    </td>
    <td>
      <input
        type="checkbox"
        aria-label="${name}: only there"
        .checked=${live(alone)}
        @change=${({ target }) => route({ alone: target.checked })}
      />
    </td>`;
}

/** A program by what its device calls it. */
function named(name, names, now, route) {
  const of = ({ bank, program }) => `${bank ?? 0} ${program}`;
  const options = names.map((one) => [of(one), one.name]);
  return choice(`${name}: program by name`, [["", "by number"], ...options], of(now), (value) => {
    if (value) {
      const [bank, program] = value.split(" ").map(Number);
      route({ bank, program });
    }
  });
}

function there(name, outputs) {
  return outputs.has(name) ? name : `${name} (not there)`;
}

function choice(label, options, value, change) {
  return html`<select class="choice" aria-label=${label} @change=${({ target }) => change(target.value)}>
    ${options.map(([of, text]) => html`<option value=${of} .selected=${live(of === value)}>${text}</option>`)}
  </select>`;
}

/** Channels in words; what means none is shown as it was. */
function listening(label, channels, change) {
  const inWords = channelsInWords(channels);
  const changed = ({ target }) => {
    const meant = channelsOf(target.value);
    if (meant) {
      change(meant);
    } else {
      target.value = inWords;
    }
  };
  return html`<input
    class="entry"
    placeholder="all"
    aria-label=${label}
    .value=${inWords}
    @change=${changed}
  />`;
}

function number(label, value, [min, max, step], change) {
  return html`<input
    class="entry"
    type="number"
    min=${min}
    max=${max}
    step=${step}
    aria-label=${label}
    .value=${String(value ?? "")}
    @change=${({ target }) => change(target.value === "" ? null : Number(target.value))}
  />`;
}
