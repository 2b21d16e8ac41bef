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

  /**
   * Asks what edits would do.
   *
   * @param {Record<string, any>[]} edits
   */
  ask(...edits) {
    this.connection.ask({ forecast: this.#command(edits) });
  }

  /**
   * @param {Record<string, any>} edit of all notes
   * @param {{clips?: number[], takes?: "heard" | "all"}} reach other clips too, or all takes
   * @param {boolean} asks whether it is only asked what it would do
   */
  makeIn(edit, reach, asks) {
    const command = {
      ...this.#command([edit]),
      clip: reach.clips ?? this.clip,
      takes: reach.takes ?? "heard",
    };
    if (asks) {
      this.connection.ask({ forecast: command });
    } else {
      this.connection.do(command);
    }
  }

  #command(edits) {
    return { do: "editNotes", part: this.part, clip: this.clip, takes: "heard", edits };
  }

  /** @param {Record<string, any>} command of this clip */
  do(command) {
    this.connection.do({ part: this.part, clip: this.clip, ...command });
  }
}
