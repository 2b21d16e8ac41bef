/** What a part's second sound plays of what the part does: some of its keys, higher or lower. */
export class Second {
  constructor() {
    /** @type {Map<number, number>} the pitch that each key sounds that is down, as it was when it went down */
    this.down = new Map();
    this.gain = 1;
  }

  /** @param {{gain?: number, transpose: number, lowest: number, highest: number}} how its gain, as the engine says; 1 before it has */
  set({ gain = 1, transpose, lowest, highest }) {
    this.transpose = transpose;
    this.lowest = lowest;
    this.highest = highest;
    this.gain = gain;
  }

  /**
   * @param {import("./instrument.js").Cut[]} cuts what the part does in a block
   * @returns {import("./instrument.js").Cut[]} what the second sound does
   */
  cuts(cuts) {
    return cuts.flatMap(({ offset, action }) => {
      const own = this.#own(action);
      return own ? [{ offset, action: own }] : [];
    });
  }

  #own(action) {
    const { kind, pitch } = action;
    if (kind === "on") {
      const higher = pitch + this.transpose;
      if (pitch < this.lowest || pitch > this.highest || higher < 0 || higher > 127) {
        return null;
      }
      this.down.set(pitch, higher);
      return { ...action, pitch: higher };
    }
    if (kind === "off") {
      const higher = this.down.get(pitch);
      this.down.delete(pitch);
      return higher === undefined ? null : { ...action, pitch: higher };
    }
    return action;
  }
}
