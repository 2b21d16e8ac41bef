/**
 * What is done to the notes of one clip, told to the engine: which decides what becomes of them.
 *
 * Event: "asked" (detail: words), what an edit will do.
 */
export class Edits extends EventTarget {
  /**
   * @param {import("../house/connection.js").Connection} connection
   */
  constructor(connection) {
    super();
    this.connection = connection;
    this.part = 0;
    this.clip = 0;
    connection.addEventListener("forecast", ({ detail: { of, words } }) => {
      if (of.clip === this.clip) {
        this.dispatchEvent(new CustomEvent("asked", { detail: words }));
      }
    });
  }

  /** @param {Record<string, any>[]} edits as `docs/protocol.md` has them */
  make(...edits) {
    this.connection.do(this.#command(edits));
  }

  /** Asks what edits would do. */
  ask(...edits) {
    this.connection.ask({ forecast: this.#command(edits) });
  }

  #command(edits) {
    return { do: "editNotes", part: this.part, clip: this.clip, takes: "heard", edits };
  }

  /** @param {Record<string, any>} command of this clip */
  do(command) {
    this.connection.do({ part: this.part, clip: this.clip, ...command });
  }
}
