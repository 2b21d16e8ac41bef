/**
 * Entry by steps: at standstill each key, or chord, goes to the next line of the grid. Keys that are down together
 * are one chord; when the last is up, the cursor moves on.
 */
export class Steps {
  constructor(workshop) {
    this.workshop = workshop;
    this.isOn = false;
    /** @type {Set<number>} keys that are down */
    this.down = new Set();
    workshop.stage.hub.addEventListener("played", ({ detail }) => this.#played(detail));
  }

  #played({ pitch, velocity }) {
    const { workshop } = this;
    const { state } = workshop.stage;
    if (!this.isOn || !workshop.isOpen || state.transport.rolling) {
      this.down.clear();
      return;
    }
    if (velocity > 0) {
      this.down.add(pitch);
      const transpose = state.hears.find(({ part }) => part === workshop.part)?.transpose ?? 0;
      workshop.cursor ??= { tick: workshop.thing.start, pitch: pitch + transpose };
      workshop.drawNote(pitch + transpose, workshop.cursor.tick, workshop.step, velocity, false);
    } else if (this.down.delete(pitch) && this.down.size === 0 && workshop.cursor) {
      const { tick, pitch: row } = workshop.cursor;
      workshop.cursor = { tick: workshop.round(workshop.thing.start, tick + workshop.step), pitch: row };
      workshop.changed();
    }
  }
}
