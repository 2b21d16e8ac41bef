import { Rendering } from "./rendering.js";

/** The first of it is rendered while this passes, in seconds. */
const AHEAD = 0.2;

/**
 * Something that is heard before it is taken: it is rendered as for a sound file, and sounds as it comes, beside what
 * else the page sounds.
 */
export class Hearing {
  /** @param {() => void} over is told when it has sounded, or was ended */
  constructor(over) {
    this.over = over;
    this.isOver = false;
  }

  /**
   * @param {import("./rendering.js").Score} score
   * @returns {Promise<void>} all of it has been rendered; a fault if it cannot be
   */
  async begin(score) {
    const context = (this.context = new AudioContext());
    const rendering = (this.rendering = new Rendering(score, context.sampleRate, false));
    /** @type {AudioBufferSourceNode | undefined} */
    let last;
    let at = context.currentTime + AHEAD;
    const take = (_, left, right) => {
      const buffer = context.createBuffer(2, left.length, context.sampleRate);
      buffer.copyToChannel(left, 0);
      buffer.copyToChannel(right, 1);
      last = context.createBufferSource();
      last.buffer = buffer;
      last.connect(context.destination);
      // where rendering is slower than what sounds there are gaps, and nothing sounds over another
      at = Math.max(at, context.currentTime);
      last.start(at);
      at += buffer.duration;
    };
    await context.resume();
    if (!this.isOver && (await rendering.run(take, () => {}))) {
      last.onended = () => this.end();
    }
  }

  /** It falls silent. */
  end() {
    if (!this.isOver) {
      this.isOver = true;
      this.rendering?.stop();
      this.context?.close();
      this.over();
    }
  }
}
