/** The one line in which the page speaks, and the lamps, which speak when something is wrong. */

const SHOWN_FOR = 9_000;

/** What went wrong can be read for so long before something else is said, in ms. */
const READ_IN = 3_000;

export class Words {
  constructor() {
    this.line = document.getElementById("word");
    this.timer = 0;
    /** until when what went wrong is not covered, and what is to be said then */
    this.badUntil = 0;
    this.next = 0;
  }

  /**
   * @param {string} sentence
   * @param {boolean} [bad] whether something went wrong
   */
  say(sentence, bad = false) {
    clearTimeout(this.next);
    const wait = bad ? 0 : this.badUntil - performance.now();
    if (wait > 0) {
      this.next = setTimeout(() => this.say(sentence), wait);
      return;
    }
    this.badUntil = bad ? performance.now() + READ_IN : 0;
    clearTimeout(this.timer);
    this.line.textContent = sentence;
    this.line.title = sentence;
    this.line.classList.toggle("bad", bad);
    this.timer = setTimeout(() => (this.line.textContent = ""), SHOWN_FOR);
  }

  /** What is said is said no more. */
  quiet() {
    clearTimeout(this.next);
    clearTimeout(this.timer);
    this.badUntil = 0;
    this.line.textContent = "";
  }

  /** Says something that can wait for what is being said, and is else left out. */
  sayIfQuiet(sentence) {
    if (!this.line.textContent) {
      this.say(sentence);
    }
  }

  /**
   * @param {string} id the lamp
   * @param {string} wrong what is wrong; empty if nothing is
   */
  lamp(id, wrong) {
    const lamp = document.getElementById(id);
    lamp.textContent = wrong;
    lamp.classList.toggle("bad", Boolean(wrong));
  }
}
