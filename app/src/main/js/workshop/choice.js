/** Which notes are chosen, by their ids; what an edit adds is chosen when it comes. */
export class Choice {
  constructor() {
    /** @type {Set<number>} */
    this.ids = new Set();
    /** @type {Set<number> | null} the notes that there were when some were asked for */
    this.before = null;
  }

  get isEmpty() {
    return this.ids.size === 0;
  }

  /** @returns {number[]} */
  get list() {
    return [...this.ids];
  }

  /** Chooses some notes, and others as well if they are added to them; one alone is let go of again. */
  choose(notes, add = false) {
    const ids = notes.map(([id]) => id);
    if (!add) {
      this.ids = new Set(ids);
    } else if (ids.length === 1 && this.ids.has(ids[0])) {
      this.ids.delete(ids[0]);
    } else {
      ids.forEach((id) => this.ids.add(id));
    }
  }

  /** What comes next is chosen in place of what is. */
  expect(notes) {
    this.before = new Set(notes.map(([id]) => id));
  }

  /** Forgets notes that have gone, and chooses those that were waited for. */
  follow(notes) {
    const there = new Set(notes.map(([id]) => id));
    if (this.before) {
      const came = [...there].filter((id) => !this.before.has(id));
      if (came.length) {
        this.ids = new Set(came);
        this.before = null;
      }
    }
    for (const id of this.ids) {
      if (!there.has(id)) {
        this.ids.delete(id);
      }
    }
  }
}
