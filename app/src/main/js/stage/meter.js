/**
 * How loud something is, in decibels below all that an output can give: a bar that is up at once and falls slowly, and
 * a stroke that stays at the highest for a while. As IEC 60268-18 has peak meters fall (20 dB in 1.7 s, from memory).
 */

const SOFTEST = -60;
const FALLS = 20 / 1700;
const HOLDS = 1500;

/** Above this an output has no room left: where peaks are held, in dB. */
const FULL = -0.95;

export class Meter {
  /**
   * @param {string} of what it measures
   * @param {boolean} [inWords] whether the highest is said in numbers too
   */
  constructor(of, inWords = false) {
    this.element = document.createElement("div");
    this.element.className = "metered";
    this.bar = document.createElement("div");
    this.bar.className = "meter";
    this.bar.role = "img";
    this.bar.ariaLabel = `level of ${of}`;
    this.now = document.createElement("i");
    this.held = document.createElement("b");
    this.bar.append(this.now, this.held);
    this.element.append(this.bar);
    this.words = inWords ? document.createElement("output") : null;
    if (this.words) {
      this.words.ariaLive = "off";
      this.element.append(this.words);
    }
    this.level = SOFTEST;
    this.highest = SOFTEST;
    this.since = 0;
    this.at = 0;
  }

  /**
   * @param {number} peak the highest since the last, 1 being all that an output can give
   * @param {number} now in ms
   */
  take(peak, now) {
    const level = Math.max(SOFTEST, 20 * Math.log10(peak));
    this.level = Math.max(level, this.level - (now - this.at) * FALLS);
    if (level >= this.highest || now - this.since > HOLDS) {
      this.highest = this.level;
      this.since = level >= this.level ? now : this.since;
    }
    this.at = now;
    this.#draw();
  }

  #draw() {
    this.now.style.transform = `scaleX(${place(this.level).toFixed(3)})`;
    this.held.style.transform = `translateX(${(place(this.highest) * 100).toFixed(1)}%)`;
    this.bar.classList.toggle("over", this.highest > FULL);
    const words = inDecibels(this.highest);
    if (this.words && this.words.textContent !== words) {
      this.words.textContent = words;
    }
  }
}

function place(decibels) {
  return Math.min(1, 1 - decibels / SOFTEST);
}

/**
 * @param {number} level in dB
 * @returns {string} to a tenth; nothing where it is silent
 */
export function inDecibels(level) {
  return level <= SOFTEST ? "" : `${level.toFixed(1).replace("-", "−")} dB`;
}
