import { bringBank } from "../files/banks.js";
import { Decoder } from "../house/bank.js";
import { field, on } from "./fields.js";

/** A click is a short thing, in seconds. */
const LONGEST = 2;

const MOST_CHANNELS = 2;
const RATE = 48_000;

/** The keys of downbeat and beat in the kit that is made of them: those that the engine has for such a kit. */
const DOWNBEAT = 76;
const BEAT = 77;

/** Sounds of one's own for the click: one for the downbeat, one for the beat, made into a bank that the house keeps. */
export class ClickSounds {
  constructor(stage) {
    this.stage = stage;
    this.words = document.getElementById("click-own-words");
    on("click-own-take", "click", () => this.#take());
    on("click-own-leave", "click", () => stage.connection.do({ do: "setClick", own: null }));
  }

  draw() {
    const { own } = this.stage.state.show.click;
    field("click-own-leave").disabled = !own;
    if (own && this.shown !== own.bank) {
      this.words.textContent = `The click is ${own.file}.`;
    } else if (!own && this.shown) {
      this.words.textContent = "";
    }
    this.shown = own?.bank;
  }

  async #take() {
    const files = ["click-downbeat", "click-beat"].map((id) => field(id).files[0]);
    if (files.some((file) => !file)) {
      this.words.textContent = "Choose two WAV files: one for the downbeat, one for the beat.";
      return;
    }
    try {
      const [downbeat, beat] = await Promise.all(files.map((file) => strokeOf(file)));
      const decoder = await Decoder.begin();
      const { made } = await decoder.makeKit([
        [DOWNBEAT, downbeat, RATE],
        [BEAT, beat, RATE],
      ]);
      decoder.end();
      const name = `${files[0].name.replace(/\.\w+$/, "").slice(0, 50)} click`;
      const { bank, why } = await bringBank(new File([made], name));
      if (!bank) {
        throw new Error(why);
      }
      const own = { bank: bank.bank, file: bank.file, number: 0, name: "Click" };
      this.stage.connection.do({ do: "setClick", own });
    } catch (fault) {
      this.words.textContent = fault.message;
    }
  }
}

/** @param {File} file @returns {Promise<Float32Array>} its samples, both sides together, at 48 kHz */
async function strokeOf(file) {
  const context = new OfflineAudioContext(1, 1, RATE);
  const buffer = await context.decodeAudioData(await file.arrayBuffer()).catch(() => {
    throw new Error(`${file.name} cannot be read as a sound: choose a WAV file.`);
  });
  if (buffer.duration > LONGEST) {
    throw new Error(
      `${file.name} lasts ${Math.round(buffer.duration)} s: a click is ${LONGEST} s long at most.`,
    );
  }
  if (buffer.numberOfChannels > MOST_CHANNELS) {
    throw new Error(`${file.name} has ${buffer.numberOfChannels} channels: a click has one or two.`);
  }
  const sides = Array.from({ length: buffer.numberOfChannels }, (_, i) => buffer.getChannelData(i));
  return sides[0].map((_, i) => sides.reduce((sum, side) => sum + side[i], 0) / sides.length);
}
