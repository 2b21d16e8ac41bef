import { openDrawer } from "./dialogs.js";

/**
 * A drawer over the Stage, with all that can be done to one thing: opened on it, kept true while it is open,
 * and closed when it has gone. Each kind says what the thing is, and how the drawer is filled.
 */
export class Drawer {
  /**
   * @param {object} stage
   * @param {string} id the element's
   */
  constructor(stage, id) {
    this.stage = stage;
    this.dialog = document.getElementById(id);
  }

  /** @returns {object | undefined} what the drawer is about, as it is now */
  get thing() {
    throw new Error("each kind of drawer says what it is about");
  }

  /** Shows the thing; called with one that is there. */
  fill() {}

  show() {
    this.#fillOrClose();
    if (this.thing && !this.dialog.open) {
      openDrawer(this.dialog);
    }
  }

  close() {
    this.dialog.close();
  }

  draw() {
    if (this.dialog.open) {
      this.#fillOrClose();
    }
  }

  #fillOrClose() {
    if (this.thing) {
      this.fill(this.thing);
    } else {
      this.close();
    }
  }
}
