/**
 * A loop of what is rendered: exactly so many frames, on whose beginning lies what rings over its end, as it does when
 * the loop goes round.
 */
export class Loop {
  /**
   * @param {number} skipped frames before it, a pickup
   * @param {number} frames how long it is
   */
  constructor(skipped, frames) {
    this.at = -skipped;
    this.left = new Float32Array(frames);
    this.right = new Float32Array(frames);
  }

  /**
   * @param {Float32Array} left the next frames
   * @param {Float32Array} right
   */
  take(left, right) {
    for (let i = 0; i < left.length; i++, this.at++) {
      if (this.at >= 0) {
        const place = this.at % this.left.length;
        this.left[place] += left[i];
        this.right[place] += right[i];
      }
    }
  }
}
