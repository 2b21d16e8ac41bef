import { openDrawer } from "./dialogs.js";
import { drawer } from "./fields.js";

/**
 * A drawer over the Stage, with all that can be done to one thing: opened on it, kept true while it is open,
 * and closed when it has gone. Each kind says what the thing is, and how the drawer is filled.
 */
export class Drawer {
  /**
   * @param {Record<string, any>} stage
   * @param {string} id the element's
   */
  constructor(stage, id) {
    this.stage = stage;
    this.dialog = drawer(id);
  }

  /** @returns {Record<string, any> | undefined} what the drawer is about, as it is now */
  get thing() {
    throw new Error("each kind of drawer says what it is about");
  }

  /**
   * Shows the thing; called with one that is there.
   *
   * @param {any} thing
   */
  fill(thing) {
    throw new Error(`each kind of drawer shows what it is about: ${thing.id}`);
  }

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
