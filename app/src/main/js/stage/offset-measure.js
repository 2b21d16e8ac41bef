/** Taps with the click tell how late what is played arrives: the engine reckons, and the performer accepts. */
export class OffsetMeasure {
  constructor(stage) {
    this.stage = stage;
    this.words = document.getElementById("measure-words");
    this.take = document.getElementById("measure-take");
    this.take.addEventListener("click", () => this.#accept());
    document.getElementById("setup-dialog").addEventListener("close", () => (this.since = null));
    stage.hub.addEventListener("played", ({ detail }) => detail.velocity && this.#ask());
    stage.connection.addEventListener("measured", ({ detail }) => this.#tell(detail));
  }

  /** @param {number} part the part that is tapped on */
  begin(part) {
    const { connection, state, clock } = this.stage;
    this.part = part;
    connection.do({ do: "arm", part });
    if (!state.transport.rolling) {
      connection.do({ do: "start" });
    }
    if (!state.show.click.on) {
      connection.do({ do: "setClick", on: true });
    }
    this.since = clock.now();
    this.take.hidden = true;
    this.words.textContent = `${state.parts.get(part).name}: tap with the click …`;
  }

  #ask() {
    if (this.since) {
      this.stage.connection.ask({ measure: this.since });
    }
  }

  #tell({ taps, offset, spread, clear }) {
    if (!this.since) {
      return;
    }
    if (offset === undefined) {
      this.words.textContent = `${taps} of 16 taps`;
    } else if (clear) {
      this.offset = offset;
      this.words.textContent = `${offset} ms late, give or take ${Math.ceil(spread / 2)} ms.`;
      this.take.hidden = false;
    } else {
      this.words.textContent = `The taps lie ${spread} ms apart: that tells nothing. Try again.`;
      this.since = null;
    }
  }

  #accept() {
    const part = this.stage.state.parts.get(this.part);
    this.stage.connection.do({ do: "setPartInput", part: part.id, offset: this.offset });
    this.take.hidden = true;
    this.since = null;
    this.words.textContent = `What is played on ${part.name} is placed ${this.offset} ms earlier.`;
  }
}
