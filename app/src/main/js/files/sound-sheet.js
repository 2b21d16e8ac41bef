import { openDrawer } from "../stage/dialogs.js";
import { downloadZip } from "client-zip";
import { Rendering } from "./rendering.js";
import { WavFile } from "./wav-file.js";
import { drawer } from "../stage/fields.js";

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
      const rendering = new Rendering(score, rate, chosen("sound-file-each") === "each");
      this.rendering = rendering;
      this.#show("making it …");
      const files = rendering.names.map(
        (name, i) => new WavFile(i ? `${i} ${safe(name)}` : name, rate, bits),
      );
      const began = performance.now();
      const whole = await rendering.run(
        (input, left, right) => files[input].take(left, right),
        (done) => this.rendering === rendering && this.#tell(done, began),
      );
      if (whole && this.rendering === rendering) {
        await save(safe(score.title), files);
        this.rendering = null;
        this.#show(made(files[0]));
      }
    } catch (fault) {
      this.rendering = null;
      this.#show(fault.message);
    }
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

/** One file as it is, several in one ZIP. */
async function save(title, files) {
  const [mix, ...others] = files;
  const several = others.length > 0;
  const blob = several ? await downloadZip(files.map((file) => file.file())).blob() : mix.file();
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = `${title}.${several ? "zip" : "wav"}`;
  link.click();
  // the browser has begun to copy it by then
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

function made({ peak, frames, rate }) {
  const level = (20 * Math.log10(peak)).toFixed(1).replace("-", "−");
  const long = `${Math.round(frames / rate)} s`;
  if (peak === 0) {
    return `Made: ${long}, in which nothing sounds.`;
  }
  return peak > 1
    ? `Made: ${long}. Its peaks are ${level} dB over what a file can hold, and cut off: lower the master.`
    : `Made: ${long}, its highest peak at ${level} dB.`;
}

/** A name that every system takes for a file. */
function safe(name) {
  return name.replace(/[\\/:*?"<>|\u0000-\u001f]/g, " ").trim() || "Ancora";
}
