import { openDrawer } from "../stage/dialogs.js";
import { downloadZip } from "client-zip";
import { Rendering } from "./rendering.js";
import { WavFile } from "./wav-file.js";
import { Loop } from "./loop.js";
import { Loudness } from "../player/loudness.js";
import { TruePeak } from "../player/true-peak.js";
import { drawer, field } from "../stage/fields.js";

/** As loud as a file can hold: peaks at −1 dB (EBU R 128 has that for what is delivered). */
const PEAK = 10 ** (-1 / 20);

/** The sheet on which something is made into sound files: how, how far it is, and a way to stop. */
export class SoundSheet {
  constructor() {
    this.dialog = drawer("sound-file");
    this.words = document.getElementById("sound-file-words");
    this.bar = /** @type {HTMLProgressElement} */ (document.getElementById("sound-file-done"));
    this.go = document.getElementById("sound-file-go");
    this.go.addEventListener("click", () => (this.rendering ? this.stop() : this.#make()));
    this.dialog.addEventListener("close", () => this.stop());
    addEventListener("beforeunload", (event) => this.rendering && event.preventDefault());
  }

  /**
   * @param {string} address where the host says what sounds
   * @param {string} what it is, in words
   */
  open(address, what) {
    this.address = address;
    document.getElementById("sound-file-title").textContent = `${what} as sound`;
    // only a clip goes round
    document.getElementById("sound-file-loop-choice").hidden = !address.includes("/clips/");
    field("sound-file-loop").checked = false;
    this.#show("");
    openDrawer(this.dialog);
  }

  /**
   * Ends what is being made.
   *
   * @param {string} [why] in a sentence
   */
  stop(why = "Stopped: nothing was made.") {
    if (this.rendering) {
      this.rendering.stop();
      this.rendering = null;
      this.#show(why);
    }
  }

  async #make() {
    const chosen = (name) => this.dialog.querySelector(`input[name="${name}"]:checked`).value;
    const rate = Number(chosen("sound-file-rate"));
    const bits = chosen("sound-file-bits") === "24" ? 24 : 16;
    try {
      const score = await scoreOf(this.address);
      const each = chosen("sound-file-each") === "each";
      const gain = field("sound-file-loud").checked ? await this.#loudest(score, rate) : 1;
      const files = gain && (await this.#files(score, rate, bits, each, gain));
      if (files) {
        await save(safe(score.title), files);
        this.rendering = null;
        this.#show(made(files[0], this.loudness.integrated()));
      }
    } catch (fault) {
      this.rendering = null;
      this.#show(fault.message);
    }
  }

  /** @returns {Promise<WavFile[] | null>} what is made; null if it was stopped */
  async #files(score, rate, bits, each, gain) {
    const rendering = new Rendering(score, rate, each, gain);
    const files = rendering.names.map(
      (name, i) => new WavFile(`${safe(score.title)} - ${i ? `${i} ${safe(name)}` : name}`, rate, bits),
    );
    const loops = field("sound-file-loop").checked ? files.map(() => loopOf(score, rate)) : [];
    this.loudness = new Loudness(rate, true);
    const take = (input, left, right) => {
      files[input].take(left, right);
      if (input === 0) {
        this.loudness.take(left, right);
      }
    };
    const whole = await this.#run(rendering, "making it …", (input, left, right) =>
      loops[input] ? loops[input].take(left, right) : take(input, left, right),
    );
    loops.forEach(({ left, right }, i) => take(i, left, right));
    return whole ? files : null;
  }

  /** It is rendered to be measured. @returns {Promise<number>} the gain by which it peaks at −1 dB; 0 if it was stopped */
  async #loudest(score, rate) {
    const sides = [new TruePeak(), new TruePeak()];
    const loop = field("sound-file-loop").checked ? loopOf(score, rate) : null;
    const take = (left, right) => [left, right].forEach((side, i) => sides[i].take(side));
    const whole = await this.#run(new Rendering(score, rate, false), "measuring it …", (_, left, right) =>
      loop ? loop.take(left, right) : take(left, right),
    );
    if (loop) {
      take(loop.left, loop.right);
    }
    const peak = Math.max(...sides.map((side) => side.peak));
    return whole ? PEAK / (peak || PEAK) : 0;
  }

  /** @returns {Promise<boolean>} whether it came to its end, and nobody stopped it */
  async #run(rendering, words, take) {
    this.rendering = rendering;
    this.#show(words);
    const began = performance.now();
    const whole = await rendering.run(
      take,
      (done) => this.rendering === rendering && this.#tell(done, began),
    );
    return whole && this.rendering === rendering;
  }

  #show(words) {
    this.words.textContent = words;
    this.bar.hidden = !this.rendering;
    this.bar.value = 0;
    this.go.textContent = this.rendering ? "Stop" : "Make it";
    for (const input of this.dialog.querySelectorAll("input")) {
      input.disabled = Boolean(this.rendering);
    }
  }

  #tell(done, began) {
    this.bar.value = done;
    const left = Math.ceil((((performance.now() - began) / 1000) * (1 - done)) / done);
    this.words.textContent = `${Math.round(done * 100)} %, ${left} s to go`;
  }
}

/** What goes round of a clip, as the host says. */
function loopOf({ loop }, rate) {
  return new Loop(Math.round((loop.from * rate) / 1e6), Math.round((loop.micros * rate) / 1e6));
}

/** What is to be rendered; a refusal is a fault with the host's sentence. */
async function scoreOf(address) {
  const answer = await fetch(address, { headers: { accept: "application/json" } }).catch(() => {
    throw new Error("There is no answer: look whether Ancora runs, then try again.");
  });
  const said = await answer.json();
  if (!answer.ok) {
    throw new Error(said.why ?? "That cannot be made: reload the page.");
  }
  return said;
}

/** What is in a ZIP has no time of its own: it is the same file each time. */
const ALWAYS = new Date(1980, 0, 1);

/** One file as it is, several in one ZIP. */
async function save(title, files) {
  const [mix, ...others] = files;
  const several = others.length > 0;
  const blob = several
    ? await downloadZip(files.map((file) => ({ input: file.file(), lastModified: ALWAYS }))).blob()
    : mix.file();
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = `${title}.${several ? "zip" : "wav"}`;
  link.click();
  // the browser has begun to copy it by then
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

function made({ peak, frames, rate }, loudness) {
  const level = tenth(20 * Math.log10(peak));
  const loud = Number.isFinite(loudness) ? `, ${tenth(loudness)} LUFS` : "";
  const long = `${Math.round(frames / rate)} s`;
  if (peak === 0) {
    return `Made: ${long}, in which nothing sounds.`;
  }
  return peak > 1
    ? `Made: ${long}. Its peaks are ${level} dB over what a file can hold, and cut off: lower the master.`
    : `Made: ${long}, its highest peak at ${level} dB${loud}.`;
}

function tenth(decibels) {
  return decibels.toFixed(1).replace("-", "−");
}

/** A name that every system takes for a file. */
function safe(name) {
  return name.replace(/[\\/:*?"<>|\u0000-\u001f]/g, " ").trim() || "Ancora";
}
