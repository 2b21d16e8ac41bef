import { html, nothing, render } from "../house/lit.js";
import { bare, firstOf } from "../player/sounds.js";
import { Drawer } from "./drawer.js";
import { field, on, put } from "./fields.js";
import { channelsInWords, channelsOf } from "./listening.js";
import { noteName } from "./note-names.js";
import { PENNANTS, pennant } from "./pennants.js";

/** The drawer with a part's settings. */
export class PartDialog extends Drawer {
  constructor(stage, chooser) {
    super(stage, "part-dialog");
    this.chooser = chooser;
    const number = ({ value }) => (value === "" ? null : Number(value));
    const input = (id, field, read, otherwise) =>
      on(id, "change", ({ target }) => this.#setInput({ [field]: read(target) ?? otherwise }));
    on("part-channels", "change", ({ target }) => {
      const channels = channelsOf(target.value);
      if (channels) {
        this.#setInput({ channels });
      } else {
        target.value = channelsInWords(this.thing.input.channels);
      }
    });
    const range = () => {
      const [low, high] = ["part-lowest", "part-highest"].map((id) => Number(field(id).value));
      this.#setInput({ lowest: Math.min(low, high), highest: Math.max(low, high) });
    };
    on("part-lowest", "change", range);
    on("part-highest", "change", range);
    input("part-monitoring", "monitoring", ({ value }) => value);
    input("part-transpose", "transpose", number, 0);
    input("part-velocity", "velocity", number, null);
    input("part-offset", "offset", number, 0);
    on("part-name", "change", ({ target }) => this.#do({ do: "renamePart", name: target.value }));
    on("part-leaving", "change", ({ target }) => this.#do({ do: "setLeaving", leaving: target.value }));
    on("part-sound", "click", () => {
      this.close();
      chooser.open(this.thing);
    });
    on("part-up", "click", () => this.#move(-1));
    on("part-down", "click", () => this.#move(1));
    on("part-split", "click", () => this.#do({ do: "splitPart" }, true));
    on("part-join", "click", () => this.#join());
    on("part-delete", "click", () => this.#do({ do: "deletePart" }, true));
  }

  open(part) {
    this.part = part?.id;
    this.show();
  }

  get thing() {
    return this.stage.state.parts.get(this.part);
  }

  fill(part) {
    document.getElementById("part-title").textContent = part.name;
    document.getElementById("part-sound").textContent = part.sound.name;
    this.#showSecond(part);
    put("part-name", part.name);
    put("part-channels", channelsInWords(part.input.channels));
    put("part-lowest", part.input.lowest);
    put("part-highest", part.input.highest);
    const { lowest, highest } = part.input;
    document.getElementById("part-keys-words").textContent = `${noteName(lowest)} – ${noteName(highest)}`;
    this.#showDevices(part.input.devices);
    put("part-monitoring", part.input.monitoring);
    put("part-transpose", part.input.transpose);
    put("part-velocity", part.input.velocity ?? "");
    put("part-offset", part.input.offset);
    put("part-leaving", part.leaving);
    document.getElementById("part-split").hidden = !part.sound.drums;
    const { order } = this.stage.state;
    document.getElementById("part-join").hidden = order.at(-1) === part.id;
    document.getElementById("pennants").replaceChildren(
      ...Array.from({ length: PENNANTS }, (_, i) => {
        const button = document.createElement("button");
        button.append(pennant(i));
        button.setAttribute("aria-label", `pennant ${i + 1}`);
        button.setAttribute("aria-pressed", String(i === part.pennant));
        button.addEventListener("click", () => this.#do({ do: "setPennant", pennant: i }));
        return button;
      }),
    );
  }

  /** The second sound under the same hand. */
  #showSecond({ sound }) {
    const { second } = sound;
    const set = (change) => this.#setSecond({ ...second, ...change });
    const number = (label, value, min, max, step, change) =>
      html`<label
        >${label}<input
          class="entry"
          type="number"
          min=${min}
          max=${max}
          step=${step}
          .value=${String(value)}
          @change=${({ target }) => change(Number(target.value))}
      /></label>`;
    const choose = () => {
      const part = this.thing;
      this.close();
      this.chooser.openForSecond(part);
    };
    const rows = html`<label
        >Second sound under the same hand<button class="btn small" @click=${choose}>
          ${second?.sound.name ?? "choose …"}
        </button></label
      >${
        second
          ? html`${number("its level, dB", second.level, -60, 6, "any", (level) => set({ level }))}
              ${number("higher by, semitones", second.transpose, -36, 36, 1, (transpose) => set({ transpose }))}
              ${number("from key", second.lowest, 0, 127, 1, (lowest) => set({ lowest }))}
              ${number("to key", second.highest, 0, 127, 1, (highest) => set({ highest }))}
              <button class="btn small" @click=${() => this.#setSecond(null)}>without it</button>`
          : nothing
      }`;
    render(rows, document.getElementById("part-second"));
  }

  /** @param {Record<string, any> | null} second */
  #setSecond(second) {
    const sound = firstOf(this.thing.sound);
    const besides = second ? { second: bare(second) } : {};
    this.#do({ do: "chooseSound", ...sound, ...besides, evenWithMusic: true });
  }

  /** The devices that are there, and those that are wanted though they are not. */
  #showDevices(wanted) {
    const { midi, hub } = this.stage;
    const names = [...new Set([...midi.names, ...hub.devices, ...wanted])];
    const key = JSON.stringify([this.part, names, wanted]);
    if (key === this.shown) {
      return;
    }
    this.shown = key;
    const boxes = names.map((name) => {
      const label = document.createElement("label");
      const box = document.createElement("input");
      Object.assign(box, { type: "checkbox", checked: wanted.includes(name) });
      box.addEventListener("change", () => {
        const others = this.thing.input.devices.filter((other) => other !== name);
        this.#setInput({ devices: box.checked ? [...others, name] : others });
      });
      label.append(box, name);
      return label;
    });
    const fieldset = document.getElementById("part-devices");
    fieldset.replaceChildren(fieldset.firstElementChild, ...(boxes.length ? boxes : ["no device is there"]));
  }

  #do(command, close = false) {
    this.stage.connection.do({ part: this.part, ...command });
    if (close) {
      this.close();
    }
  }

  #setInput(change) {
    this.#do({ do: "setPartInput", ...change });
  }

  #move(by) {
    this.#do({ do: "movePart", place: this.stage.state.order.indexOf(this.part) + by });
  }

  #join() {
    const { order } = this.stage.state;
    this.#do({ do: "joinParts", other: order[order.indexOf(this.part) + 1] }, true);
  }
}
