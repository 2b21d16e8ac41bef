/** The one line in which the page speaks, and the lamps, which speak when something is wrong. */

const SHOWN_FOR = 9_000;

/** What went wrong can be read before something else is said: so long for each word, and at least so long, in ms. */
const WORD_READ_IN = 250;
const LEAST_READ_IN = 4_000;

const readIn = (sentence) => Math.max(LEAST_READ_IN, sentence.split(/\s+/).length * WORD_READ_IN);

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
    this.badUntil = bad ? performance.now() + readIn(sentence) : 0;
    this.#show(sentence, bad, Math.max(SHOWN_FOR, readIn(sentence)));
  }

  /**
   * Says what a second press does, for as long as it would: at once, since it is an answer to a hand.
   *
   * @param {string} sentence
   * @param {number} millis how long it holds
   */
  ask(sentence, millis) {
    clearTimeout(this.next);
    this.badUntil = 0;
    this.#show(sentence, false, Math.max(0, millis));
  }

  #show(sentence, bad, millis) {
    clearTimeout(this.timer);
    this.line.textContent = sentence;
    this.line.title = sentence;
    this.line.classList.toggle("bad", bad);
    this.timer = setTimeout(() => this.quiet(), millis);
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
